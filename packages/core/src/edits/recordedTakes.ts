import { generateKeyBetween } from 'fractional-indexing'
import { ok, refuse, type Result } from '../errors.js'
import { chain, type Change } from '../reel/change.js'
import { shortlistOf, type ReelDocument } from '../reel/document.js'
import { cueCode } from '../reel/numbering.js'
import type { Candidate, Clip } from '../reel/records.js'
import { prepareSound, UNPREPARED } from '../sounds/prepared.js'
import { scratchOf } from '../voices/layScratch.js'
import { deleteRecords } from './deleteRecords.js'
import { clipAtSample, layClip, placeSound } from './placeSound.js'
import { shortlistSound } from './shortlist.js'
import { swapClips } from './swapClips.js'

/** The takes that were recorded for a cue, in the order of their numbers. They stand on its shortlist. */
export const takesOf = (doc: Pick<ReelDocument, 'candidate'>, cueId: string): Candidate[] =>
  shortlistOf(doc, cueId)
    .filter(({ take }) => take > 0)
    .sort((a, b) => a.take - b.take)

/** The number that the next take of a cue has. */
export const nextTake = (doc: Pick<ReelDocument, 'candidate'>, cueId: string): number =>
  (takesOf(doc, cueId).at(-1)?.take ?? 0) + 1

/** The placed sound that is a take of a cue, or null. */
export function laidTake(doc: Pick<ReelDocument, 'candidate' | 'clip'>, cueId: string): Clip | null {
  const takes = new Set(takesOf(doc, cueId).map(({ soundId }) => soundId))
  return [...doc.clip.values()].find((clip) => clip.cueId === cueId && takes.has(clip.soundId)) ?? null
}

/** A recording that a take has become; lengths in samples. */
export interface TakenSound {
  readonly id: string
  readonly name: string
  readonly length: number
}
type Part = { readonly in: number; readonly out: number; readonly sync: number }

/** Puts a take last on the shortlist of its cue. @param args.part - What of it is wanted, samples of the file; see partOfTake */
export function addTake(
  doc: ReelDocument,
  args: { id: string; cueId: string; take: number; sound: TakenSound; part: Part },
): Result<Change> {
  const { take, sound } = args
  const made = shortlistSound(doc, args)
  if (!made.ok) return made
  const cue = doc.cue.get(args.cueId)
  const label = `Record ${cue ? cueCode(cue) : sound.name}, take ${take}`
  return ok({ ...made.value, label })
}

/**
 * Makes a take the best of its cue: it goes first on the shortlist, and is laid where it was performed; where another take of the
 * cue is laid it takes its place, with its level, fades and mute.
 *
 * @param args.sound - The recording of the take
 * @param args.newId - Ids for the clip and the track, should they have to be made
 */
export function keepTakeOf(
  doc: ReelDocument,
  args: { id: string; sound: TakenSound; newId: string; newTrackId: string },
): Result<Change> {
  const take = doc.candidate.get(args.id)
  const cue = take && doc.cue.get(take.cueId)
  if (!take || !cue) return refuse('CORE_RECORD_MISSING', 'take', args.id)
  const first = shortlistOf(doc, cue.id).find(({ id }) => id !== take.id)
  const order = first && first.order < take.order ? generateKeyBetween(null, first.order) : take.order
  const label = `Keep ${take.name}`
  const ranked: Change = {
    ...{ label, added: [], removed: [] },
    updated: order === take.order ? [] : [[take, { ...take, order }]],
  }
  const { in: from, out, sync } = take
  const sound = prepareSound({ ...args.sound, sync: 0 }, { ...UNPREPARED, in: from, out, sync })
  const laid = laidTake(doc, cue.id)
  const scratch = scratchOf(doc, cue.id)
  // What a machine said for the actor has done its service.
  const clear = (now: ReelDocument): Result<Change> =>
    !scratch || scratch.locked
      ? ok({ label, added: [], updated: [], removed: [] })
      : deleteRecords(now, { ids: [scratch.id] })
  const lay = (now: ReelDocument): Result<Change> => {
    if (laid?.soundId === take.soundId) return ok({ label, added: [], updated: [], removed: [] })
    if (laid) return swapClips(now, { swaps: [{ id: laid.id, sound }] })
    const { newId: id, newTrackId } = args
    const { category } = cue
    return placeSound(now, { id, newTrackId, category, cueId: cue.id, frame: cue.sync, sound })
  }
  return chain(doc, label, [() => ok(ranked), clear, lay])
}

/**
 * Lays a take that was recorded at the gate where it was performed, on a track for what is recorded.
 *
 * @param args.at - Sample of the reel that the part's sync meets
 */
export function layTakeAtGate(
  doc: ReelDocument,
  args: { id: string; newTrackId: string; at: number; sound: TakenSound; part: Part },
): Result<Change> {
  const sound = prepareSound({ ...args.sound, sync: 0 }, { ...UNPREPARED, ...args.part })
  const clip = clipAtSample({ id: args.id, trackId: '', cueId: null, at: args.at, sound })
  return layClip(doc, clip, { ...args, category: 'FX', label: `Record ${args.sound.name}` })
}

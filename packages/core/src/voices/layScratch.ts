import type { ScratchLine } from '../contract/voices.js'
import { addTrack, clipAtFrame } from '../edits/placeSound.js'
import { swapClips } from '../edits/swapClips.js'
import { refuse, ok, type Result } from '../errors.js'
import { chain, squash, type Change } from '../reel/change.js'
import { tracksInOrder, type ReelDocument } from '../reel/document.js'
import { checkClip, findCollision } from '../reel/invariants.js'
import type { Clip, Cue } from '../reel/records.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import { framesToSeconds } from '../time/convert.js'
import type { FrameRate } from '../time/rates.js'
import { scratchIn, scratchText } from './scratch.js'
import { spokenWords } from './speech.js'

/** What tracks of scratch voices are called; turnover takes them for temporary by that. */
const TRACK = 'Scratch voice'

/** A recording of a line, and the cue that it is for. */
export interface MadeLine {
  readonly cueId: string
  readonly line: ScratchLine
  /** The words that it says; the cue's may have changed while it was made. */
  readonly said: string
  readonly sound: SoundToPlace
  /** Ids for the clip and for the track, should they have to be made. */
  readonly id: string
  readonly newTrackId: string
}

/** The scratch voice of a cue, or null. */
export const scratchOf = ({ clip }: Pick<ReelDocument, 'clip'>, cueId: string): Clip | null =>
  [...clip.values()].find((one) => one.cueId === cueId && one.scratch !== '') ?? null

/** What a line says for a cue: its own text, or else what is said in the cue's words; '' where that is nothing. */
export const textOfLine = (line: Pick<ScratchLine, 'text'>, cue: Pick<Cue, 'words'>): string =>
  line.text.trim() || spokenWords(cue.words)

/** Says whether a placed scratch voice says something else than its line now would: its cue's words have changed. */
export function isStale(clip: Clip, cue: Cue): boolean {
  const scratch = scratchIn(clip)
  return scratch !== null && scratch.said !== textOfLine(scratch, cue)
}

/** Seconds that a line may take where it is to be as long as its cue: from the cue's sync to its out. */
export const secondsOfLine = (cue: Pick<Cue, 'sync' | 'in' | 'out'>, rate: FrameRate): number =>
  framesToSeconds(cue.out - (cue.sync < cue.out ? cue.sync : cue.in), rate)

/**
 * Lays recordings of lines at the syncs of their cues, on a track of scratch voices; where a cue has a scratch voice already,
 * the new one takes its place, wherever that was moved to, with its level, fades and mute.
 */
export function layScratch(doc: ReelDocument, { lines }: { lines: readonly MadeLine[] }): Result<Change> {
  const [only] = lines
  if (!only) return refuse('CORE_NOTHING_DONE', 'scratch voice', 'there is no line')
  const label = lines.length === 1 ? `Lay ${only.sound.name}` : `Lay ${lines.length} scratch voices`
  return chain(
    doc,
    label,
    lines.map((made) => (now: ReelDocument) => layOne(now, made, label)),
  )
}

function layOne(
  doc: ReelDocument,
  { cueId, line, said, sound, id, newTrackId }: MadeLine,
  label: string,
): Result<Change> {
  const cue = doc.cue.get(cueId)
  if (!cue) return refuse('CORE_RECORD_MISSING', 'scratch voice', cueId)
  const spoken = { ...sound, scratch: scratchText({ ...line, said }) }
  const before = scratchOf(doc, cueId)
  if (before) return swapClips(doc, { swaps: [{ id: before.id, sound: spoken }] })
  const clip = clipAtFrame(doc, { id, trackId: '', cueId, frame: cue.sync, sound: spoken })
  const alone = checkClip(clip)
  if (alone) return alone
  const tracks = tracksInOrder(doc).filter(
    ({ category, name }) => category === cue.category && name.startsWith(TRACK),
  )
  const free = tracks.find((track) => !findCollision(doc, { ...clip, trackId: track.id }))
  const added = { label, added: [{ ...clip, trackId: free?.id ?? newTrackId }], updated: [], removed: [] }
  if (free) return ok(added)
  const name = tracks.length === 0 ? TRACK : `${TRACK} ${tracks.length + 1}`
  const track = addTrack(doc, { id: newTrackId, category: cue.category, name })
  return track.ok ? ok(squash(track.value, added)) : track
}

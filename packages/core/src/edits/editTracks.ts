import { generateKeyBetween } from 'fractional-indexing'
import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { tracksInOrder, type ReelDocument } from '../reel/document.js'
import type { Track } from '../reel/records.js'
import { deleteRecords } from './deleteRecords.js'

/** Moves a track so that it stands before another one; null puts it last. */
export function moveTrack(doc: ReelDocument, args: { id: string; before: string | null }): Result<Change> {
  const track = doc.track.get(args.id)
  if (!track) return refuse('CORE_NO_TRACK', 'moveTrack', args.id)
  if (args.before === args.id)
    return ok({ label: `Move track ${track.name}`, added: [], updated: [], removed: [] })
  const others = tracksInOrder(doc).filter((other) => other.id !== args.id)
  const at = args.before === null ? others.length : others.findIndex((other) => other.id === args.before)
  if (at < 0) return refuse('CORE_NO_TRACK', 'moveTrack', args.before ?? '')
  const order = generateKeyBetween(others[at - 1]?.order ?? null, others[at]?.order ?? null)
  return ok({
    label: `Move track ${track.name}`,
    added: [],
    updated: order === track.order ? [] : [[track, { ...track, order }]],
    removed: [],
  })
}

/**
 * Fixes the columns in which the tracks are printed as they stand now, from left to right: what the mixer has learnt to find in a place
 * stays there, whatever is moved on the Sheet. Tracks that come later are printed behind.
 */
export function freezeColumns(doc: ReelDocument): Result<Change> {
  return setColumns(doc, 'Freeze the columns', (_, index) => index + 1)
}

/** Lets tracks be printed where they stand again. */
export function thawColumns(doc: ReelDocument): Result<Change> {
  return setColumns(doc, 'Free the columns', () => 0)
}

function setColumns(
  doc: ReelDocument,
  label: string,
  columnOf: (track: Track, index: number) => number,
): Result<Change> {
  const updated = tracksInOrder(doc).flatMap((from, index): [Track, Track][] => {
    const column = columnOf(from, index)
    return column === from.column ? [] : [[from, { ...from, column }]]
  })
  return ok({ label, added: [], updated, removed: [] })
}

/** Removes the tracks on which nothing lies. */
export function removeEmptyTracks(doc: ReelDocument): Result<Change> {
  const used = new Set([...doc.clip.values()].map((clip) => clip.trackId))
  const empty = [...doc.track.keys()].filter((id) => !used.has(id))
  if (empty.length === 0) return refuse('CORE_NO_TRACK', 'empty tracks', 'there are none')
  const removed = deleteRecords(doc, { ids: empty })
  return removed.ok
    ? ok({
        ...removed.value,
        label: `Remove ${empty.length} empty ${empty.length === 1 ? 'track' : 'tracks'}`,
      })
    : removed
}

/** Solos one track and ends every other solo; ends it where it stands alone already. */
export function soloOnly(doc: ReelDocument, args: { id: string }): Result<Change> {
  const track = doc.track.get(args.id)
  if (!track) return refuse('CORE_NO_TRACK', 'soloOnly', args.id)
  const alone = track.solo && [...doc.track.values()].every((other) => other.id === args.id || !other.solo)
  const updated = [...doc.track.values()].flatMap((from): [Track, Track][] => {
    const solo = from.id === args.id && !alone
    return from.solo === solo ? [] : [[from, { ...from, solo }]]
  })
  return ok({
    label: alone ? `End solo of ${track.name}` : `Solo only ${track.name}`,
    added: [],
    updated,
    removed: [],
  })
}

/** Ends every solo, so that all tracks that are not muted sound. */
export function endSolos(doc: ReelDocument): Result<Change> {
  const updated = tracksInOrder(doc).flatMap((from): [Track, Track][] =>
    from.solo ? [[from, { ...from, solo: false }]] : [],
  )
  return ok({ label: 'End every solo', added: [], updated, removed: [] })
}

/** Lets every track be heard that is muted. */
export function unmuteTracks(doc: ReelDocument): Result<Change> {
  const updated = tracksInOrder(doc).flatMap((from): [Track, Track][] =>
    from.mute ? [[from, { ...from, mute: false }]] : [],
  )
  return ok({ label: 'Unmute every track', added: [], updated, removed: [] })
}

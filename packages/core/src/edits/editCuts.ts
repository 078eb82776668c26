import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { reelOf, type ReelDocument } from '../reel/document.js'
import type { Cut, Reel } from '../reel/records.js'
import { frames } from '../time/units.js'

/**
 * Brings in a version of the picture and makes it the current one. Earlier versions are kept.
 * A reel in which nothing is laid yet becomes as long as its first picture; later on it only grows.
 *
 * @param args.length - Frames of the reel that the movie fills at its place.
 */
export function addCut(
  doc: ReelDocument,
  args: { id: string; pictureId: string; name: string; length: number; offset?: number },
): Result<Change> {
  const reel = reelOf(doc)
  const cut: Cut = {
    kind: 'cut',
    id: args.id,
    pictureId: args.pictureId,
    name: args.name,
    offset: frames(args.offset ?? 0),
  }
  const needed = Math.max(1, args.length + cut.offset)
  const untouched = doc.cue.size + doc.clip.size + doc.cut.size === 0
  const to: Reel = {
    ...reel,
    pictureId: cut.pictureId,
    length: frames(untouched ? needed : Math.max(reel.length, needed)),
  }
  return ok({ label: `Picture ${cut.name}`, added: [cut], updated: [[reel, to]], removed: [] })
}

/** Makes another version of the picture the current one. */
export function showCut(doc: ReelDocument, args: { id: string }): Result<Change> {
  const cut = doc.cut.get(args.id)
  if (!cut) return refuse('CORE_RECORD_MISSING', 'showCut', args.id)
  const reel = reelOf(doc)
  return ok({
    label: `Show ${cut.name}`,
    added: [],
    updated: reel.pictureId === cut.pictureId ? [] : [[reel, { ...reel, pictureId: cut.pictureId }]],
    removed: [],
  })
}

/** Names a version, or moves the picture against the reel: `offset` is the frame of the reel at which it begins. */
export function editCut(
  doc: ReelDocument,
  args: { id: string; fields: { name?: string; offset?: number } },
): Result<Change> {
  const from = doc.cut.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'editCut', args.id)
  const { name = from.name, offset = from.offset } = args.fields
  const to: Cut = { ...from, name, offset: frames(offset) }
  const same = to.name === from.name && to.offset === from.offset
  return ok({ label: `Edit ${from.name}`, added: [], updated: same ? [] : [[from, to]], removed: [] })
}

/** Takes a version out of the reel; the current one only together with the picture. The movie itself stays on its disk. */
export function removeCut(doc: ReelDocument, args: { id: string }): Result<Change> {
  const cut = doc.cut.get(args.id)
  if (!cut) return refuse('CORE_RECORD_MISSING', 'removeCut', args.id)
  const reel = reelOf(doc)
  const updated: [Reel, Reel][] =
    reel.pictureId === cut.pictureId ? [[reel, { ...reel, pictureId: null }]] : []
  return ok({ label: `Take out ${cut.name}`, added: [], updated, removed: [cut] })
}

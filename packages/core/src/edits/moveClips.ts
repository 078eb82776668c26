import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { tracksInOrder, type ReelDocument } from '../reel/document.js'
import { findCollision } from '../reel/invariants.js'
import type { Clip } from '../reel/records.js'
import { withTimes } from '../reel/withTimes.js'
import { meetInCrossfades } from './crossfade.js'

/**
 * Moves clips together in time and, when one track is given, onto it.
 *
 * @param args.by - Samples, later is positive.
 * @param args.meet - What is laid over the end or the beginning of a neighbour meets it in a crossfade instead of being refused.
 * @returns A refusal when one would begin before the reel or sound over a clip that is not moved.
 */
export function moveClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; by: number; trackId?: string; meet?: boolean },
): Result<Change> {
  const moving = new Set(args.ids)
  const updated: [Clip, Clip][] = []
  for (const id of args.ids) {
    const from = doc.clip.get(id)
    if (!from) return refuse('CORE_RECORD_MISSING', 'moveClips', id)
    const start = from.start + args.by
    if (start < 0) return refuse('CORE_BEFORE_REEL', from.name, `start ${start}`)
    const to = withTimes({ ...from, trackId: args.trackId ?? from.trackId }, { start })
    const other = findCollision(doc, to, moving)
    const met = other && args.meet ? meetInCrossfades(doc, to, moving) : null
    // A neighbour that another of the moved ones has already met stays as that one left it.
    if (met && !met.others.some(([one]) => updated.some(([known]) => known === one))) {
      updated.push([from, met.clip], ...met.others)
      continue
    }
    if (other) return refuse('CORE_OVERLAP', from.name, `it would sound over ${other.name}`)
    if (to.start !== from.start || to.trackId !== from.trackId) updated.push([from, to])
  }
  const what = args.ids.length === 1 ? doc.clip.get(args.ids[0] ?? '')?.name : `${args.ids.length} sounds`
  return ok({ label: `Move ${what}`, added: [], updated, removed: [] })
}

/**
 * Moves clips to the tracks beside their own, as many to the right as `by` says; together they keep their tracks to each other.
 *
 * @returns A refusal where there is no track beside, or another sound lies there.
 */
export function moveAcross(doc: ReelDocument, args: { ids: readonly string[]; by: number }): Result<Change> {
  const tracks = tracksInOrder(doc)
  const moving = new Set(args.ids)
  const updated: [Clip, Clip][] = []
  for (const id of args.ids) {
    const from = doc.clip.get(id)
    if (!from) return refuse('CORE_RECORD_MISSING', 'moveAcross', id)
    const track = tracks[tracks.findIndex((one) => one.id === from.trackId) + args.by]
    if (!track)
      return refuse(
        'CORE_NO_TRACK',
        from.name,
        args.by > 0 ? 'none is farther right' : 'none is farther left',
      )
    const to = { ...from, trackId: track.id }
    const other = findCollision(doc, to, moving)
    if (other)
      return refuse('CORE_OVERLAP', `${from.name} on ${track.name}`, `it would sound over ${other.name}`)
    updated.push([from, to])
  }
  const what =
    updated.length === 1
      ? `${updated[0]?.[0].name} to ${doc.track.get(updated[0]?.[1].trackId ?? '')?.name}`
      : `${updated.length} sounds to the tracks beside`
  return ok({ label: `Move ${what}`, added: [], updated, removed: [] })
}

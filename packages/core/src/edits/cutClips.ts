import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { clipsOnTrack, type ReelDocument } from '../reel/document.js'
import { mayMeet } from '../reel/invariants.js'
import type { Clip } from '../reel/records.js'
import { withTimes } from '../reel/withTimes.js'
import { SHORTEST_CLIP, withShorterFades } from './trimClip.js'

/**
 * Splits clips at a place; both parts go on sounding as one, without a fade at the cut.
 * Clips that the place does not lie well inside are passed over.
 *
 * @param args.at - Samples from the reel's first frame.
 * @param args.newId - Makes an id for each second part.
 */
export function splitClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; at: number; newId: () => string },
): Result<Change> {
  const updated: [Clip, Clip][] = []
  const added: Clip[] = []
  for (const id of args.ids) {
    const from = doc.clip.get(id)
    if (!from) return refuse('CORE_RECORD_MISSING', 'splitClips', id)
    const first = args.at - from.start
    const second = from.length - first
    if (first < SHORTEST_CLIP || second < SHORTEST_CLIP) continue
    const head = { length: first, fadeIn: Math.min(from.fadeIn, first), fadeOut: 0 }
    const fadeOut = Math.min(from.fadeOut, second)
    const tail = { start: args.at, offset: from.offset + first, length: second, fadeIn: 0, fadeOut }
    const [up, down] = [Math.min(from.runUp, first), Math.min(from.runDown, second)]
    updated.push([from, withTimes({ ...from, runUp: up, runDown: 0 }, head)])
    added.push(withTimes({ ...from, id: args.newId(), runUp: 0, runDown: down }, tail))
  }
  if (updated.length === 0)
    return refuse('CORE_NOTHING_DONE', 'split', 'no selected sound lies under the gate')
  return ok({
    label: `Split ${updated.length === 1 ? updated[0]?.[0].name : `${updated.length} sounds`}`,
    added,
    updated,
    removed: [],
  })
}

/** The clip of the same track that a clip meets at one end, touching or crossfaded; null where it stands free. */
export function neighbourAt(doc: ReelDocument, clip: Clip, end: 'head' | 'tail'): Clip | null {
  return (
    clipsOnTrack(doc, clip.trackId).find((other) => {
      const [first, second] = end === 'head' ? [other, clip] : [clip, other]
      return other.id !== clip.id && first.start < second.start && first.start + first.length >= second.start
    }) ?? null
  )
}

/**
 * Moves the boundary between two sounds that meet: the one becomes as much longer as the other becomes shorter, as far as both
 * recordings go; a crossfade keeps its length.
 *
 * @param args.to - Wanted beginning of the second, samples from the reel's first frame.
 */
export function rollBoundary(
  doc: ReelDocument,
  args: { firstId: string; secondId: string; to: number },
): Result<Change> {
  const first = doc.clip.get(args.firstId)
  const second = doc.clip.get(args.secondId)
  if (!first || !second)
    return refuse('CORE_RECORD_MISSING', 'rollBoundary', first ? args.secondId : args.firstId)
  const overlap = first.start + first.length - second.start
  if (first.trackId !== second.trackId || first.start >= second.start || overlap < 0)
    return refuse('CORE_NOT_NEIGHBOURS', `${first.name} and ${second.name}`)
  const least = Math.max(second.start - second.offset, first.start + Math.max(1, SHORTEST_CLIP - overlap))
  const most = Math.min(
    second.start + second.length - Math.max(SHORTEST_CLIP, overlap),
    first.start + first.recorded - first.offset - overlap,
  )
  const to = Math.max(least, Math.min(most, args.to))
  const by = to - second.start
  const longer = { start: to, offset: second.offset + by, length: second.length - by }
  const pair: [Clip, Clip] = [
    withShorterFades(withTimes(first, { length: first.length + by })),
    withShorterFades(withTimes(second, longer)),
  ]
  if (!mayMeet(...pair))
    return refuse(
      'CORE_OVERLAP',
      `${first.name} and ${second.name}`,
      'the crossfade would be longer than what is left',
    )
  return ok({
    label: `Roll ${first.name} and ${second.name}`,
    added: [],
    updated:
      by === 0
        ? []
        : [
            [first, pair[0]],
            [second, pair[1]],
          ],
    removed: [],
  })
}

/**
 * Moves the sound inside its clip: where it begins and ends stays, what is heard there changes, as far as the recording goes.
 *
 * @param args.by - Samples; positive has everything heard later.
 */
export function slipClip(doc: ReelDocument, args: { id: string; by: number }): Result<Change> {
  const from = doc.clip.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'slipClip', args.id)
  const offset = Math.max(0, Math.min(from.recorded - from.length, from.offset - args.by))
  return ok({
    label: `Slip ${from.name}`,
    added: [],
    updated: offset === from.offset ? [] : [[from, withTimes(from, { offset })]],
    removed: [],
  })
}

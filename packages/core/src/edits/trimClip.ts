import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { clipsOnTrack, type ReelDocument } from '../reel/document.js'
import type { Clip } from '../reel/records.js'
import { withTimes } from '../reel/withTimes.js'

/** Shortest part of a recording that can be left (1 ms). */
export const SHORTEST_CLIP = 48

/** A clip whose fades, and whose runs together, are no longer than itself. */
export function withShorterFades(clip: Clip): Clip {
  const { fadeIn, fadeOut, runUp, runDown, length } = clip
  const up = Math.min(runUp, length)
  return withTimes(
    { ...clip, runUp: up, runDown: Math.min(runDown, length - up) },
    { fadeIn: Math.min(fadeIn, length), fadeOut: Math.min(fadeOut, length) },
  )
}

/**
 * Trims one end of a clip towards a position, as far as the recording and its neighbours let it;
 * what is heard stays where it is in time. Fades shrink with a clip that becomes shorter than they are.
 *
 * @param args.to - Wanted position of the end, samples from the reel's first frame.
 */
export function trimClip(
  doc: ReelDocument,
  args: { id: string; end: 'head' | 'tail'; to: number },
): Result<Change> {
  const from = doc.clip.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'trimClip', args.id)
  const tail = from.start + from.length
  let trimmed: Clip
  if (args.end === 'head') {
    const start = Math.max(args.to, from.start - from.offset, 0, previousEnd(doc, from))
    const clamped = Math.min(start, tail - SHORTEST_CLIP)
    const offset = from.offset + clamped - from.start
    trimmed = withTimes(from, { start: clamped, offset, length: tail - clamped })
  } else {
    const end = Math.min(args.to, from.start + from.recorded - from.offset, nextStart(doc, from))
    trimmed = withTimes(from, { length: Math.max(end - from.start, SHORTEST_CLIP) })
  }
  const to = withShorterFades(trimmed)
  const unchanged = to.start === from.start && to.length === from.length
  return ok({ label: `Trim ${from.name}`, added: [], updated: unchanged ? [] : [[from, to]], removed: [] })
}

/** The place in which a clip may grow on its track, `[from, to)`: up to its neighbours. One that it already meets in a crossfade is kept at that much overlap. */
export function roomAround(doc: ReelDocument, clip: Clip): readonly [from: number, to: number] {
  return [previousEnd(doc, clip), nextStart(doc, clip)]
}

// A neighbour already met in a crossfade is kept at that much overlap; any other one must not be reached.
function previousEnd(doc: ReelDocument, clip: Clip): number {
  const before = clipsOnTrack(doc, clip.trackId).filter(
    (other) => other.id !== clip.id && other.start < clip.start,
  )
  return Math.max(0, ...before.map((other) => Math.min(other.start + other.length, clip.start)))
}

function nextStart(doc: ReelDocument, clip: Clip): number {
  const after = clipsOnTrack(doc, clip.trackId).filter(
    (other) => other.id !== clip.id && other.start > clip.start,
  )
  return Math.min(Infinity, ...after.map((other) => Math.max(other.start, clip.start + clip.length)))
}

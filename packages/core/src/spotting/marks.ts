import { frameToSample, nearestFrame } from '../time/convert.js'
import type { FrameRate } from '../time/rates.js'
import { frames } from '../time/units.js'

/** Where the guide has onsets and the picture cuts, as frames of the reel in order. */
export interface ReelMarks {
  readonly onsets: readonly number[]
  readonly cuts: readonly number[]
}

/**
 * Places what was found in a picture on the reel: each at the nearest frame.
 *
 * @param found - Samples of the guide and frames of the movie, both from its own first.
 * @param offset - Frame of the reel at which the movie begins.
 */
export function placeMarks(
  found: { readonly onsets: readonly { readonly at: number }[]; readonly cuts: readonly number[] },
  reel: FrameRate,
  movie: FrameRate,
  offset: number,
): ReelMarks {
  const at = (sample: number): number => offset + nearestFrame(sample, reel)
  return {
    onsets: [...new Set(found.onsets.map((onset) => at(onset.at)))].filter((frame) => frame >= 0),
    cuts: found.cuts.map((frame) => at(frameToSample(frames(frame), movie))).filter((frame) => frame >= 0),
  }
}

/** The nearest of sorted positions before (-1) or after (1) a place, or null. */
export function nextMark(marks: readonly number[], from: number, direction: 1 | -1): number | null {
  if (direction > 0) return marks.find((mark) => mark > from) ?? null
  return marks.findLast((mark) => mark < from) ?? null
}

/** The sorted position nearest to a place within reach (inclusive), or null; ties go to the earlier. */
export function nearestMark(marks: readonly number[], to: number, reach: number): number | null {
  let best: number | null = null
  for (const mark of marks)
    if (Math.abs(mark - to) <= reach && (best === null || Math.abs(mark - to) < Math.abs(best - to)))
      best = mark
  return best
}

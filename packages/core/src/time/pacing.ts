import { FRAME_RATES, type FrameRate } from './rates.js'

/** How the frames of a movie lie on a reel's rate. */
export interface Pacing {
  readonly rate: FrameRate
  /** Every frame lies where it would at that rate, to less than half a frame: frame n is shown at n. */
  readonly even: boolean
  /** Frames of the rate for which the movie has none of its own: the one before is shown longer. */
  readonly repeated: number
  /** Frames of the movie that another one covers within the same frame of the rate. */
  readonly leftOut: number
  /** Where those that it repeats are: the first of each row of them, counted from the movie's first frame, and how many. */
  readonly holes: readonly { readonly at: number; readonly frames: number }[]
}

/** Rates that a movie can run at, each speed once. */
const SPEEDS = Object.values(FRAME_RATES).filter((rate) => rate.dropped === 0)

/**
 * Finds the rate at which a movie's frames lie best: one at which all of them are even, the rates that its file states
 * before any other; else the one at which fewest have to be repeated or left out to show each moment where it belongs.
 *
 * @param times - When each frame is shown, in seconds, rising.
 * @param declared - Rates that the file states, the likeliest first.
 */
export function findPacing(times: readonly number[], declared: readonly FrameRate[]): Pacing {
  const span = (times.at(-1) ?? 0) - (times[0] ?? 0)
  const measured = span > 0 ? (times.length - 1) / span : 0
  const distance = (rate: FrameRate): number => Math.abs(Math.log((measured * rate.den) / rate.num))
  const byNearness = measured > 0 ? SPEEDS.toSorted((a, b) => distance(a) - distance(b)) : SPEEDS
  const paced = [...declared, ...byNearness].map((rate) => paceAt(times, rate))
  const cost = ({ even, repeated, leftOut }: Pacing): number => (even ? -1 : repeated + leftOut)
  return paced.reduce((best, pacing) => (cost(pacing) < cost(best) ? pacing : best))
}

function paceAt(times: readonly number[], rate: FrameRate): Pacing {
  const [first = 0] = times
  let even = true
  let [distinct, last] = [0, -1]
  const holes: { at: number; frames: number }[] = []
  for (const [index, time] of times.entries()) {
    const at = ((time - first) * rate.num) / rate.den
    if (Math.abs(at - index) >= 0.5) even = false
    const slot = Math.round(at)
    if (slot > last + 1) holes.push({ at: last + 1, frames: slot - last - 1 })
    if (slot > last) distinct++
    last = Math.max(last, slot)
  }
  return { rate, even, repeated: last + 1 - distinct, leftOut: times.length - distinct, holes }
}

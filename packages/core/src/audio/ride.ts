import type { RideBend } from '../reel/records.js'
import { gainFromDb, panGains } from '../signal/levels.js'

/** A ride ready to be played: times (samples from the reel's first frame, rising) and values (dB, or -1 to 1). */
export interface Ride {
  readonly at: readonly number[]
  readonly values: readonly number[]
  /** How it runs from each point to the next. */
  readonly bends: readonly RideBend[]
}

/** How far on the way between two points a ride has come, 0 to 1, after a part of the time, 0 to 1. */
const BENT: Readonly<Record<RideBend, (part: number) => number>> = {
  straight: (part) => part,
  s: (part) => (1 - Math.cos(Math.PI * part)) / 2,
  hold: () => 0,
}

/**
 * Value of a ride at a moment: between the points on either side by the bend of the earlier one, beyond the ends the value of the end.
 * Of several points at one moment the last counts from there on.
 */
export function rideValue(ride: Ride, at: number): number {
  const { at: times, values, bends } = ride
  let low = 0
  let high = times.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((times[middle] as number) <= at) low = middle + 1
    else high = middle
  }
  if (low === 0) return values[0] ?? 0
  const value = values[low - 1] as number
  if (low === times.length) return value
  const from = times[low - 1] as number
  const part = (at - from) / ((times[low] as number) - from)
  return value + ((values[low] as number) - value) * BENT[bends[low - 1] as RideBend](part)
}

/** Samples between two places at which a ride is worked out; between them gains run straight (1.3 ms). The grid lies on the reel, so that the size of blocks changes nothing. */
export const RIDE_GRID = 64

/** Fills `gains`, which stand for `[from, to)` of the reel, by a ride of the level. */
export function rideLevel(ride: Ride, from: number, to: number, gains: Float32Array): void {
  let grid = Math.floor(from / RIDE_GRID) * RIDE_GRID
  let before = gainFromDb(rideValue(ride, grid))
  for (let at = from; at < to; grid += RIDE_GRID) {
    const end = Math.min(to, grid + RIDE_GRID)
    const after = gainFromDb(rideValue(ride, grid + RIDE_GRID))
    const step = (after - before) / RIDE_GRID
    for (; at < end; at++) gains[at - from] = before + step * (at - grid)
    before = after
  }
}

/** Gains of a voice whose place moves: left to left, left to right, right to left, right to right, a value a sample. */
export type MovingGains = readonly [ll: Float32Array, lr: Float32Array, rl: Float32Array, rr: Float32Array]

/** Fills the gains for `[from, to)` of the reel by a ride of the place; the pan law is that of {@link panGains}. */
export function ridePan(
  ride: Ride,
  gain: number,
  from: number,
  to: number,
  channels: 1 | 2,
  out: MovingGains,
): void {
  for (let at = from; at < to;) {
    const grid = Math.floor(at / RIDE_GRID) * RIDE_GRID
    const end = Math.min(to, grid + RIDE_GRID)
    const a = panGains(rideValue(ride, grid), channels)
    const b = panGains(rideValue(ride, grid + RIDE_GRID), channels)
    for (; at < end; at++) {
      const t = (at - grid) / RIDE_GRID
      const i = at - from
      out[0][i] = gain * (a.ll + (b.ll - a.ll) * t)
      out[1][i] = gain * (a.lr + (b.lr - a.lr) * t)
      out[2][i] = gain * (a.rl + (b.rl - a.rl) * t)
      out[3][i] = gain * (a.rr + (b.rr - a.rr) * t)
    }
  }
}

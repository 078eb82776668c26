import { SAMPLE_RATE } from '../time/units.js'

/** Samples of a millisecond. */
const PER_MS = SAMPLE_RATE / 1000
/** How far a hand may be from what it meant, in milliseconds, to count. */
const MEANT_MS = 350
/** Fewer hits say nothing about a hand. */
export const FEWEST_HITS = 5
/** Places that a hand can tell apart lie so far from each other, in milliseconds. */
const APART_MS = 300
/** So many places make a stretch worth hitting; it begins so long before the first of them. */
const ENOUGH = 8
const LEAD_MS = 1500

/** How late a hand is. */
export interface Lag {
  /** Milliseconds, negative where it is early: the middle of all that count. */
  readonly ms: number
  /** Hits that count. */
  readonly hits: number
  /** Half of them lie within so many milliseconds of it. */
  readonly spread: number
}

/**
 * Measures how late a hand hits what it means: the nearest place within 350 ms of each hit.
 *
 * @param hits - Samples of the reel
 * @param places - Samples of the reel at which something happens, in any order
 * @param rolled - Speed at which the reel rolled: a slow one gives the hand more samples, not more time
 * @returns Null when fewer than {@link FEWEST_HITS} hits count
 */
export function lagOf(hits: readonly number[], places: readonly number[], rolled = 1): Lag | null {
  const late = hits
    .map((at) => {
      const away = places.map((place) => (at - place) / PER_MS / rolled)
      return away.reduce((best, one) => (Math.abs(one) < Math.abs(best) ? one : best), Infinity)
    })
    .filter((ms) => Math.abs(ms) <= MEANT_MS)
  if (late.length < FEWEST_HITS) return null
  const ms = middleOf(late)
  return { ms, hits: late.length, spread: middleOf(late.map((one) => Math.abs(one - ms))) }
}

/** The value in the middle, or that between the two in the middle. */
function middleOf(values: readonly number[]): number {
  const sorted = values.toSorted((a, b) => a - b)
  const half = sorted.length >> 1
  const upper = sorted[half] ?? NaN
  return sorted.length % 2 === 1 ? upper : (upper + (sorted[half - 1] ?? NaN)) / 2
}

/**
 * Finds a stretch in which enough happens to measure a hand by: the next one from a place on with at least eight places that a
 * hand can tell apart, else the one with the most of them.
 *
 * @param places - Samples of the reel, in any order
 * @param from - Where one stands
 * @param length - Of the stretch, in samples
 * @returns Its first sample and the one after its last; null where nowhere as many happen as have to be hit
 */
export function stretchToHit(
  places: readonly number[],
  { from, length, rolled = 1 }: { from: number; length: number; rolled?: number },
): { from: number; to: number } | null {
  const apart = APART_MS * PER_MS * rolled
  const lead = LEAD_MS * PER_MS * rolled
  const told = places
    .toSorted((a, b) => a - b)
    .reduce<number[]>((kept, place) => {
      if (place - (kept.at(-1) ?? -Infinity) >= apart) kept.push(place)
      return kept
    }, [])
  const later = told.findIndex((place) => place >= from)
  const order = later < 0 ? told : [...told.slice(later), ...told.slice(0, later)]
  let best: { from: number; count: number } | null = null
  for (const first of order) {
    const begin = Math.max(0, first - lead)
    const count = told.filter((place) => place >= first && place < begin + length).length
    if (count > (best?.count ?? FEWEST_HITS - 1)) best = { from: begin, count }
    if (count >= ENOUGH) break
  }
  return best && { from: best.from, to: best.from + length }
}

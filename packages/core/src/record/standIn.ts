import { seededRandom } from '../stacks/seeds.js'
import { SAMPLE_RATE } from '../time/units.js'

/** What the stand-in for a microphone can do to picture: a step on gravel, a bag that is crumpled, a bare click. */
export const STAND_IN_ACTS = ['step', 'bag', 'click'] as const
/** One of them. */
export type StandInAct = (typeof STAND_IN_ACTS)[number]

/** Full level of the quiet room that the stand-in stands in, about -72 dB. */
const ROOM = 0.00025

/** Grains of noise, each a short decay, thrown into a stretch. @param count - How many @param seconds - Length of the stretch @param decay - Seconds of a grain */
function grains(
  random: () => number,
  { count, seconds, decay, level }: { count: number; seconds: number; decay: number; level: number },
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(Math.round(seconds * SAMPLE_RATE))
  for (let grain = 0; grain < count; grain++) {
    // Denser and louder towards the beginning, as a foot or a hand comes down. The first is at the very beginning.
    const place = grain === 0 ? 0 : random() ** 1.7
    const from = Math.floor(place * out.length)
    const size = level * (grain === 0 ? 1 : (0.25 + 0.75 * random()) * (1 - 0.7 * place))
    const length = decay * (0.4 + random()) * SAMPLE_RATE
    let low = 0
    for (let i = 0; i < 5 * length && from + i < out.length; i++) {
      low += 0.45 * (2 * random() - 1 - low)
      out[from + i] = (out[from + i] as number) + size * low * Math.exp(-i / length)
    }
  }
  return out
}

/**
 * One act of the stand-in, beginning with its attack: mono, 48 kHz, peak below 1. The same seed gives the same samples.
 *
 * @param seed - 32 bits: no two steps are alike
 */
export function standInSound(act: StandInAct, seed: number): Float32Array<ArrayBuffer> {
  const random = seededRandom(seed)
  if (act === 'click') return Float32Array.of(0.8, -0.6, 0.4, -0.2)
  return act === 'step'
    ? grains(random, { count: 26, seconds: 0.22, decay: 0.006, level: 0.7 })
    : grains(random, { count: 150, seconds: 0.9, decay: 0.003, level: 0.5 })
}

/** A second of the room it stands in: never quite silent, so that a gap in what it gives would be seen. */
export function standInRoom(): Float32Array<ArrayBuffer> {
  const random = seededRandom(1)
  return Float32Array.from({ length: SAMPLE_RATE }, () => ROOM * (2 * random() - 1))
}

/**
 * When the stand-in acts within a stretch of the reel: at each happening there, at most one every tenth of a second; where nothing
 * happens, at the moment that is meant.
 *
 * @param happenings - Samples of the reel, in any order
 */
export function standInMoments(
  happenings: readonly number[],
  { in: from, out, sync }: { readonly in: number; readonly out: number; readonly sync: number },
): number[] {
  const within = happenings.filter((at) => at >= from && at < out).sort((a, b) => a - b)
  const apart: number[] = []
  for (const at of within) if (at - (apart.at(-1) ?? -Infinity) >= SAMPLE_RATE / 10) apart.push(at)
  return apart.length > 0 ? apart : [sync]
}

import { SAMPLE_RATE } from '../time/units.js'

/** Bursts of the test sound, and samples from the beginning of one to that of the next. */
const BURSTS = 5
const EVERY = SAMPLE_RATE / 2
/** Samples of a burst (12 ms). */
const BURST = 576
/** The longest round trip that is looked for (0.4 s), shorter than the time between bursts. */
const LONGEST = 0.4 * SAMPLE_RATE
/** How alike what came in must be, from 0 to 1, to be taken for the burst. */
const ALIKE = 0.5
/** So near must single bursts be to each other, in samples (1 ms). */
const NEAR = SAMPLE_RATE / 1000

/** Samples of the test sound, its last silence included. */
export const TEST_LENGTH = BURSTS * EVERY

/** A burst: a sweep from 500 Hz to 8 kHz under a Hann window, which no other sound in a room is like. */
function burst(): Float32Array {
  const out = new Float32Array(BURST)
  for (let i = 0; i < BURST; i++) {
    const t = i / BURST
    const phase = 2 * Math.PI * (BURST / SAMPLE_RATE) * (500 * t + (7500 * t * t) / 2)
    out[i] = 0.7 * (0.5 - 0.5 * Math.cos(2 * Math.PI * t)) * Math.sin(phase)
  }
  return out
}

/** The sound by which a round trip is measured: 2.5 s at 48 kHz. */
export function testSound(): Float32Array<ArrayBuffer> {
  const one = burst()
  const out = new Float32Array(TEST_LENGTH)
  for (let i = 0; i < BURSTS; i++) out.set(one, i * EVERY)
  return out
}

/** Where a burst is most alike within a stretch; a fraction of a sample by the parabola through the three best. */
function find(one: Float32Array, input: Float32Array, from: number): { at: number; alike: number } {
  const own = one.reduce((sum, value) => sum + value * value, 0)
  const scores = new Float32Array(LONGEST + 1)
  let energy = 0
  for (let i = 0; i < BURST; i++) energy += (input[from + i] ?? 0) ** 2
  for (let lag = 0; lag <= LONGEST; lag++) {
    let product = 0
    for (let i = 0; i < BURST; i++) product += (one[i] as number) * (input[from + lag + i] ?? 0)
    // Turned over by a wiring it is the same burst.
    scores[lag] = energy > 1e-9 ? Math.abs(product) / Math.sqrt(own * energy) : 0
    energy += (input[from + lag + BURST] ?? 0) ** 2 - (input[from + lag] ?? 0) ** 2
  }
  const best = scores.reduce((most, score, lag) => (score > (scores[most] as number) ? lag : most), 0)
  const [before, there, after] = [scores[best - 1] ?? 0, scores[best] as number, scores[best + 1] ?? 0]
  const bend = before - 2 * there + after
  return { at: best + (bend < 0 ? (before - after) / (2 * bend) : 0), alike: there }
}

/**
 * Finds how long a sound takes out of the loudspeaker and into the input.
 *
 * @param input - What came in from the moment on at which {@link testSound} began to be played; 48 kHz
 * @returns Samples; null where too little of it was heard, or at moments that do not agree
 */
export function measureRoundTrip(input: Float32Array): number | null {
  const one = burst()
  const found = Array.from({ length: BURSTS }, (_, index) => find(one, input, index * EVERY))
    .filter(({ alike }) => alike >= ALIKE)
    .map(({ at }) => at)
    .sort((a, b) => a - b)
  const median = found[found.length >> 1]
  if (median === undefined) return null
  const agreed = found.filter((at) => Math.abs(at - median) <= NEAR)
  return agreed.length > BURSTS / 2 ? agreed.reduce((sum, at) => sum + at, 0) / agreed.length : null
}

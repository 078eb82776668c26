import { frameToSample, nearestFrame } from '../time/convert.js'
import type { FrameRate } from '../time/rates.js'
import { SAMPLE_RATE, frames } from '../time/units.js'

/** What was heard of a leader's sync mark. */
export interface TwoPop {
  /** Frame of the picture on which the tone begins. */
  readonly frame: number
  /** Length of the tone in frames, rounded. */
  readonly frames: number
}

const TONE_HZ = 1000
const WINDOW = 480
const PURE = 0.8

/**
 * Finds a 2-pop: a single tone of 1 kHz, about one frame long, standing alone in silence
 * (common practice: one frame, two seconds before the programme).
 *
 * @param guide - Mono samples at 48 kHz of the head of the picture; longer than the leader does no harm.
 * @returns The first such tone, or null.
 */
export function findTwoPop(guide: Float32Array, rate: FrameRate): TwoPop | null {
  const tones: boolean[] = []
  const levels: number[] = []
  for (let at = 0; at + WINDOW <= guide.length; at += WINDOW) {
    const { power, tone } = measure(guide, at)
    levels.push(power)
    tones.push(power > 1e-5 && tone >= PURE * power)
  }
  const perFrame = frameToSample(frames(1), rate)
  for (let first = 0; first < tones.length; first++) {
    if (!tones[first]) continue
    let end = first
    while (end < tones.length && tones[end]) end++
    const length = (end - first) * WINDOW
    const quiet = (from: number, to: number): boolean =>
      levels
        .slice(Math.max(0, from), Math.max(0, to))
        .every((level) => level < (levels[first] as number) / 100)
    if (
      length >= 0.4 * perFrame &&
      length <= 2.5 * perFrame &&
      quiet(first - 12, first - 1) &&
      quiet(end + 1, end + 12)
    ) {
      const start = edge(guide, (first - 1) * WINDOW, first * WINDOW + WINDOW)
      return { frame: nearestFrame(start, rate), frames: Math.max(1, Math.round(length / perFrame)) }
    }
    first = end
  }
  return null
}

/** Mean power of a window and the part of it that is the tone (a Goertzel filter on whole periods). */
function measure(samples: Float32Array, from: number): { power: number; tone: number } {
  let power = 0
  let re = 0
  let im = 0
  for (let i = 0; i < WINDOW; i++) {
    const value = samples[from + i] as number
    const angle = (2 * Math.PI * TONE_HZ * i) / SAMPLE_RATE
    power += value * value
    re += value * Math.cos(angle)
    im += value * Math.sin(angle)
  }
  return { power: power / WINDOW, tone: (2 * (re * re + im * im)) / (WINDOW * WINDOW) }
}

/** The first sample of the tone: where a tenth of its level is passed. */
function edge(samples: Float32Array, from: number, to: number): number {
  let top = 0
  for (let i = Math.max(0, from); i < to; i++) top = Math.max(top, Math.abs(samples[i] as number))
  for (let i = Math.max(0, from); i < to; i++) if (Math.abs(samples[i] as number) > top / 10) return i
  return from
}

import { SAMPLE_RATE } from '../time/units.js'
import { runSection, sectionOf } from '../treatment/biquad.js'

/** An octave of a response, cut out three times over. @param middle - Hz */
export function octaveOf(response: Float32Array, middle: number): Float32Array {
  const out = Float32Array.from(response)
  for (let times = 0; times < 3; times++)
    for (const section of [sectionOf('highPass', middle * 0.8), sectionOf('lowPass', middle * 1.25)])
      runSection(section, out, out.length, new Float64Array(2), 0)
  return out
}

/** Seconds in which a response at 48 kHz falls by 60 dB, as ISO 3382 takes them: from -5 to -35 dB of the backward integral, times two. */
export function fallOf(response: Float32Array): number {
  const left = new Float64Array(response.length + 1)
  for (let i = response.length - 1; i >= 0; i--)
    left[i] = (left[i + 1] as number) + (response[i] as number) ** 2
  const at = (decibels: number): number =>
    left.findIndex((value) => value < (left[0] as number) * 10 ** (decibels / 10))
  return (2 * (at(-35) - at(-5))) / SAMPLE_RATE
}

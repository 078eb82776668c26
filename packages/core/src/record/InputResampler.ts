import { kaiserSinc } from '../audio/kaiser.js'
import { SAMPLE_RATE } from '../time/units.js'

/** Zero crossings of the sinc on either side: what lies beyond the lower of both rates' halves is stopped within 8 % of it. */
const REACH = 32

const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b))

/**
 * Brings one channel of an input to 48 kHz, block by block, however they are cut. Sample n of what comes out belongs to the moment
 * n / 48000 s after the first sample that went in: nothing is delayed, what is not known yet comes with a later block.
 */
export class InputResampler {
  /** The input's samples that pass while so many of the output pass as there are phases. */
  private readonly step: number
  /** One set of weights for each place that an output sample can have between two of the input's. */
  private readonly phases: (Float64Array | undefined)[]
  private readonly reach: number
  private kept: Float32Array
  /** The input's number of the first sample that is kept. */
  private from: number
  private next = 0

  /** @param rate - The input's, in whole Hz, from 3000 to 768000 */
  constructor(private readonly rate: number) {
    const common = divisor(rate, SAMPLE_RATE)
    this.step = rate / common
    this.phases = new Array<Float64Array | undefined>(SAMPLE_RATE / common).fill(undefined)
    this.reach = Math.ceil(REACH * Math.max(1, rate / SAMPLE_RATE))
    this.kept = new Float32Array(this.reach)
    this.from = -this.reach
  }

  /** Takes a block. @returns What can be known of the output by now; empty, perhaps */
  push(block: Float32Array): Float32Array {
    if (this.rate === SAMPLE_RATE) return block
    const { reach, step, phases } = this
    const input = new Float32Array(this.kept.length + block.length)
    input.set(this.kept)
    input.set(block, this.kept.length)
    const known = this.from + input.length
    const end = Math.max(this.next, Math.ceil(((known - reach) * phases.length) / step))
    const out = new Float32Array(end - this.next)
    for (let i = 0; i < out.length; i++) {
      const at = (this.next + i) * step
      const weights = this.weights(at % phases.length)
      const first = Math.floor(at / phases.length) - reach + 1 - this.from
      let sum = 0
      for (let k = 0; k < weights.length; k++) sum += (weights[k] as number) * (input[first + k] as number)
      out[i] = sum
    }
    this.next = end
    const keep = Math.floor((end * step) / phases.length) - reach + 1 - this.from
    this.kept = input.slice(keep)
    this.from += keep
    return out
  }

  private weights(phase: number): Float64Array {
    const { reach, rate, phases } = this
    const cutoff = Math.min(1, SAMPLE_RATE / rate)
    return (phases[phase] ??= Float64Array.from(
      { length: 2 * reach },
      (_, k) => cutoff * kaiserSinc((k - reach + 1 - phase / phases.length) * cutoff, REACH),
    ))
  }
}

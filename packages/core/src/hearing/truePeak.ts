import { kaiserSinc } from '../audio/kaiser.js'

const PHASES = 4
/** Samples on each side that an interpolated value is made of. */
const REACH = 16
const KEPT = 2 * REACH
/** Between two samples that both lie below this part of the highest value so far, nothing higher is looked for. */
const WORTH = 0.45

/** Kaiser-windowed sinc, one row of coefficients for each quarter between two samples. */
const ROWS = Array.from({ length: PHASES - 1 }, (_, phase) => {
  const shift = (phase + 1) / PHASES
  const row = Float64Array.from({ length: KEPT }, (_, tap) => kaiserSinc(tap - (REACH - 1) - shift, REACH))
  const sum = row.reduce((total, value) => total + value, 0)
  return row.map((value) => value / sum)
})

/**
 * Finds the true peak of sound at 48 kHz by interpolating to four times the rate (ITU-R BS.1770-4, annex 2).
 * Only the surroundings of high samples are interpolated.
 */
export class TruePeakMeter {
  private readonly held: Float32Array[]
  private highest = 0
  private sample = 0

  constructor(private readonly channels: number) {
    this.held = Array.from({ length: channels }, () => new Float32Array(KEPT))
  }

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array): void {
    const frames = Math.floor(interleaved.length / this.channels)
    for (let c = 0; c < this.channels; c++) {
      const before = this.held[c] as Float32Array
      const all = new Float32Array(KEPT + frames)
      all.set(before)
      for (let i = 0; i < frames; i++) all[KEPT + i] = interleaved[i * this.channels + c] as number
      this.search(all)
      before.set(all.subarray(all.length - KEPT))
    }
  }

  /** True peak of what went in so far, linear; its last samples are still missing. */
  sofar(): number {
    return Math.max(this.highest, this.sample)
  }

  /** Highest sample and true peak, linear. */
  finish(): { samplePeak: number; truePeak: number } {
    // Silence after the end, so that the last samples are interpolated as well.
    this.push(new Float32Array(KEPT * this.channels))
    return { samplePeak: this.sample, truePeak: Math.max(this.highest, this.sample) }
  }

  private search(x: Float32Array): void {
    for (let i = REACH; i + REACH < x.length; i++) {
      const here = Math.abs(x[i] as number)
      if (here > this.sample) this.sample = here
    }
    let highest = Math.max(this.highest, this.sample)
    for (let i = REACH - 1; i + REACH < x.length; i++) {
      const here = Math.abs(x[i] as number)
      const next = Math.abs(x[i + 1] as number)
      if ((here > next ? here : next) < highest * WORTH) continue
      for (const row of ROWS) {
        let sum = 0
        for (let tap = 0, from = i - (REACH - 1); tap < KEPT; tap++)
          sum += (x[from + tap] as number) * (row[tap] as number)
        if (sum > highest) highest = sum
        else if (-sum > highest) highest = -sum
      }
    }
    this.highest = highest
  }
}

import { kaiserSinc } from '../audio/kaiser.js'

/** Samples on each side that an interpolated value is made of; the standard's own filter reaches over six. */
const REACH = 12
const KEPT = 2 * REACH
/**
 * A highest value a quarter from a sample is no more than 1 / cos(45 degrees) times that sample, and times the value half way:
 * a band-limited function falls no faster from its maximum than the cosine of its highest frequency (Duffin and Schaeffer, 1938; from memory).
 */
const NEAR = 0.7
/** Between two samples that both lie below this part of the highest value so far, nothing higher is looked for. */
const WORTH = 0.45

/** Kaiser-windowed sinc for a place between two samples: the coefficients of the samples around it, in order. */
function rowAt(shift: number): Float64Array {
  const row = Float64Array.from({ length: KEPT }, (_, tap) => kaiserSinc(tap - (REACH - 1) - shift, REACH))
  const sum = row.reduce((total, value) => total + value, 0)
  return row.map((value) => value / sum)
}
const QUARTER = rowAt(0.25)
/**
 * The first quarter's row is the third's in reverse, and that of the half is the same both ways: so for each pair of samples as far
 * before as after, the three places need what the pair has in common and what it has not, times these.
 */
const HALF = rowAt(0.5).slice(0, REACH)
const EVEN = HALF.map((_, tap) => ((QUARTER[tap] as number) + (QUARTER[KEPT - 1 - tap] as number)) / 2)
const ODD = HALF.map((_, tap) => ((QUARTER[tap] as number) - (QUARTER[KEPT - 1 - tap] as number)) / 2)

/** Sound over a limit within this many frames of the last is the same place: 0.1 s. */
const SAME_PLACE = 4800

/** A place where the true peak lies over a limit: frames `[from, to)`, and how high, linear. */
export interface PeakPlace {
  readonly from: number
  readonly to: number
  readonly peak: number
}

/**
 * Finds the true peak of sound at 48 kHz by interpolating to four times the rate (ITU-R BS.1770-4, annex 2).
 * Only the surroundings of high samples are interpolated.
 */
export class TruePeakMeter {
  /** Where it lies over the limit, in the order of time. */
  readonly overs: PeakPlace[] = []
  private readonly held: Float32Array[]
  private highest = 0
  private sample = 0
  private frames = 0

  /** @param limit - Linear; places over it are listed. None when not given. */
  constructor(
    private readonly channels: number,
    private readonly limit = Infinity,
  ) {
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
    this.frames += frames
  }

  /** Takes frames of silence; as good as zeros. */
  pushSilence(frames: number): void {
    const tail = Math.min(frames, KEPT)
    this.push(new Float32Array(tail * this.channels))
    this.frames += frames - tail
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
      const higher = here > next ? here : next
      const bar = highest < this.limit ? highest : this.limit
      if (higher < bar * WORTH) continue
      const half = halfway(x, i)
      let peak = half > higher ? half : higher
      if (half > bar * NEAR && higher > bar * NEAR) peak = Math.max(peak, quarters(x, i))
      if (peak > highest) highest = peak
      if (peak > this.limit) this.note(this.frames + i - KEPT, peak)
    }
    this.highest = highest
  }

  private note(at: number, peak: number): void {
    const near = this.overs.findLastIndex(
      (place) => at - place.to <= SAME_PLACE && at >= place.from - SAME_PLACE,
    )
    const known = this.overs[near]
    if (!known) this.overs.push({ from: at, to: at + 1, peak })
    else
      this.overs[near] = {
        from: Math.min(known.from, at),
        to: Math.max(known.to, at + 1),
        peak: Math.max(known.peak, peak),
      }
  }
}

/** Size of the value half way between a sample and the next. */
function halfway(x: Float32Array, i: number): number {
  let sum = 0
  for (let tap = 0, first = i - (REACH - 1), last = i + REACH; tap < REACH; tap++)
    sum += ((x[first + tap] as number) + (x[last - tap] as number)) * (HALF[tap] as number)
  return Math.abs(sum)
}

/** Size of the higher of the values a quarter and three quarters of the way: even + odd and even - odd. */
function quarters(x: Float32Array, i: number): number {
  let [even, odd] = [0, 0]
  for (let tap = 0, first = i - (REACH - 1), last = i + REACH; tap < REACH; tap++) {
    const a = x[first + tap] as number
    const b = x[last - tap] as number
    even += (a + b) * (EVEN[tap] as number)
    odd += (a - b) * (ODD[tap] as number)
  }
  return Math.abs(even) + Math.abs(odd)
}

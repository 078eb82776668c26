import { kaiserSinc } from '../audio/kaiser.js'

/** Samples on each side that an interpolated value is made of; the standard's own filter reaches over six. */
const REACH = 12
const KEPT = 2 * REACH
/** Between two samples that both lie below this part of the highest value so far, nothing higher is looked for. */
const WORTH = 0.45
/**
 * How much higher than a curve through the samples about it sound can be between two of them, as a part of how much that curve bends:
 * at most 1.6 for any sine up to 0.98 of the highest frequency, 0.6 for mixtures of them; and 0.05 once the value half way is
 * known (found by trying all phases, and 60,000 mixtures). What bends so little that it can't be the highest is passed over.
 */
const BEND = { whole: 2, half: 0.2 } as const

/** Kaiser-windowed sinc for a place between two samples: the coefficients of the samples around it, in order. */
function rowAt(shift: number): Float64Array {
  const row = Float64Array.from({ length: KEPT }, (_, tap) => kaiserSinc(tap - (REACH - 1) - shift, REACH))
  const sum = row.reduce((total, value) => total + value, 0)
  return row.map((value) => value / sum)
}
const QUARTER = rowAt(0.25)
/**
 * The first quarter's row is the third's in reverse, and that of the half is the same both ways: so for each pair of samples as far
 * before as after, the three places need what the pair has in common and what it has not, times these. From the nearest pair outwards.
 */
const pairs = (row: (tap: number) => number): readonly number[] =>
  Array.from({ length: REACH }, (_, pair) => row(REACH - 1 - pair))
const HALF = pairs((tap) => rowAt(0.5)[tap] as number)
const EVEN = pairs((tap) => ((QUARTER[tap] as number) + (QUARTER[KEPT - 1 - tap] as number)) / 2)
const ODD = pairs((tap) => ((QUARTER[tap] as number) - (QUARTER[KEPT - 1 - tap] as number)) / 2)

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
    const end = x.length - REACH
    let sample = this.sample
    for (let i = REACH; i < end; i++) {
      const here = x[i] as number
      if (here > sample) sample = here
      else if (-here > sample) sample = -here
    }
    this.sample = sample
    let highest = Math.max(this.highest, sample)
    let bar = Math.min(highest, this.limit)
    let least = bar * WORTH
    let here = Math.abs(x[REACH - 1] as number)
    for (let i = REACH - 1; i < end; i++) {
      const next = Math.abs(x[i + 1] as number)
      const higher = here > next ? here : next
      here = next
      if (higher < least || mayReach(x, i, higher) < bar) continue
      const half = halfway(x, i)
      let peak = Math.max(higher, Math.abs(half))
      if (mayReachBeside(x, i, half, peak) >= bar) peak = Math.max(peak, quarters(x, i))
      if (peak > this.limit) this.note(this.frames + i - KEPT, peak)
      if (peak <= highest) continue
      highest = peak
      bar = Math.min(highest, this.limit)
      least = bar * WORTH
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

/** How high sound can be between a sample and the next at most, by the samples about them. */
function mayReach(x: Float32Array, i: number, higher: number): number {
  const outer = (x[i - 1] as number) + (x[i + 2] as number)
  const inner = (x[i] as number) + (x[i + 1] as number)
  const middle = Math.abs((9 * inner - outer) / 16)
  return (middle > higher ? middle : higher) + BEND.whole * Math.abs(inner - outer)
}

/** How high it can be a quarter of the way, by the parabola through a sample, the value half way and the next sample. @param known - The highest of the three */
function mayReachBeside(x: Float32Array, i: number, half: number, known: number): number {
  const first = x[i] as number
  const last = x[i + 1] as number
  const bend = 2 * (first - 2 * half + last)
  const slope = last - first - bend
  const at = -slope / (2 * bend)
  const top = at > 0 && at < 1 ? Math.abs(first + (slope * at) / 2) : 0
  return (top > known ? top : known) + BEND.half * Math.abs(bend)
}

const [H0 = 0, H1 = 0, H2 = 0, H3 = 0, H4 = 0, H5 = 0, H6 = 0, H7 = 0, H8 = 0, H9 = 0, H10 = 0, H11 = 0] =
  HALF

/** The value half way between a sample and the next. Written out: it is most of what the meters of a mix do. */
function halfway(x: Float32Array, i: number): number {
  return (
    ((x[i] as number) + (x[i + 1] as number)) * H0 +
    ((x[i - 1] as number) + (x[i + 2] as number)) * H1 +
    ((x[i - 2] as number) + (x[i + 3] as number)) * H2 +
    ((x[i - 3] as number) + (x[i + 4] as number)) * H3 +
    ((x[i - 4] as number) + (x[i + 5] as number)) * H4 +
    ((x[i - 5] as number) + (x[i + 6] as number)) * H5 +
    ((x[i - 6] as number) + (x[i + 7] as number)) * H6 +
    ((x[i - 7] as number) + (x[i + 8] as number)) * H7 +
    ((x[i - 8] as number) + (x[i + 9] as number)) * H8 +
    ((x[i - 9] as number) + (x[i + 10] as number)) * H9 +
    ((x[i - 10] as number) + (x[i + 11] as number)) * H10 +
    ((x[i - 11] as number) + (x[i + 12] as number)) * H11
  )
}

/** Size of the higher of the values a quarter and three quarters of the way: even + odd and even - odd. */
function quarters(x: Float32Array, i: number): number {
  let [even, odd] = [0, 0]
  for (let pair = 0; pair < REACH; pair++) {
    const a = x[i - pair] as number
    const b = x[i + 1 + pair] as number
    even += (a + b) * (EVEN[pair] as number)
    odd += (a - b) * (ODD[pair] as number)
  }
  return Math.abs(even) + Math.abs(odd)
}

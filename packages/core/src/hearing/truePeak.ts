import { kaiserSinc } from '../audio/kaiser.js'

/** Samples on each side that an interpolated value is made of; the standard's own filter reaches over six. */
const REACH = 12
const KEPT = 2 * REACH
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
const QUARTER = /* @__PURE__ */ rowAt(0.25)
/**
 * The first quarter's row is the third's in reverse, and that of the half is the same both ways: so for each pair of samples as far
 * before as after, the three places need what the pair has in common and what it has not, times these. From the nearest pair outwards.
 */
const pairs = (row: (tap: number) => number): Float64Array =>
  Float64Array.from({ length: REACH }, (_, pair) => row(REACH - 1 - pair))
const HALF = /* @__PURE__ */ pairs((tap) => rowAt(0.5)[tap] as number)
const EVEN = /* @__PURE__ */ pairs(
  (tap) => ((QUARTER[tap] as number) + (QUARTER[KEPT - 1 - tap] as number)) / 2,
)
const ODD = /* @__PURE__ */ pairs(
  (tap) => ((QUARTER[tap] as number) - (QUARTER[KEPT - 1 - tap] as number)) / 2,
)

/** The most that samples not higher than 1 can add up to between two of them: all of them, and all but the two pairs nearest to it. */
const MOST = /* @__PURE__ */ mostBut(0)
const FAR = /* @__PURE__ */ mostBut(2)
function mostBut(nearest: number): number {
  const mostOf = (row: Float64Array): number =>
    row.reduce((sum, value, tap) => {
      const isNear = tap >= REACH - nearest && tap < REACH + nearest
      return isNear ? sum : sum + Math.abs(value)
    }, 0)
  return Math.max(mostOf(rowAt(0.5)), mostOf(QUARTER))
}
/** Frames that are looked through at once. */
const STRETCH = 512

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
 * Only places are interpolated that may be higher than what was.
 */
export class TruePeakMeter {
  /** Where it lies over the limit, in the order of time. */
  readonly overs: { -readonly [Field in keyof PeakPlace]: PeakPlace[Field] }[] = []
  private last: (typeof this.overs)[number] | null = null
  /** Highest sample and highest value, linear; the last samples that came, which those to come are interpolated with. */
  private sample = 0
  private highest = 0
  private held: Float32Array
  private frames = 0

  /** @param limit - Linear; places over it are listed. None when not given. */
  constructor(
    private readonly channels: number,
    private readonly limit = Infinity,
  ) {
    this.held = new Float32Array(KEPT * channels)
  }

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array): void {
    const { channels, held } = this
    const all = new Float32Array(held.length + interleaved.length)
    all.set(held)
    all.set(interleaved, held.length)
    for (let channel = 0; channel < channels; channel++) this.search(all, channel)
    this.held = all.slice(all.length - held.length)
    this.frames += interleaved.length / channels
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

  /** Looks through one channel, a stretch at a time. */
  private search(x: Float32Array, channel: number): void {
    const step = this.channels
    const end = x.length - REACH * step
    for (let from = REACH * step + channel; from < end; from += STRETCH * step) {
      const to = Math.min(end, from + STRETCH * step)
      const highest = highestOf(x, from - (REACH - 1) * step, to + REACH * step, step)
      if (highest > this.sample) this.sample = highest
      // Where nothing can be higher than what was, nothing is interpolated.
      if (highest > 0 && highest * MOST >= this.bar()) this.searchNear(x, channel, from, to, FAR * highest)
    }
  }

  /** Looks at what the nearest samples make of each place of a stretch, and closer where it may be what is sought. @param far - What all others can add to it */
  private searchNear(x: Float32Array, channel: number, from: number, to: number, far: number): void {
    const step = this.channels
    const [h0, e0, o0] = [HALF[0] as number, EVEN[0] as number, ODD[0] as number]
    const [h1, e1, o1] = [HALF[1] as number, EVEN[1] as number, ODD[1] as number]
    let bar = this.bar()
    let [before, first, last] = [x[from - step] as number, x[from] as number, x[from + step] as number]
    for (let i = from; i < to; i += step) {
      const after = x[i + 2 * step] as number
      const inner = first + last
      const outer = before + after
      const half = Math.abs(inner * h0 + outer * h1)
      const quarter =
        Math.abs(inner * e0 + outer * e1) + Math.abs((first - last) * o0 + (before - after) * o1)
      if (half + far >= bar || quarter + far >= bar || first >= bar || first <= -bar) {
        const reach = mayReach(before, first, last, after)
        if (reach >= bar) {
          this.look(x, i, channel, reach)
          bar = this.bar()
        }
      }
      before = first
      first = last
      last = after
    }
  }

  /** What is sought lies over this: more than the highest so far, or a place over the limit. */
  private bar(): number {
    return Math.min(this.highest, this.limit)
  }

  /** Looks at a sample, the next one, and what is between them. @param reach - How high that can be at most */
  private look(x: Float32Array, i: number, channel: number, reach: number): void {
    const step = this.channels
    const first = x[i] as number
    const last = x[i + step] as number
    const higher = Math.max(Math.abs(first), Math.abs(last))
    if (higher > this.highest) this.highest = higher
    const at = this.frames + (i - channel) / step - KEPT
    if (higher > this.limit) this.note(at, higher)
    // In a place that is known to be over the limit only its highest value is sought.
    const bar = Math.min(this.highest, this.known(at))
    if (reach < bar) return
    const half = halfway(x, i, step)
    let peak = Math.max(higher, Math.abs(half))
    if (mayReachBeside(first, half, last, peak) >= bar) peak = Math.max(peak, quarters(x, i, step))
    if (peak > this.limit && peak > higher) this.note(at, peak)
    if (peak > this.highest) this.highest = peak
  }

  /** The limit, or the highest value of the last place over it where that is the place of this frame, too. */
  private known(at: number): number {
    const { last } = this
    return last !== null && isIn(last, at) ? last.peak : this.limit
  }

  private note(at: number, peak: number): void {
    // One side of the sound comes after the other: its places may lie before the last one.
    const { last } = this
    const place =
      last !== null && isIn(last, at)
        ? last
        : this.overs.findLast(({ from, to }) => at - to <= SAME_PLACE && at >= from - SAME_PLACE)
    if (!place) {
      this.last = { from: at, to: at + 1, peak }
      this.overs.push(this.last)
      return
    }
    if (at < place.from) place.from = at
    if (at >= place.to) place.to = at + 1
    if (peak > place.peak) place.peak = peak
  }
}

/** Says whether a frame belongs to a place that began before it. */
const isIn = ({ from, to }: PeakPlace, at: number): boolean => at >= from && at - to <= SAME_PLACE

/** Size of the highest sample of `[from, to)`, one channel of interleaved samples. */
function highestOf(x: Float32Array, from: number, to: number, step: number): number {
  let highest = 0
  for (let i = from; i < to; i += step) {
    const value = Math.abs(x[i] as number)
    if (value > highest) highest = value
  }
  return highest
}

/** How high sound can be between the middle two of four samples at most. */
function mayReach(before: number, first: number, last: number, after: number): number {
  const inner = first + last
  const outer = before + after
  const middle = Math.abs(9 * inner - outer) / 16
  const higher = Math.max(Math.abs(first), Math.abs(last))
  return (middle > higher ? middle : higher) + BEND.whole * Math.abs(inner - outer)
}

/** How high it can be a quarter of the way, by the parabola through a sample, the value half way and the next sample. @param known - The highest of the three */
function mayReachBeside(first: number, half: number, last: number, known: number): number {
  const bend = 2 * (first - 2 * half + last)
  const slope = last - first - bend
  const at = -slope / (2 * bend)
  const top = at > 0 && at < 1 ? Math.abs(first + (slope * at) / 2) : 0
  return (top > known ? top : known) + BEND.half * Math.abs(bend)
}

/** The value half way between a sample and the next. */
function halfway(x: Float32Array, i: number, step: number): number {
  let sum = 0
  for (let pair = 0, before = i, after = i + step; pair < REACH; pair++, before -= step, after += step)
    sum += ((x[before] as number) + (x[after] as number)) * (HALF[pair] as number)
  return sum
}

/** Size of the higher of the values a quarter and three quarters of the way: even + odd and even - odd. */
function quarters(x: Float32Array, i: number, step: number): number {
  let [even, odd] = [0, 0]
  for (let pair = 0, before = i, after = i + step; pair < REACH; pair++, before -= step, after += step) {
    const a = x[before] as number
    const b = x[after] as number
    even += (a + b) * (EVEN[pair] as number)
    odd += (a - b) * (ODD[pair] as number)
  }
  return Math.abs(even) + Math.abs(odd)
}

/** Loudness of silence, and the absolute gate (ITU-R BS.1770-4). */
export const SILENT_LUFS = -70

const STEP = 4800
const STEPS_IN_BLOCK = 4
const STEPS_IN_SHORT = 30
const RELATIVE_GATE = -10
/** EBU Tech 3342: the gate and the percentiles between which the loudness range lies. */
const RANGE = { gate: -20, low: 0.1, high: 0.95 } as const

/** What a programme's loudness is, as Broadcast WAV files state it (EBU Tech 3285, version 2). */
export interface Loudness {
  /** LUFS. */
  readonly integrated: number
  /** LU, after EBU Tech 3342; 0 where it is shorter than three seconds or nothing passes the gate. */
  readonly range: number
  /** Highest loudness of 0.4 s and of 3 s, LUFS. */
  readonly momentary: number
  readonly shortTerm: number
}

// K-weighting at 48 kHz, ITU-R BS.1770-4 tables 1 and 2: [b0, b1, b2, a1, a2].
const SHELF = [
  1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585,
] as const
const HIGH_PASS = [1, -2, 1, -1.99004745483398, 0.99007225036621] as const

/**
 * Measures integrated loudness after ITU-R BS.1770-4 of mono or stereo sound at 48 kHz that arrives in pieces:
 * K-weighted power of blocks of 400 ms every 100 ms, gated at -70 LUFS and 10 LU below what passes that.
 * A sound shorter than a block counts as if silence filled the block.
 */
export class LoudnessMeter {
  private readonly powers: number[] = []
  private readonly state: Float64Array
  private sum = 0
  private count = 0
  private frames = 0

  constructor(private readonly channels: 1 | 2) {
    this.state = new Float64Array(4 * channels)
  }

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array): void {
    const frames = Math.floor(interleaved.length / this.channels)
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + STEP - this.count)
      this.sum +=
        this.channels === 2
          ? weightedPair(interleaved, from, to, this.state)
          : weighted(interleaved, from, to, this.state)
      this.count += to - from
      from = to
      if (this.count === STEP) {
        this.powers.push(this.sum)
        this.sum = this.count = 0
      }
    }
    this.frames += frames
  }

  /** Takes frames of silence: as good as zeros, and much quicker once the filters have run out. */
  pushSilence(frames: number): void {
    const tail = Math.min(frames, STEP * STEPS_IN_BLOCK)
    this.push(new Float32Array(tail * this.channels))
    if (tail === frames) return
    // After 0.4 s of zeros what is left in the filters lies 800 dB down.
    this.state.fill(0)
    this.frames += frames - tail
    this.count += frames - tail
    for (; this.count >= STEP; this.count -= STEP) {
      this.powers.push(this.sum)
      this.sum = 0
    }
  }

  /** Loudness of the last 0.4 s and the last 3 s, in LUFS (EBU Tech 3341: momentary and short-term); {@link SILENT_LUFS} at the least. */
  now(): { momentary: number; shortTerm: number } {
    const last = (steps: number): number => {
      let sum = 0
      for (const power of this.powers.slice(-steps)) sum += power
      return Math.max(SILENT_LUFS, lufs(sum / (STEP * steps)))
    }
    return { momentary: last(STEPS_IN_BLOCK), shortTerm: last(STEPS_IN_SHORT) }
  }

  /** Integrated loudness in LUFS; {@link SILENT_LUFS} when nothing passes the gate. */
  finish(): number {
    const blocks =
      this.frames < STEP * STEPS_IN_BLOCK
        ? [[...this.powers, this.sum].reduce((sum, power) => sum + power, 0) / (STEP * STEPS_IN_BLOCK)]
        : this.windows(STEPS_IN_BLOCK)
    const heard = aboveGate(blocks, RELATIVE_GATE)
    return heard.length === 0 ? SILENT_LUFS : lufs(mean(heard))
  }

  /** All that is stated of a programme; what is not reached is {@link SILENT_LUFS}. */
  measures(): Loudness {
    const highest = (steps: number): number =>
      Math.max(SILENT_LUFS, lufs(this.windows(steps).reduce((most, power) => Math.max(most, power), 0)))
    return {
      integrated: this.finish(),
      range: rangeOf(this.windows(STEPS_IN_SHORT)),
      momentary: highest(STEPS_IN_BLOCK),
      shortTerm: highest(STEPS_IN_SHORT),
    }
  }

  /** Mean power of every stretch of so many steps, one each 100 ms. */
  private windows(steps: number): number[] {
    const means: number[] = []
    for (let i = steps; i <= this.powers.length; i++) {
      let sum = 0
      for (let j = i - steps; j < i; j++) sum += this.powers[j] as number
      means.push(sum / (STEP * steps))
    }
    return means
  }
}

/** Powers over {@link SILENT_LUFS} and, of those, over their mean plus a gate in LU. */
function aboveGate(powers: readonly number[], gate: number): number[] {
  const heard = powers.filter((power) => lufs(power) > SILENT_LUFS)
  if (heard.length === 0) return []
  const least = lufs(mean(heard)) + gate
  return heard.filter((power) => lufs(power) > least)
}

/** Loudness range after EBU Tech 3342, LU: between two percentiles of the short-term loudness above the gate. */
function rangeOf(shortTerm: readonly number[]): number {
  const heard = aboveGate(shortTerm, RANGE.gate).sort((a, b) => a - b)
  if (heard.length === 0) return 0
  const at = (part: number): number => lufs(heard[Math.round((heard.length - 1) * part)] as number)
  return at(RANGE.high) - at(RANGE.low)
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length
const lufs = (power: number): number => (power <= 0 ? -Infinity : -0.691 + 10 * Math.log10(power))

/** Sum of squares of weighted samples of a mono sound; keeps the filters' memory in `state`. Both filters in transposed direct form II. */
function weighted(x: Float32Array, from: number, to: number, state: Float64Array): number {
  let [s1 = 0, s2 = 0, t1 = 0, t2 = 0] = state
  const [b0, b1, b2, a1, a2] = SHELF
  const [, , , d1, d2] = HIGH_PASS
  let sum = 0
  for (let i = from; i < to; i++) {
    const input = x[i] as number
    const y = b0 * input + s1
    s1 = b1 * input - a1 * y + s2
    s2 = b2 * input - a2 * y
    const z = y + t1
    t1 = t2 - 2 * y - d1 * z
    t2 = y - d2 * z
    sum += z * z
  }
  state.set([s1, s2, t1, t2])
  return sum
}

/** The same for interleaved stereo: both sides at once, so that neither waits for the other's filters. */
function weightedPair(x: Float32Array, from: number, to: number, state: Float64Array): number {
  let [s1 = 0, s2 = 0, t1 = 0, t2 = 0, u1 = 0, u2 = 0, v1 = 0, v2 = 0] = state
  const [b0, b1, b2, a1, a2] = SHELF
  const [, , , d1, d2] = HIGH_PASS
  let sum = 0
  for (let i = 2 * from; i < 2 * to; i += 2) {
    const left = x[i] as number
    const right = x[i + 1] as number
    const y = b0 * left + s1
    const w = b0 * right + u1
    s1 = b1 * left - a1 * y + s2
    u1 = b1 * right - a1 * w + u2
    s2 = b2 * left - a2 * y
    u2 = b2 * right - a2 * w
    const z = y + t1
    const q = w + v1
    t1 = t2 - 2 * y - d1 * z
    v1 = v2 - 2 * w - d1 * q
    t2 = y - d2 * z
    v2 = w - d2 * q
    sum += z * z + q * q
  }
  state.set([s1, s2, t1, t2, u1, u2, v1, v2])
  return sum
}

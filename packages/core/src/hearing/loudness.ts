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

  constructor(private readonly channels: number) {
    this.state = new Float64Array(8 * channels)
  }

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array): void {
    const frames = Math.floor(interleaved.length / this.channels)
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + STEP - this.count)
      for (let c = 0; c < this.channels; c++)
        this.sum += weighted(interleaved, this.channels, c, from, to, this.state)
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

/** Sum of squares of one channel's weighted samples; keeps the filters' memory in `state`. */
function weighted(
  x: Float32Array,
  channels: number,
  channel: number,
  from: number,
  to: number,
  state: Float64Array,
): number {
  const at = 8 * channel
  let [x1 = 0, x2 = 0, y1 = 0, y2 = 0, z1 = 0, z2 = 0] = state.subarray(at, at + 6)
  const [b0, b1, b2, a1, a2] = SHELF
  const [c0, c1, c2, d1, d2] = HIGH_PASS
  let sum = 0
  for (let i = from * channels + channel; i < to * channels; i += channels) {
    const input = x[i] as number
    const y = b0 * input + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2
    const z = c0 * y + c1 * y1 + c2 * y2 - d1 * z1 - d2 * z2
    x2 = x1
    x1 = input
    y2 = y1
    y1 = y
    z2 = z1
    z1 = z
    sum += z * z
  }
  state.set([x1, x2, y1, y2, z1, z2], at)
  return sum
}

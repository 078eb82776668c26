/** Loudness of silence, and the absolute gate (ITU-R BS.1770-4). */
export const SILENT_LUFS = -70

const STEP = 4800
const STEPS_IN_BLOCK = 4
const STEPS_IN_SHORT = 30
const RELATIVE_GATE = -10

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
    const blocks: number[] = []
    if (this.frames < STEP * STEPS_IN_BLOCK)
      blocks.push([...this.powers, this.sum].reduce((sum, power) => sum + power, 0) / (STEP * STEPS_IN_BLOCK))
    for (let i = STEPS_IN_BLOCK; i <= this.powers.length; i++) {
      let sum = 0
      for (let j = i - STEPS_IN_BLOCK; j < i; j++) sum += this.powers[j] as number
      blocks.push(sum / (STEP * STEPS_IN_BLOCK))
    }
    const heard = blocks.filter((power) => lufs(power) > SILENT_LUFS)
    if (heard.length === 0) return SILENT_LUFS
    const gate = lufs(mean(heard)) + RELATIVE_GATE
    return lufs(mean(heard.filter((power) => lufs(power) > gate)))
  }
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

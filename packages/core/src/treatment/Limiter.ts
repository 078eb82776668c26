import { SAMPLES_PER_MS } from '../time/units.js'
import { MIX_BLOCK } from '../signal/soundPort.js'
import type { Settings } from '../reel/inserts.js'
import type { Bus, Processor } from './bus.js'

/** Samples by which a limiter sees ahead (5 ms). */
export const LOOK_AHEAD = 240
const SIZE = 512
const MASK = SIZE - 1

/**
 * Keeps every sample at or below a ceiling, the same gain for all channels. The gain that each sample needs is held for as long as is looked ahead,
 * comes back by the release, and is averaged over the same length: at the sample itself it has come all the way, without a step.
 */
export class Limiter implements Processor<Settings<'limiter'>> {
  readonly latency = LOOK_AHEAD
  private ceiling = 1
  private back = 0
  private readonly held = [new Float32Array(SIZE), new Float32Array(SIZE), new Float32Array(SIZE)] as const
  private readonly needed = new Float64Array(SIZE)
  private readonly smooth = new Float64Array(SIZE)
  /** Samples by rising need: places of the lowest gains within what is looked ahead. */
  private readonly lows = new Int32Array(SIZE)
  private lowFrom = 0
  private lowTo = 0
  private now = 0
  private released = 1
  private sum = LOOK_AHEAD
  private monoUntil = 0
  private stereoUntil = 0
  private readonly gains = new Float32Array(MIX_BLOCK)

  constructor() {
    this.reset()
  }

  set({ ceiling, release }: Settings<'limiter'>): void {
    this.ceiling = 10 ** (ceiling / 20)
    this.back = 1 - Math.exp(-1 / (release * SAMPLES_PER_MS))
  }

  tail(): number {
    return LOOK_AHEAD
  }

  reset(): void {
    for (const channel of this.held) channel.fill(0)
    this.needed.fill(1)
    this.smooth.fill(1)
    this.lowFrom = this.lowTo = this.now = this.monoUntil = this.stereoUntil = 0
    this.released = 1
    this.sum = LOOK_AHEAD
  }

  process(bus: Bus, count: number): void {
    const { mono, left, right } = bus
    const begun = this.now
    if (bus.hasMono) {
      if (begun >= this.monoUntil) this.held[0].fill(0)
      this.monoUntil = begun + count + LOOK_AHEAD
    }
    if (bus.hasStereo) {
      if (begun >= this.stereoUntil) for (const side of this.held.slice(1)) side.fill(0)
      this.stereoUntil = begun + count + LOOK_AHEAD
    }
    for (let i = 0; i < count; i++) {
      const a = bus.hasMono ? Math.abs(mono[i] as number) : 0
      const b = bus.hasStereo ? Math.max(Math.abs(left[i] as number), Math.abs(right[i] as number)) : 0
      this.gains[i] = this.next(Math.max(a, b))
    }
    // What comes out went in a while ago: a side sounds until its last sample is through.
    if (begun < this.monoUntil) {
      bus.wakeMono(count)
      this.pass(mono, 0, begun, count)
    }
    if (begun < this.stereoUntil) {
      bus.wakeStereo(count)
      this.pass(left, 1, begun, count)
      this.pass(right, 2, begun, count)
    }
  }

  /** The gain of the sample that went in {@link LOOK_AHEAD} samples before this one. */
  private next(level: number): number {
    const { needed, lows, now } = this
    const need = level > this.ceiling ? this.ceiling / level : 1
    needed[now & MASK] = need
    while (
      this.lowTo > this.lowFrom &&
      (needed[(lows[(this.lowTo - 1) & MASK] as number) & MASK] as number) >= need
    )
      this.lowTo--
    lows[this.lowTo++ & MASK] = now
    if ((lows[this.lowFrom & MASK] as number) < now - LOOK_AHEAD) this.lowFrom++
    const lowest = needed[(lows[this.lowFrom & MASK] as number) & MASK] as number
    this.released = lowest < this.released ? lowest : this.released + (lowest - this.released) * this.back
    this.sum += this.released - (this.smooth[(now - LOOK_AHEAD) & MASK] as number)
    this.smooth[now & MASK] = this.released
    this.now++
    return Math.min(1, this.sum / LOOK_AHEAD)
  }

  private pass(x: Float32Array, channel: 0 | 1 | 2, begun: number, count: number): void {
    const held = this.held[channel]
    const { ceiling } = this
    for (let i = 0; i < count; i++) {
      const at = begun + i
      const late = held[(at - LOOK_AHEAD) & MASK] as number
      held[at & MASK] = x[i] as number
      const value = late * (this.gains[i] as number)
      // The sum of the average may be off in its last digit.
      x[i] = value > ceiling ? ceiling : value < -ceiling ? -ceiling : value
    }
  }
}

import { kernelFloats, kernels, type Address } from '../../kernels/kernels.js'
import { SAMPLE_RATE } from '../../time/units.js'

/** Samples in which what was heard falls to a third: speech has its gaps. */
const HOLD = 0.12 * SAMPLE_RATE
const FALL = Math.exp(-1 / HOLD)
/** -54 dBFS: what is softer leaves a device silent. */
const AWAKE = 10 ** (-54 / 20)
/** Samples for which a device hisses on after its last sound, of its click, and of the burst when it closes. */
const ON = 0.7 * SAMPLE_RATE
const CLICK = 0.006 * SAMPLE_RATE
const BURST = 0.16 * SAMPLE_RATE
/** How much louder click and burst are than the hiss. */
const KEYED = 12
/** Crackles are told among so many samples. */
const AMONG = 2 ** 20

/** Samples for which a device may sound after the last that went in. */
export const NOISE_TAIL = Math.ceil(ON + BURST - HOLD * Math.log(AWAKE))

/** Where the channels lie that go through a device. */
type Heard = readonly { readonly x: Address }[]

/** What a device makes itself while it is open: always the same at a moment of the reel. */
export class DeviceNoise {
  private heard = 0
  /** Samples since it was last heard; the device is closed once it hisses no more. */
  private quiet = Infinity
  private sinceOpen = Infinity

  /** Closes it. */
  reset(): void {
    this.heard = 0
    this.quiet = this.sinceOpen = Infinity
  }

  /**
   * Writes the noise of the next `count` samples.
   *
   * @param heard - Where what goes through it lies, for each channel
   * @param at - Sample of the reel
   * @param level - Of the hiss
   * @returns false when it is silent, and nothing was written
   */
  write(
    heard: Heard,
    into: Address,
    count: number,
    at: number,
    level: number,
    { crackle, keyed }: { readonly crackle: number; readonly keyed: boolean },
  ): boolean {
    const run = kernels()
    const crackles = Math.round((crackle / SAMPLE_RATE) * AMONG)
    const end = keyed ? ON + BURST : ON
    const fallen = this.heard * FALL ** count
    let after = fallen
    for (const { x } of heard) after = Math.max(after, run.heardAfter(x, count, this.heard, FALL, FALL ** 4))
    // Heard all the time, or never: so it is nearly always.
    if (this.quiet === 0 && fallen > AWAKE && !(keyed && this.sinceOpen < CLICK)) {
      this.heard = after
      this.sinceOpen += count
      run.hiss(into, count, at, level, crackles)
      return true
    }
    if (this.quiet >= end && after * FALL ** -count <= AWAKE) {
      this.heard = after
      this.quiet += count
      return false
    }
    run.hiss(into, count, at, level, crackles)
    this.open(heard, into, count, keyed, end)
    return true
  }

  /** Lets the noise through sample by sample as far as the device is open. */
  private open(heard: Heard, into: Address, count: number, keyed: boolean, end: number): void {
    const floats = kernelFloats()
    const first = into >> 2
    for (let i = 0; i < count; i++) {
      this.heard *= FALL
      for (const { x } of heard) this.heard = Math.max(this.heard, Math.abs(floats[(x >> 2) + i] as number))
      const awake = this.heard > AWAKE
      if (awake && this.quiet >= end) this.sinceOpen = 0
      this.quiet = awake ? 0 : this.quiet + 1
      let gain = 1
      if (this.quiet >= end) gain = 0
      else if (keyed && (this.sinceOpen < CLICK || this.quiet >= ON)) gain = KEYED
      else if (this.quiet > 0) gain = 1 - this.quiet / end
      if (gain > 0) this.sinceOpen++
      floats[first + i] = (floats[first + i] as number) * gain
    }
  }
}

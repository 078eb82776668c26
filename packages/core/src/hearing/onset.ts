const HOP = 48
const STRONG_DB = -9
const RISE = 0.12

/**
 * Finds the first strong onset of a recording at 48 kHz: the default sync point.
 * In steps of 1 ms the peak outline is followed to the first rise within 9 dB of the loudest step that stands
 * 12 dB above the 60 ms before it; from there back to where the attack begins, to the sample.
 * A recording without such a rise (an ambience) has its sync point at 0.
 */
export class OnsetFinder {
  private readonly outline: number[] = []
  private highest = 0
  private inHop = 0
  private peak = 0

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array, channels: number): void {
    const count = Math.floor(interleaved.length / channels)
    for (let i = 0; i < count; i++) {
      for (let c = 0; c < channels; c++) {
        const value = Math.abs(interleaved[i * channels + c] as number)
        if (value > this.peak) this.peak = value
      }
      if (++this.inHop === HOP) {
        this.outline.push(this.peak)
        this.highest = Math.max(this.highest, this.peak)
        this.peak = this.inHop = 0
      }
    }
  }

  /** The sample, to the nearest millisecond before the attack's rise; 0 when there is no onset. */
  finish(): number {
    const strong = this.highest * 10 ** (STRONG_DB / 20)
    if (this.highest === 0) return 0
    for (let i = 0; i < this.outline.length; i++) {
      const value = this.outline[i] as number
      if (value < strong) continue
      const before = this.outline.slice(Math.max(0, i - 60), Math.max(0, i - 2))
      const floor = before.length === 0 ? 0 : before.reduce((sum, step) => sum + step, 0) / before.length
      if (floor * 4 > value && i >= 3) continue
      return this.attackBefore(i) * HOP
    }
    return 0
  }

  private attackBefore(index: number): number {
    // The attack's own peak may lie a few steps on; the beginning is where it stood at 12 % of it.
    let top = 0
    for (let i = index; i < Math.min(this.outline.length, index + 8); i++) top = Math.max(top, this.outline[i] as number)
    let at = index
    while (at > 0 && index - at < 30 && (this.outline[at - 1] as number) > top * RISE) at--
    return at
  }
}

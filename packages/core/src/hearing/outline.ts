/** Samples of one step of an outline: 1 ms. */
export const OUTLINE_STEP = 48

/** Collects the highest absolute sample of every millisecond over all channels; a four-hour recording takes 58 MB. */
export class OutlineCollector {
  private values = new Float32Array(4096)
  private steps = 0
  private peak = 0
  private inStep = 0

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array, channels: number): void {
    const frames = Math.floor(interleaved.length / channels)
    for (let i = 0, at = 0; i < frames; i++) {
      for (let c = 0; c < channels; c++, at++) {
        const value = interleaved[at] as number
        if (value > this.peak) this.peak = value
        else if (-value > this.peak) this.peak = -value
      }
      if (++this.inStep === OUTLINE_STEP) this.close()
    }
  }

  /** The outline; its last step may be shorter. */
  finish(): Float32Array {
    if (this.inStep > 0) this.close()
    return this.values.slice(0, this.steps)
  }

  private close(): void {
    if (this.steps === this.values.length) {
      const grown = new Float32Array(this.values.length * 2)
      grown.set(this.values)
      this.values = grown
    }
    this.values[this.steps++] = this.peak
    this.peak = this.inStep = 0
  }
}

/** A Hann window of `size` values, 0 to 1, as it is cut again and again (periodic). */
export function hannWindow(size: number): Float64Array {
  return Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size))
}

/** Cuts sound that arrives in pieces into windows of one size, each `hop` samples after the one before. */
export class WindowCutter {
  /** The window that is being filled, or was cut last. */
  readonly held: Float32Array
  /** Samples of it that are there. */
  filled = 0

  constructor(
    private readonly size: number,
    private readonly hop: number,
    private readonly onWindow: () => void,
  ) {
    this.held = new Float32Array(size)
  }

  /** Takes the next mono samples. */
  push(mono: Float32Array): void {
    for (let at = 0; at < mono.length;) {
      const count = Math.min(this.size - this.filled, mono.length - at)
      this.held.set(mono.subarray(at, at + count), this.filled)
      this.filled += count
      at += count
      if (this.filled < this.size) continue
      this.onWindow()
      this.held.copyWithin(0, this.hop)
      this.filled = this.size - this.hop
    }
  }
}

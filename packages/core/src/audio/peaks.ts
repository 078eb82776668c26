/** Samples per peak at each stored resolution, finest first. */
export const PEAK_STEPS = [256, 2048, 16384] as const

/** Outline of a recording: for each step of samples the lowest and highest value over all channels, -127 to 127. */
export interface PeakLevel {
  readonly step: number
  /** Low and high alternating. */
  readonly values: Int8Array
}

/** Collects peaks from decoded sound that arrives in pieces; coarse levels are derived from the finest. */
export class PeakCollector {
  private readonly values: number[] = []
  private low = 0
  private high = 0
  private inStep = 0

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array, channels: number): void {
    const count = Math.floor(interleaved.length / channels)
    for (let i = 0; i < count; i++) {
      for (let c = 0; c < channels; c++) {
        const value = interleaved[i * channels + c] as number
        if (value < this.low) this.low = value
        else if (value > this.high) this.high = value
      }
      if (++this.inStep === PEAK_STEPS[0]) this.close()
    }
  }

  /** Ends the recording and gives all levels, finest first. */
  finish(): PeakLevel[] {
    if (this.inStep > 0) this.close()
    const levels: PeakLevel[] = [{ step: PEAK_STEPS[0], values: Int8Array.from(this.values) }]
    for (let i = 1; i < PEAK_STEPS.length; i++) {
      const finer = levels[i - 1] as PeakLevel
      levels.push(coarser(finer, (PEAK_STEPS[i] as number) / finer.step))
    }
    return levels
  }

  private close(): void {
    // Outwards, so that a quiet sound still shows and an over is never drawn smaller than it is.
    this.values.push(Math.max(-127, Math.floor(this.low * 127)), Math.min(127, Math.ceil(this.high * 127)))
    this.low = this.high = this.inStep = 0
  }
}

function coarser(finer: PeakLevel, factor: number): PeakLevel {
  const count = Math.ceil(finer.values.length / 2 / factor)
  const values = new Int8Array(count * 2)
  for (let i = 0; i < finer.values.length / 2; i++) {
    const to = Math.floor(i / factor) * 2
    values[to] = Math.min(values[to] as number, finer.values[2 * i] as number)
    values[to + 1] = Math.max(values[to + 1] as number, finer.values[2 * i + 1] as number)
  }
  return { step: finer.step * factor, values }
}

/** Highest absolute value (0 to 1) of an outline within a span of samples `[from, to)`. */
export function peakWithin(level: PeakLevel, from: number, to: number): number {
  const first = Math.max(0, Math.floor(from / level.step))
  const last = Math.min(level.values.length / 2, Math.max(first + 1, Math.ceil(to / level.step)))
  let highest = 0
  for (let i = first; i < last; i++) {
    highest = Math.max(highest, -(level.values[2 * i] as number), level.values[2 * i + 1] as number)
  }
  return highest / 127
}

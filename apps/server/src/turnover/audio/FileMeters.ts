import { dbFromGain, gainFromDb, LoudnessMeter, TruePeakMeter, type BextLoudness } from '@yodel/core'

/** What was measured of a file. */
export interface FileMeasures extends BextLoudness {
  /** Places over the true peak asked for: samples of the reel, and how high (dBTP). */
  readonly places: { from: number; to: number; peak: number }[]
}

/** What is nothing: digital silence, in dBFS. */
export const SILENT_DB = -144
/** A linear value as decibels. */
export const decibels = (value: number): number =>
  value > 0 ? Math.max(SILENT_DB, dbFromGain(value)) : SILENT_DB

/** The meters of a stereo file: given its interleaved samples, or frames of silence, in their order. */
export class FileMeters {
  private readonly loudness = new LoudnessMeter(2)
  private readonly truePeak: TruePeakMeter

  /** @param limit - True peak over which places are listed, dBTP, or null */
  constructor(limit: number | null) {
    this.truePeak = new TruePeakMeter(2, limit === null ? Infinity : gainFromDb(limit))
  }

  /** Measures the next samples. */
  take(samples: Float32Array): void {
    this.loudness.push(samples)
    this.truePeak.push(samples)
  }

  /** Measures frames of silence. */
  silence(frames: number): void {
    this.loudness.pushSilence(frames)
    this.truePeak.pushSilence(frames)
  }

  /** What was measured. @param first - Sample of the reel with which the file begins */
  finish(first: number): FileMeasures {
    const highest = this.truePeak.finish().truePeak
    const places = this.truePeak.overs.map(({ from, to, peak }) => ({
      ...{ from: first + from, to: first + to },
      peak: decibels(peak),
    }))
    return { ...this.loudness.measures(), truePeak: decibels(highest), places }
  }
}

import { LoudnessMeter, TruePeakMeter } from '@yodel/core'
import type { MixLevels, MixPart } from './messages.js'

const SILENT_DB = -144

/** Measures how loud the parts of the mix are that the audio thread hands on, since playing started. */
export class MixMeters {
  private parts = new Map<MixPart, { loudness: LoudnessMeter; peak: TruePeakMeter }>()

  constructor(private readonly tell: (levels: MixLevels) => void) {}

  /** Begins anew. */
  reset(): void {
    this.parts.clear()
  }

  /** Takes the next interleaved samples of a part; the whole comes last, and with it all are told. */
  take(part: MixPart, samples: Float32Array): void {
    const meter = this.parts.get(part) ?? { loudness: new LoudnessMeter(2), peak: new TruePeakMeter(2) }
    this.parts.set(part, meter)
    meter.loudness.push(samples)
    meter.peak.push(samples)
    if (part === 'whole')
      this.tell(
        Object.fromEntries(
          [...this.parts].map(([name, { loudness, peak }]) => [
            name,
            { ...loudness.now(), integrated: loudness.finish(), truePeak: decibels(peak.sofar()) },
          ]),
        ),
      )
  }
}

const decibels = (value: number): number =>
  value > 0 ? Math.max(SILENT_DB, 20 * Math.log10(value)) : SILENT_DB

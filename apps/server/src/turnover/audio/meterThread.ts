import { parentPort } from 'node:worker_threads'
import { dbFromGain, gainFromDb, LoudnessMeter, TruePeakMeter, type BextLoudness } from '@yodel/core'

/** What the meters of a mix are told: which file, and what comes next in it. */
export type MeterNews =
  | { readonly file: number; readonly samples: Float32Array }
  | { readonly file: number; readonly silence: number }
  | { readonly finish: { readonly from: number } }
  | { readonly begin: { readonly files: number; readonly truePeak: number | null } }

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

interface Meters {
  readonly loudness: LoudnessMeter
  readonly truePeak: TruePeakMeter
}
let meters: readonly Meters[] = []

/** Measures in a thread of its own what another one mixes; answers each piece, so that the other never runs far ahead. */
parentPort?.on('message', (news: MeterNews) => {
  if ('begin' in news) {
    const { files, truePeak } = news.begin
    const limit = truePeak === null ? Infinity : gainFromDb(truePeak)
    meters = Array.from({ length: files }, () => ({
      loudness: new LoudnessMeter(2),
      truePeak: new TruePeakMeter(2, limit),
    }))
    return
  }
  if ('finish' in news) {
    parentPort?.postMessage(meters.map((meter) => measured(meter, news.finish.from)))
    return
  }
  const { loudness, truePeak } = meters[news.file] as Meters
  if ('silence' in news) {
    loudness.pushSilence(news.silence)
    truePeak.pushSilence(news.silence)
  } else {
    loudness.push(news.samples)
    truePeak.push(news.samples)
  }
  parentPort?.postMessage(null)
})

function measured({ loudness, truePeak }: Meters, first: number): FileMeasures {
  const highest = truePeak.finish().truePeak
  const places = truePeak.overs.map(({ from, to, peak }) => ({
    ...{ from: first + from, to: first + to },
    peak: decibels(peak),
  }))
  return { ...loudness.measures(), truePeak: decibels(highest), places }
}

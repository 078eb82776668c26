import type { FoldedRoom, MIX_PARTS, Room } from '@yodel/core'
import type { PlanNews } from './planNews.js'

/** A stretch of the reel in samples, `[from, to)`, that playing goes round in. */
export interface Loop {
  readonly from: number
  readonly to: number
}

/** What playing starts from. `token` ties together the messages of one start. */
export interface Start {
  readonly token: number
  /** Sample of the reel. */
  readonly from: number
  /** 1, 0.5 or 0.25. */
  readonly speed: number
  readonly loop: Loop | null
}

/** From the page to the audio thread. */
export type ToWorklet =
  | { type: 'plan'; news: PlanNews }
  | ({ type: 'arm' } & Start)
  | { type: 'loop'; loop: Loop | null }
  | { type: 'stop' }
  | { type: 'feeder'; port: MessagePort }

/** From the audio thread to the page. Times are in the context's sample frames. */
export type FromWorklet =
  /** What sounds from `frame` on is the reel from sample `at` on. */
  | { type: 'started' | 'looped'; token: number; frame: number; at: number }
  | {
      type: 'meter'
      left: number
      right: number
      misses: number
      frame: number
      at: number
      playing: boolean
    }

/** From the feeder to the audio thread. */
export type FeedMessage =
  | { type: 'room'; room: Room; folded: FoldedRoom }
  | { type: 'chunk'; mediaId: string; index: number; channels: Float32Array[] }
  | { type: 'forget'; mediaId: string; index: number }
  | { type: 'go'; token: number }

/** A part of the mix that loudness is told of. */
export type MixPart = (typeof MIX_PARTS)[number]

/** From the audio thread to the feeder: a tenth of a second of each part that sounds, interleaved. */
export type HeardMessage = { type: 'heard'; part: MixPart; samples: Float32Array }

/** Loudness of a part of the mix since playing started: LUFS of the last 0.4 and 3 seconds and of all, and true peak in dBTP. */
export interface PartLevels {
  readonly momentary: number
  readonly shortTerm: number
  readonly integrated: number
  readonly truePeak: number
}

/** Levels of the parts that have sounded. */
export type MixLevels = Partial<Record<MixPart, PartLevels>>

/** From the page to the feeder. */
export type ToFeeder =
  | { type: 'worklet'; port: MessagePort }
  | { type: 'plan'; news: PlanNews }
  | ({ type: 'start' } & Start)
  | { type: 'loop'; loop: Loop | null }
  | { type: 'stop' }
  | { type: 'at'; sample: number }
  | { type: 'prepare'; mediaId: string; from: number; to: number }

/** From the feeder to the page. */
export type FromFeeder =
  { type: 'trouble'; mediaId: string; message: string } | { type: 'levels'; levels: MixLevels }

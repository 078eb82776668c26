import type { Category } from '../reel/categories.js'
import type { Insert } from '../reel/inserts.js'
import type { Clip, FadeShape } from '../reel/records.js'
import type { Ride } from './ride.js'
import type { Warp } from './warp.js'

/** How a recording is played when it is not played straight on. */
export interface Played {
  /** Samples of the recording that pass in one sample of the reel: 2 is twice as fast and an octave higher. */
  readonly speed: number
  readonly reverse: boolean
  /** Left and right as they are, the other way round, or both the sum of both (each at half). */
  readonly sides: Clip['sides']
  /** Length of the recording as it is played, in samples of the reel. */
  readonly recorded: number
  /** How its speed changes on the way, and how it goes past; absent when it is even and stays. */
  readonly warp?: Warp
}

/** One sounding thing of a render plan; positions and lengths in samples at 48 kHz. */
export interface PlanVoice {
  readonly mediaId: string
  /** `[start, end)` in the reel. */
  readonly start: number
  readonly end: number
  /** Sample of the recording that sounds at `start`. */
  readonly offset: number
  /** Linear. */
  readonly gain: number
  readonly fadeIn: number
  readonly fadeOut: number
  readonly fadeInShape: FadeShape
  readonly fadeOutShape: FadeShape
  /** Absent when the recording is played straight on. */
  readonly played?: Played
  /** Treatment of its own, in its order; absent where it has none. */
  readonly inserts?: readonly Insert[]
  /** The same for the same sound in the next plan, so that its treatment goes on sounding; only where it has any. */
  readonly key?: string
}

/** What sounds on one track: voices by start, their treatment, then level and place. */
export interface PlanStrip {
  /** The same for the same track in the next plan, so that its treatment goes on sounding. */
  readonly key: string
  readonly voices: readonly PlanVoice[]
  /** In their order; without those that are passed by. */
  readonly inserts: readonly Insert[]
  /** Linear. */
  readonly level: number
  /** -1 to 1. */
  readonly pan: number
  /** Ride of the level, in dB on top of it. */
  readonly levelRide?: Ride
  /** Ride of the place, instead of the pan. */
  readonly panRide?: Ride
  /** The part of the mix it belongs to; null for what is heard beside the mix. */
  readonly stem: Category | null
  /** All that sounds on it is summed to mono before its treatment. */
  readonly mono: boolean
}

/** What is to be heard. A plain value that crosses threads. */
export interface RenderPlan {
  readonly strips: readonly PlanStrip[]
  /** Treatment of the stems that have any. */
  readonly stems: Readonly<Partial<Record<Category, readonly Insert[]>>>
  readonly whole: readonly Insert[]
  /** Linear; what all that is heard is multiplied by at the very end, such as to compare at equal loudness. */
  readonly gain: number
}

/** All pieces of treatment of a plan. */
export function insertsOfPlan({ strips, stems, whole }: RenderPlan): Insert[] {
  const ofStrip = ({ inserts, voices }: PlanStrip): readonly Insert[] => [
    ...inserts,
    ...voices.flatMap((voice) => voice.inserts ?? []),
  ]
  return [...strips.flatMap(ofStrip), ...Object.values(stems).flat(), ...whole]
}

/** Nothing to be heard. */
export const EMPTY_PLAN: RenderPlan = { strips: [], stems: {}, whole: [], gain: 1 }

/** A plan of voices by themselves, in the order of their starts, at full level in the middle. */
export function planOfVoices(voices: readonly PlanVoice[], strip: Partial<PlanStrip> = {}): RenderPlan {
  return {
    ...EMPTY_PLAN,
    strips: [{ key: 'voices', voices, inserts: [], level: 1, pan: 0, stem: null, mono: false, ...strip }],
  }
}

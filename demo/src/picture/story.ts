import { FRAME_RATES, framesToSeconds, parseTimecode, type FrameRate, type FrameRateId } from '@yodel/core'

/** Frames a second of reel 1. */
export const FPS = 24
/** Length of reel 1's leader before the programme, in frames: 00:59:52:00 to 01:00:00:00. */
export const LEADER = 8 * FPS
/** Length of reel 1's programme in frames. */
export const PROGRAMME = 96 * FPS

/** What happens on one frame of the picture, counted from the reel's first frame (the head of the leader). */
export interface StoryEvent {
  readonly frame: number
  readonly what: EventKind
  /** Which one, for things of which there are several. */
  readonly note?: string
}

/** Kinds of things that happen and make a sound. */
export type EventKind =
  // The 2-pop: one frame of 1 kHz, two seconds before the programme.
  | 'pop'
  | 'step gravel'
  | 'step boards'
  | 'step paving'
  | 'door'
  | 'bell'
  | 'lever'
  | 'lid'
  | 'pour'
  | 'pen'
  | 'pen drops'
  | 'register'
  | 'whistle'
  | 'train'
  | 'clock'
  | 'telephone'
  | 'lamp'
  | 'signal'
  | 'thunder'
  | 'chair'

/** Scenes that the picture is drawn in. */
export type Scene = 'yard' | 'box' | 'levers' | 'stove' | 'desk' | 'line' | 'waiting' | 'platform'

/** A shot: the frame of the programme at which it begins, and what it shows. */
export interface Shot {
  readonly from: number
  readonly scene: Scene
  /** Whoever walks in it walks away, to the left. */
  readonly leaving?: boolean
}
type Script = readonly (readonly [frame: number, what: EventKind, note?: string])[]

/** What a reel's picture shows: shots, and every event by frame, counted from the reel's first frame. */
export class Story {
  readonly rate: FrameRate
  readonly events: readonly StoryEvent[]

  constructor(
    readonly facts: {
      readonly rate: FrameRateId
      /** Timecode of the reel's first frame. */
      readonly first: string
      readonly leader: number
      readonly programme: number
      /** Name of its files, and what is burnt into its picture. */
      readonly file: string
      readonly burnt: string
    },
    readonly shots: readonly Shot[],
    script: Script,
  ) {
    this.rate = FRAME_RATES[facts.rate]
    this.events = [
      { frame: this.pop, what: 'pop' as const },
      ...script.map(([frame, what, note]) => ({
        ...{ frame: facts.leader + frame, what },
        ...(note ? { note } : {}),
      })),
    ].sort((a, b) => a.frame - b.frame)
  }

  /** The reel's first frame, counted from 00:00:00:00. */
  get first(): number {
    const parsed = parseTimecode(this.facts.first, this.rate)
    if (!parsed.ok) throw new Error(parsed.message)
    return parsed.frame
  }

  /** Frame of the 2-pop. */
  get pop(): number {
    return this.facts.leader - 2 * this.rate.nominal
  }

  /** Frames of leader and programme. */
  get length(): number {
    return this.facts.leader + this.facts.programme
  }

  /** Seconds from the reel's first frame. */
  seconds(frame: number): number {
    return framesToSeconds(frame, this.rate)
  }

  /** The last event of a kind at or before a frame, or null. */
  last(what: EventKind, frame: number, note?: string): StoryEvent | null {
    const fits = (event: StoryEvent): boolean =>
      event.what === what && event.frame <= frame && (note === undefined || event.note === note)
    return this.events.findLast(fits) ?? null
  }

  /** The shot on screen at a frame of the programme, its number, and where it ends. */
  shotAt(programmeFrame: number): Shot & { readonly index: number; readonly to: number } {
    const index = Math.max(
      0,
      this.shots.findLastIndex((shot) => shot.from <= programmeFrame),
    )
    const to = this.shots[index + 1]?.from ?? this.facts.programme
    return { ...(this.shots[index] as Shot), index, to }
  }
}

const walk = (from: number, every: number, count: number, what: EventKind): [number, EventKind][] =>
  Array.from({ length: count }, (_, index) => [from + index * every, what])

// Frames from the programme's first frame.
const SCRIPT_1: Script = [
  ...walk(50, 13, 13, 'step gravel'),
  [252, 'door'],
  ...walk(300, 12, 9, 'step boards'),
  [408, 'bell', 'two'],
  [425, 'bell', 'two'],
  [470, 'lever', 'four'],
  [530, 'lever', 'seven'],
  [624, 'lever', 'nine'],
  [720, 'bell', 'one'],
  [744, 'bell', 'one'],
  [768, 'bell', 'one'],
  ...walk(900, 9, 7, 'lid'),
  [1030, 'pour'],
  [1128, 'chair'],
  [1150, 'pen'],
  [1196, 'pen'],
  [1284, 'pen drops'],
  [1322, 'register'],
  [1368, 'whistle'],
  ...walk(1400, 10, 24, 'train'),
  ...walk(1692, 24, 9, 'clock'),
  [1752, 'telephone'],
  [1824, 'telephone'],
  [1890, 'door'],
  [2040, 'lamp'],
  ...walk(2064, 16, 6, 'step boards'),
  [2210, 'signal'],
  [2248, 'thunder'],
]

/** Reel 1, cut 3: the signalman's last evening. */
export const REEL_1 = new Story(
  {
    ...{ rate: '24', first: '00:59:52:00', leader: LEADER, programme: PROGRAMME },
    ...{ file: 'reel1-cut3', burnt: 'REEL 1  CUT 3' },
  },
  [
    { from: 0, scene: 'yard' },
    { from: 288, scene: 'box' },
    { from: 576, scene: 'levers' },
    { from: 816, scene: 'stove' },
    { from: 1104, scene: 'desk' },
    { from: 1344, scene: 'line' },
    { from: 1680, scene: 'waiting' },
    { from: 1920, scene: 'box', leaving: true },
    { from: 2160, scene: 'yard' },
  ],
  SCRIPT_1,
)

/** Every event of reel 1 by frame, the 2-pop included. */
export const EVENTS = REEL_1.events

const SCRIPT_2: Script = [
  ...walk(60, 17, 16, 'step paving'),
  [372, 'door', 'shut'],
  ...walk(462, 30, 12, 'clock'),
  [510, 'telephone'],
  [600, 'telephone'],
  [690, 'chair'],
  ...walk(870, 15, 9, 'step boards'),
  [1020, 'bell', 'two'],
  [1042, 'bell', 'two'],
  [1110, 'lever', 'four'],
  [1200, 'lever', 'seven'],
  [1350, 'lever', 'nine'],
  [1440, 'bell', 'one'],
  [1500, 'signal'],
  [1590, 'whistle'],
  // The dropped numbers of the first minute lie between frames 1799 and 1800 of the programme, under the train.
  ...walk(1620, 12, 26, 'train'),
  ...walk(1960, 19, 12, 'step paving'),
  [2190, 'thunder'],
]

/** Reel 2, cut 1: the morning after; drop-frame, over a minute at which numbers are dropped. */
export const REEL_2 = new Story(
  {
    ...{ rate: '29.97d', first: '01:59:52;00', leader: 240, programme: 2248 },
    ...{ file: 'reel2-cut1', burnt: 'REEL 2  CUT 1' },
  },
  [
    { from: 0, scene: 'platform' },
    { from: 450, scene: 'waiting' },
    { from: 840, scene: 'box' },
    { from: 1290, scene: 'levers' },
    { from: 1560, scene: 'line' },
    { from: 1920, scene: 'platform', leaving: true },
  ],
  SCRIPT_2,
)

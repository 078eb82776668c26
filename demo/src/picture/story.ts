/** Frames a second of reel 1. */
export const FPS = 24
/** Length of the leader before the programme, in frames: 00:59:52:00 to 01:00:00:00. */
export const LEADER = 8 * FPS
/** Length of the programme in frames. */
export const PROGRAMME = 96 * FPS
/** The 2-pop: one frame of 1 kHz, two seconds before the programme. */
export const POP = LEADER - 2 * FPS

/** What happens on one frame of the picture, counted from the reel's first frame (the head of the leader). */
export interface StoryEvent {
  readonly frame: number
  readonly what: EventKind
  /** Which one, for things of which there are several. */
  readonly note?: string
}

/** Kinds of things that happen and make a sound. */
export type EventKind =
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

/** Shots of cut 3: where each begins (frames from the programme's first frame) and what it shows. */
export const SHOTS = [
  { from: 0, scene: 'yard' },
  { from: 288, scene: 'box' },
  { from: 576, scene: 'levers' },
  { from: 816, scene: 'stove' },
  { from: 1104, scene: 'desk' },
  { from: 1344, scene: 'line' },
  { from: 1680, scene: 'waiting' },
  { from: 1920, scene: 'box' },
  { from: 2160, scene: 'yard' },
] as const

/** Scenes that the picture is drawn in. */
export type Scene = (typeof SHOTS)[number]['scene']

const walk = (from: number, every: number, count: number, what: EventKind): [number, EventKind][] =>
  Array.from({ length: count }, (_, index) => [from + index * every, what])

// Frames from the programme's first frame.
const SCRIPT: [number, EventKind, string?][] = [
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

/** Every event of reel 1 by frame, the 2-pop included. */
export const EVENTS: readonly StoryEvent[] = [
  { frame: POP, what: 'pop' as const },
  ...SCRIPT.map(([frame, what, note]) => ({ frame: LEADER + frame, what, ...(note ? { note } : {}) })),
].sort((a, b) => a.frame - b.frame)

/** The last event of a kind at or before a frame, or null. */
export function lastEvent(what: EventKind, frame: number, note?: string): StoryEvent | null {
  return (
    EVENTS.findLast(
      (event) => event.what === what && event.frame <= frame && (note === undefined || event.note === note),
    ) ?? null
  )
}

/** The shot on screen at a frame of the programme. */
export function shotAt(programmeFrame: number): (typeof SHOTS)[number] & { index: number } {
  const index = SHOTS.findLastIndex((shot) => shot.from <= programmeFrame)
  return { ...(SHOTS[Math.max(0, index)] ?? SHOTS[0]), index: Math.max(0, index) }
}

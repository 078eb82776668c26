import { frames, type Category, type Reel, type ReelRecord, type SoundToPlace } from '@yodel/core'
import { fillReel } from './fillReel.js'
import { LEADER } from './picture/story.js'
import type { Line } from './sheet.js'
import { DEMO_REEL } from './show.js'
import { catalogue } from './synth/catalogue/index.js'
import { seeded } from './synth/dsp.js'

/** The show for crowds: a reel as full as a long film's, to see what becomes of every page then. */
export const CROWD_SHOW = {
  id: 'demo-crowd',
  name: 'Last Lamp at Tolliver Halt, for crowds',
  company: 'Quillfeather Pictures',
}

const FPS = 24
const CUES = 400
const CLIPS = 900
/** Frames from one cue to the next, on the average. */
const STEP = 72

/** Facts of the crowded reel: twenty minutes, of which the movie shows the beginning. */
export const CROWD_REEL: Reel = {
  ...DEMO_REEL,
  ...{ id: 'demo-crowd-1', name: 'Reel 1', show: CROWD_SHOW.name, company: CROWD_SHOW.company },
  length: frames(LEADER + CUES * STEP + 10 * FPS),
}

const TRACKS: readonly (readonly [Category, string])[] = [
  ['FX', 'Levers, bells and the block instrument'],
  ['FX', 'Doors, latches, windows'],
  ['FX', 'Trains and couplings, near'],
  ['FX', 'Hand props'],
  ['FOL', 'Steps: signalman'],
  ['FOL', 'Steps: everybody else'],
  ['FOL', 'Cloth, coats, leather'],
  ['BG', 'Rain and gutters A'],
  ['BG', 'Rain and gutters B'],
  ['BG', 'Rooms'],
  ['DSG', 'Dread'],
  ['DSG', 'Wires and memory'],
]

const WHO = [
  'Signalman',
  'Fireman',
  'Porter',
  'Guard',
  'Inspector',
  'Boy with the lamp',
  'Widow Harrow',
  'Driver',
]
const WHERE = ['on the stairs', 'by the stove', 'in the yard', 'at the frame', 'under the awning', 'off left']

/** What is spotted: category, words after who or what, shelf whose recordings may sound, and how many at which distance. */
const KINDS: readonly {
  readonly category: Category
  readonly words: readonly string[]
  readonly shelf: string
  readonly count: number
  readonly every: number
  readonly seconds: number
}[] = [
  {
    ...{ category: 'FOL', shelf: 'Boots & Cloth', count: 4, every: 14, seconds: 2.5 },
    words: ['walks over, slow, one boot drags', 'turns on the heel and goes', 'comes up, out of breath'],
  },
  {
    ...{ category: 'FX', shelf: 'Boxes & Levers', count: 2, every: 30, seconds: 2 },
    words: ['throws the lever, thinks, throws the next', 'answers the bell', 'shuts the register hard'],
  },
  {
    ...{ category: 'FOL', shelf: 'Boots & Cloth', count: 2, every: 20, seconds: 1.5 },
    words: ['pulls the wet coat off', 'sits down and leans back', 'reaches for the lamp'],
  },
  {
    ...{ category: 'FX', shelf: 'Trains & Tracks', count: 1, every: 1, seconds: 3 },
    words: ['hears the train before it is there', 'watches the goods go by', 'waits for the arm to drop'],
  },
  {
    ...{ category: 'BG', shelf: 'Weather & Wires', count: 1, every: 1, seconds: 14 },
    words: ['opens the window: the rain is there at once', 'alone again, only the gutter', 'and the wind'],
  },
  {
    ...{ category: 'DSG', shelf: 'Designed', count: 1, every: 1, seconds: 4 },
    words: [
      'remembers the other night',
      'knows that nobody will come',
      'counts the strokes that are missing',
    ],
  },
]
/** How kinds follow one another, by their places. */
const ORDER = [0, 1, 0, 2, 3, 0, 1, 4, 0, 2, 5, 1]
const STATES = ['open', 'open', 'work', 'ready', 'approved'] as const

/** Builds the crowded reel: 12 tracks, 400 cues, 900 sounds, the same every time. */
export function crowdRecords(
  pictureId: string | null,
  soundOf: (name: string) => SoundToPlace,
): ReelRecord[] {
  const random = seeded(400)
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)] as T
  const recordings = catalogue()
  /** The frame from which a track is free. */
  const free = new Map(TRACKS.map(([, name]) => [name, 0]))
  let clips = 0
  const lines = Array.from({ length: CUES }, (_, index): Line => {
    const kind = KINDS[ORDER[index % ORDER.length] as number] as (typeof KINDS)[number]
    const from = index * STEP + Math.floor(random() * 24)
    const sounds: NonNullable<Line['sounds']>[number][] = []
    for (let each = 0; each < kind.count + (random() < 0.4 ? 1 : 0); each++) {
      const at = from + 12 + each * kind.every
      const { name } = pick(recordings.filter(({ shelf }) => shelf === kind.shelf))
      const sound = soundOf(name)
      const attack = sound.sync / 48_000
      const begin = Math.max(0, attack - 0.02)
      const end = Math.min(sound.recorded / 48_000, begin + kind.seconds)
      const track = TRACKS.find(
        ([category, one]) => category === kind.category && (free.get(one) ?? 0) <= at - 1,
      )
      if (!track || end - begin < 0.1 || clips === CLIPS) continue
      clips++
      free.set(track[1], at + Math.ceil((end - attack) * FPS) + 2)
      sounds.push({ name, at, track: track[1], part: [begin, end], gain: -Math.floor(random() * 12) })
    }
    const who = pick(WHO)
    return {
      ...{ category: kind.category, from, to: from + 24 + Math.floor(random() * 48), sounds },
      words: `${who} ${pick(kind.words)}, ${pick(WHERE)}`,
      fields: { source: who, priority: pick([0, 0, 1, 2]), state: pick(STATES) },
    }
  })
  return fillReel(
    {
      ...{ facts: CROWD_REEL, cut: 'cut 3', tracks: TRACKS, lines, notes: [], answers: [] },
      sceneAt: (frame) => String(11 + Math.floor(frame / (90 * FPS))),
    },
    pictureId,
    soundOf,
  )
}

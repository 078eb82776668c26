import {
  editCue,
  frames,
  moveClips,
  SAMPLE_RATE,
  shapeClips,
  spotCue,
  type Category,
  type Change,
  type Reel,
  type ReelDocument,
  type ReelRecord,
  type Result,
  type SoundToPlace,
} from '@yodel/core'
import { beginReel, fillReel, type DemoNote } from './fillReel.js'
import { LEADER, PROGRAMME, REEL_1, REEL_2 } from './picture/story.js'
import { SECOND_SHEET } from './secondSheet.js'
import { layDemoStack } from './stacks.js'
import { SHEET } from './sheet.js'
import { SHEET_2 } from './sheet2.js'

/** The demo's show; everything in it is invented. */
export const DEMO_SHOW = {
  id: 'demo-show',
  name: 'Last Lamp at Tolliver Halt',
  company: 'Quillfeather Pictures',
}

/** Facts of the demo's reel 1. Its first frame is the head of the leader, 00:59:52:00. */
export const DEMO_REEL: Reel = {
  kind: 'reel',
  id: 'demo-reel-1',
  show: DEMO_SHOW.name,
  name: 'Reel 1',
  rate: '24',
  firstFrame: frames(3600 * 24 - LEADER),
  programme: frames(LEADER),
  length: frames(LEADER + PROGRAMME),
  pictureId: null,
  company: DEMO_SHOW.company,
  nameRule: '{company}_{show}_{reel}_{date}_{function}',
}

/** Tracks by category; ambiences change sides at the cuts, so they have an A and a B. */
const TRACKS: [Category, string][] = [
  ['FX', 'Levers & bells'],
  ['FX', 'Doors & props'],
  ['FX', 'Train'],
  ['FOL', 'Steps'],
  ['FOL', 'Cloth & hands'],
  ['BG', 'Rain A'],
  ['BG', 'Rain B'],
  ['BG', 'Rooms'],
]

const NOTES: readonly DemoNote[] = [
  {
    on: 'Signalman walks up the yard, gravel',
    author: 'Mara Reyl',
    to: 'Idris Koch',
    question: true,
    words: 'Gravel or ash here? The yard looks wet and dark.',
    at: '2026-03-04T16:12:00.000Z',
  },
  {
    on: 'Lever nine thrown, frame clanks home',
    author: 'Idris Koch',
    to: 'Mara Reyl',
    question: false,
    words: 'Heaviest of the four. Keep the clank for the frame, not the lever.',
    at: '2026-03-04T17:02:00.000Z',
  },
  {
    on: 'Lamp gutters and dies',
    author: 'Idris Koch',
    to: 'Mara Reyl',
    question: true,
    words: 'Is there any room left when it is out, or nothing at all?',
    at: '2026-03-05T08:31:00.000Z',
  },
  {
    on: 'Harmonium from somewhere, three chords',
    author: 'Mara Reyl',
    to: 'Wen Abara',
    question: true,
    words: 'Music as a stem of its own, or with the backgrounds?',
    at: '2026-03-05T09:20:00.000Z',
  },
]

/** Scene number of a frame of the programme: each shot of the demo is a scene of its own, as its script has it. */
const sceneAt = (frame: number): string => String(11 + REEL_1.shotAt(frame).index)

/** Builds the demo's reel 1: 40 cues, 30-odd placed sounds and a stack. */
export const demoRecords = (pictureId: string | null, soundOf: SoundOf): ReelRecord[] =>
  fillReel(
    {
      ...{ facts: DEMO_REEL, cut: 'cut 3', tracks: TRACKS, lines: SHEET, notes: NOTES, sceneAt },
      answers: [
        {
          ...{ to: 'note-1', words: 'Gravel. Ash comes after the points.', author: 'Idris Koch' },
          at: '2026-03-05T08:40:00.000Z',
        },
      ],
      more: layDemoStack('Engine whistle, short, far to near', soundOf),
    },
    pictureId,
    soundOf,
  )

type SoundOf = (name: string) => SoundToPlace

/** Facts of the demo's reel 2: drop-frame, over a minute at which numbers are dropped. */
export const REEL_TWO: Reel = {
  ...DEMO_REEL,
  ...{ id: 'demo-reel-2', name: 'Reel 2', rate: REEL_2.facts.rate },
  firstFrame: frames(REEL_2.first),
  programme: frames(REEL_2.facts.leader),
  length: frames(REEL_2.length),
}

const TRACKS_2: [Category, string][] = [
  ['FX', 'Levers'],
  ['FX', 'Doors & bells'],
  ['FX', 'Clock'],
  ['FX', 'Train'],
  ['FX', 'Train B'],
  ['FOL', 'Steps'],
  ['FOL', 'Cloth & hands'],
  ['BG', 'Air A'],
  ['BG', 'Air B'],
]

/** Builds the demo's reel 2: 23 cues and 50-odd placed sounds. */
export const reelTwoRecords = (pictureId: string | null, soundOf: SoundOf): ReelRecord[] =>
  fillReel(
    {
      ...{ facts: REEL_TWO, cut: 'cut 1', tracks: TRACKS_2, lines: SHEET_2, notes: [], answers: [] },
      sceneAt: (frame) => String(31 + REEL_2.shotAt(frame).index),
    },
    pictureId,
    soundOf,
  )

/** Facts of the reel that holds the second person's sheet of the same picture. */
export const SECOND_REEL: Reel = {
  ...DEMO_REEL,
  id: 'demo-reel-1-idris',
  name: 'Reel 1, spotted by Idris Koch',
}

/** Builds the second sheet: the same picture, heard by somebody else. */
export function secondRecords(pictureId: string | null): ReelRecord[] {
  const { run, records } = beginReel(SECOND_REEL, pictureId, 'cut 3')
  SECOND_SHEET.forEach(([category, from, to, words], index) => {
    const id = `idris-${index + 1}`
    run((doc) => spotCue(doc, { id, category, in: LEADER + from, out: LEADER + to, words }))
    run((doc) => editCue(doc, { id, fields: { by: 'Idris Koch', scene: sceneAt(from) } }))
  })
  return records()
}

/** What was changed in reel 2 after its first turnover, edit by edit, so that there is something to tell the stage. */
export const AFTER_TURNOVER: readonly ((doc: ReelDocument) => Result<Change>)[] = [
  (doc) => moveClips(doc, { ids: [placedAs(doc, 'Ground frame lever, set 3')], by: TWO_FRAMES }),
  (doc) => shapeClips(doc, { ids: [placedAs(doc, 'Engine whistle short')], fields: { gain: -5 } }),
  (doc) => {
    const id = [...doc.cue.values()].find(({ words }) => words.startsWith('Title music'))?.id ?? ''
    return editCue(doc, { id, fields: { state: 'omitted', omitReason: 'The titles stay silent after all.' } })
  },
]

const TWO_FRAMES = Math.round(REEL_2.seconds(2) * SAMPLE_RATE)
const placedAs = (doc: ReelDocument, name: string): string =>
  [...doc.clip.values()].find((clip) => clip.name === name)?.id ?? ''

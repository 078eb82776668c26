import {
  addNote,
  addTrack,
  apply,
  CATEGORY_NAMES,
  documentOf,
  editCue,
  expectOk,
  frames,
  placeSound,
  recordsOf,
  replyToNote,
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
import { LEADER, PROGRAMME, shotAt } from './picture/story.js'
import { SECOND_SHEET } from './secondSheet.js'
import { SHEET } from './sheet.js'

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

/** A reel to be filled by edits, as an editor would fill it: one after the other, each checked. */
function beginReel(
  facts: Reel,
  pictureId: string | null,
): { run: (edit: (doc: ReelDocument) => Result<Change>) => void; records: () => ReelRecord[] } {
  const cuts: ReelRecord[] =
    pictureId === null ? [] : [{ kind: 'cut', id: 'cut-3', pictureId, name: 'cut 3', offset: frames(0) }]
  let doc = documentOf([{ ...facts, pictureId }, ...cuts])
  return {
    run(edit) {
      doc = expectOk(apply(doc, expectOk(edit(doc))))
    },
    records: () => recordsOf(doc),
  }
}

/** Notes on the sheet, by the words of the cue they stand on. */
const NOTES = [
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
] as const

/**
 * Builds the demo's reel 1 as records: 40 cues and 30-odd placed sounds.
 *
 * @param soundOf - Finds an indexed recording by its name.
 */
export function demoRecords(pictureId: string | null, soundOf: (name: string) => SoundToPlace): ReelRecord[] {
  const { run, records } = beginReel(DEMO_REEL, pictureId)
  TRACKS.forEach(([category, name], index) =>
    run((doc) => addTrack(doc, { id: `track-${index + 1}`, category, name })),
  )
  const trackId = (name: string): string => `track-${TRACKS.findIndex((track) => track[1] === name) + 1}`
  let clips = 0
  SHEET.forEach((line, index) => {
    const id = `cue-${index + 1}`
    run((doc) =>
      spotCue(doc, {
        id,
        category: line.category,
        in: LEADER + line.from,
        out: LEADER + line.to,
        words: line.words,
      }),
    )
    const sync = line.sounds?.[0]?.at ?? line.from
    run((doc) =>
      editCue(doc, {
        id,
        fields: { by: 'Mara Reyl', scene: sceneAt(line.from), sync: LEADER + sync, ...line.fields },
      }),
    )
    for (const wish of line.sounds ?? []) {
      const sound = soundOf(wish.name)
      // Cut a little before the attack; steps are cut short behind as well, so that the next one finds room.
      const cut = Math.max(0, sound.sync / 48_000 - 0.02)
      const [from, to] = wish.part ?? [
        wish.sync === undefined ? cut : 0,
        wish.track === 'Steps' ? cut + 0.46 : sound.recorded / 48_000,
      ]
      const clipId = `clip-${++clips}`
      const part = { from: Math.round(from * 48_000), to: Math.min(sound.recorded, Math.round(to * 48_000)) }
      const syncAt = wish.sync === undefined ? sound.sync : Math.round(wish.sync * 48_000)
      run((doc) =>
        placeSound(doc, {
          id: clipId,
          newTrackId: `track-${CATEGORY_NAMES[line.category]}-${clipId}`,
          category: line.category,
          trackId: trackId(wish.track),
          cueId: id,
          frame: LEADER + wish.at,
          sound: { ...sound, sync: syncAt, gain: wish.gain ?? 0, ...part },
        }),
      )
      if (wish.fadeIn !== undefined)
        run((doc) =>
          shapeClips(doc, {
            ids: [clipId],
            fields: {
              fadeIn: wish.fadeIn,
              fadeOut: wish.fadeOut ?? 0,
              fadeInShape: 'power',
              fadeOutShape: 'power',
            },
          }),
        )
    }
  })
  NOTES.forEach((note, index) =>
    run((doc) =>
      addNote(doc, {
        id: `note-${index + 1}`,
        cueId: `cue-${SHEET.findIndex((line) => line.words === note.on) + 1}`,
        frame: 0,
        words: note.words,
        author: note.author,
        to: note.to,
        question: note.question,
        at: note.at,
      }),
    ),
  )
  run((doc) =>
    replyToNote(doc, {
      id: 'note-reply-1',
      to: 'note-1',
      words: 'Gravel. Ash comes after the points.',
      author: 'Idris Koch',
      at: '2026-03-05T08:40:00.000Z',
    }),
  )
  return records()
}

/** Scene number of a frame of the programme: each shot of the demo is a scene of its own, as its script has it. */
const sceneAt = (frame: number): string => String(11 + shotAt(frame).index)

/** Facts of the reel that holds the second person's sheet of the same picture. */
export const SECOND_REEL: Reel = {
  ...DEMO_REEL,
  id: 'demo-reel-1-idris',
  name: 'Reel 1, spotted by Idris Koch',
}

/** Builds the second sheet: the same picture, heard by somebody else. */
export function secondRecords(pictureId: string | null): ReelRecord[] {
  const { run, records } = beginReel(SECOND_REEL, pictureId)
  SECOND_SHEET.forEach(([category, from, to, words], index) => {
    const id = `idris-${index + 1}`
    run((doc) => spotCue(doc, { id, category, in: LEADER + from, out: LEADER + to, words }))
    run((doc) => editCue(doc, { id, fields: { by: 'Idris Koch', scene: sceneAt(from) } }))
  })
  return records()
}

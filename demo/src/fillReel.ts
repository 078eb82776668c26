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
import type { Line } from './sheet.js'

/** A reel to be filled by edits, as an editor would fill it: one after the other, each checked. */
export function beginReel(
  facts: Reel,
  pictureId: string | null,
  cut: string,
): { run: (edit: (doc: ReelDocument) => Result<Change>) => void; records: () => ReelRecord[] } {
  const cuts: ReelRecord[] =
    pictureId === null
      ? []
      : [{ kind: 'cut', id: cut.replace(' ', '-'), pictureId, name: cut, offset: frames(0) }]
  let doc = documentOf([{ ...facts, pictureId }, ...cuts])
  return {
    run(edit) {
      doc = expectOk(apply(doc, expectOk(edit(doc))))
    },
    records: () => recordsOf(doc),
  }
}

/** What a reel of the demo is filled with. */
export interface DemoSheet {
  readonly facts: Reel
  readonly cut: string
  readonly tracks: readonly (readonly [Category, string])[]
  readonly lines: readonly Line[]
  readonly notes: readonly DemoNote[]
  readonly answers: readonly Omit<Parameters<typeof replyToNote>[1], 'id'>[]
  /** Scene number of a frame of the programme. */
  readonly sceneAt: (frame: number) => string
  /** What else is done to it in the end. */
  readonly more?: (doc: ReelDocument) => Result<Change>
}

/** A note on the sheet, by the words of the cue that it stands on. */
export interface DemoNote {
  readonly on: string
  readonly author: string
  readonly to: string
  readonly question: boolean
  readonly words: string
  readonly at: string
}

/**
 * Builds a reel of the demo as records.
 *
 * @param soundOf - Finds an indexed recording by its name.
 */
export function fillReel(
  sheet: DemoSheet,
  pictureId: string | null,
  soundOf: (name: string) => SoundToPlace,
): ReelRecord[] {
  const { facts, lines, tracks, sceneAt } = sheet
  const before = facts.programme
  const { run, records } = beginReel(facts, pictureId, sheet.cut)
  tracks.forEach(([category, name], index) =>
    run((doc) => addTrack(doc, { id: `track-${index + 1}`, category, name })),
  )
  const trackId = (name: string): string => `track-${tracks.findIndex((track) => track[1] === name) + 1}`
  let clips = 0
  lines.forEach((line, index) => {
    const id = `cue-${index + 1}`
    run((doc) =>
      spotCue(doc, {
        id,
        category: line.category,
        in: before + line.from,
        out: before + line.to,
        words: line.words,
      }),
    )
    const sync = line.sounds?.[0]?.at ?? line.from
    run((doc) =>
      editCue(doc, {
        id,
        fields: { by: 'Mara Reyl', scene: sceneAt(line.from), sync: before + sync, ...line.fields },
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
          frame: before + wish.at,
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
  sheet.notes.forEach((note, index) =>
    run((doc) =>
      addNote(doc, {
        id: `note-${index + 1}`,
        cueId: `cue-${lines.findIndex((line) => line.words === note.on) + 1}`,
        frame: 0,
        words: note.words,
        author: note.author,
        to: note.to,
        question: note.question,
        at: note.at,
      }),
    ),
  )
  sheet.answers.forEach((answer, index) =>
    run((doc) => replyToNote(doc, { id: `note-reply-${index + 1}`, ...answer })),
  )
  if (sheet.more) run(sheet.more)
  return records()
}

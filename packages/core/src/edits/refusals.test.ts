import { describe, expect, it } from 'vitest'
import { expectOk, type CoreErrorCode, type Result } from '../errors.js'
import { apply, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { after, placed, SOUND } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { bendClips } from './bendClips.js'
import { copyClips, duplicateClips, pasteClips, repeatClip } from './copyClips.js'
import { crossfadeClips } from './crossfade.js'
import { rollBoundary, slipClip, splitClips } from './cutClips.js'
import { deleteRecords } from './deleteRecords.js'
import { editCells, replaceText } from './editCells.js'
import { addCut, editCut, removeCut, showCut } from './editCuts.js'
import { addInsert, editInsert, moveInsert } from './editInserts.js'
import { addNote, closeNote, replyToNote } from './editNotes.js'
import { editCue, editCues, editTrack } from './editRecords.js'
import { conformRate, editReel } from './editReel.js'
import { moveTrack, removeEmptyTracks, soloOnly } from './editTracks.js'
import { goBack, recallBalance } from './goBack.js'
import { keepLayers } from './keepLayers.js'
import { layEvents } from './layEvents.js'
import { moveAcross, moveClips } from './moveClips.js'
import { placeSound } from './placeSound.js'
import { renumberCues } from './renumberCues.js'
import { drawRide, editRidePoint, followSource } from './rides.js'
import { shapeClips } from './shapeClips.js'
import { rankCandidate, remarkCandidate, shortlistSound } from './shortlist.js'
import { spotCue } from './spotCue.js'
import { swapClips } from './swapClips.js'
import { trimClip } from './trimClip.js'

let made = 0
const newId = (): string => `new${made++}`

/** Two sounds that meet on one track, a third further on; a cue with a note, and a version of the picture. */
const reel = ((): ReelDocument => {
  let doc = placed(testReel(), 'a', 100)
  doc = placed(doc, 'b', 124, { trackId: 't-a' })
  doc = placed(doc, 'c', 200, { trackId: 't-a' })
  doc = after(doc, spotCue(doc, { id: 'q', category: 'FX', in: 100, out: 150, words: 'door' }))
  doc = after(doc, addNote(doc, { id: 'n', cueId: 'q', frame: 100, words: 'Loud?', author: 'I', at: '' }))
  return after(doc, addCut(doc, { id: 'k', pictureId: 'p', name: 'cut 1', length: 14_400 }))
})()

type Edit = (doc: ReelDocument) => Result<Change>

const refused: readonly (readonly [what: string, edit: Edit, code: CoreErrorCode, says: RegExp])[] = [
  [
    'moving a sound that is not there',
    (d) => moveClips(d, { ids: ['x'], by: 1 }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'moving before the reel',
    (d) => moveClips(d, { ids: ['a'], by: -200_000 }),
    'CORE_BEFORE_REEL',
    /Lever.*start/,
  ],
  [
    'moving onto another',
    (d) => moveClips(d, { ids: ['c'], by: -150_000 }),
    'CORE_OVERLAP',
    /sound over Lever/,
  ],
  [
    'moving across from a sound that is not there',
    (d) => moveAcross(d, { ids: ['x'], by: 1 }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'splitting where no sound lies',
    (d) => splitClips(d, { ids: ['a'], at: 0, newId }),
    'CORE_NOTHING_DONE',
    /under the gate/,
  ],
  [
    'splitting what is not there',
    (d) => splitClips(d, { ids: ['x'], at: 0, newId }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'rolling sounds that don’t meet',
    (d) => rollBoundary(d, { firstId: 'a', secondId: 'c', to: 0 }),
    'CORE_NOT_NEIGHBOURS',
    /Lever and Lever/,
  ],
  [
    'rolling what is not there',
    (d) => rollBoundary(d, { firstId: 'a', secondId: 'x', to: 0 }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  ['slipping what is not there', (d) => slipClip(d, { id: 'x', by: 1 }), 'CORE_RECORD_MISSING', /x/],
  [
    'trimming what is not there',
    (d) => trimClip(d, { id: 'x', end: 'head', to: 1 }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'crossfading one sound',
    (d) => crossfadeClips(d, { ids: ['a'], length: 480 }),
    'CORE_NOT_NEIGHBOURS',
    /two sounds or more/,
  ],
  [
    'crossfading over a gap that nothing fills',
    (d) => crossfadeClips(d, { ids: ['b', 'c'], length: 480 }),
    'CORE_NO_HANDLE',
    /crossfade of/,
  ],
  [
    'bending what is not there',
    (d) => bendClips(d, { ids: ['x'], fields: { speed: 2 }, label: '' }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'slowing into the next one',
    (d) => bendClips(d, { ids: ['a'], fields: { speed: 0.5 }, label: '' }),
    'CORE_OVERLAP',
    /sound over/,
  ],
  [
    'pasting nothing',
    (d) => pasteClips(d, { copied: copyClips(d, []), at: 0, cueId: null, newId }),
    'CORE_RECORD_MISSING',
    /nothing was copied/,
  ],
  [
    'pasting before the reel',
    (d) => pasteClips(d, { copied: copyClips(d, ['a']), at: 0, cueId: null, newId }),
    'CORE_BEFORE_REEL',
    /start -/,
  ],
  ['duplicating nothing', (d) => duplicateClips(d, { ids: [], newId }), 'CORE_RECORD_MISSING', /no sound/],
  [
    'repeating backwards',
    (d) => repeatClip(d, { id: 'c', until: 0, overlap: 480, newId }),
    'CORE_NOTHING_DONE',
    /before its end/,
  ],
  [
    'repeating for ever',
    (d) => repeatClip(d, { id: 'c', until: 2 ** 40, overlap: 480, newId }),
    'CORE_NOTHING_DONE',
    /500 are the most/,
  ],
  [
    'repeating over another',
    (d) => repeatClip(d, { id: 'b', until: 500_000, overlap: 480, newId }),
    'CORE_OVERLAP',
    /sound over/,
  ],
  ['shaping what is not there', (d) => shapeClips(d, { ids: ['x'], gainBy: 1 }), 'CORE_RECORD_MISSING', /x/],
  [
    'swapping what is not there',
    (d) => swapClips(d, { swaps: [{ id: 'x', sound: SOUND }] }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'placing on a track that is not there',
    (d) =>
      placeSound(d, {
        id: 'z',
        newTrackId: 'z',
        category: 'FX',
        trackId: 'x',
        cueId: null,
        frame: 9,
        sound: SOUND,
      }),
    'CORE_NO_TRACK',
    /x/,
  ],
  [
    'placing over another',
    (d) =>
      placeSound(d, {
        id: 'z',
        newTrackId: 'z',
        category: 'FX',
        trackId: 't-a',
        cueId: null,
        frame: 100,
        sound: SOUND,
      }),
    'CORE_OVERLAP',
    /Lever on/,
  ],
  [
    'placing nothing of a recording',
    (d) =>
      placeSound(d, {
        id: 'z',
        newTrackId: 'z',
        category: 'FX',
        cueId: null,
        frame: 9,
        sound: { ...SOUND, from: 100, to: 100 },
      }),
    'CORE_BAD_SPAN',
    /length 0/,
  ],
  [
    'keeping nothing',
    (d) => keepLayers(d, { layers: [], cueId: null, frame: 1, group: 'g' }),
    'CORE_NOTHING_DONE',
    /nothing is tried/,
  ],
  [
    'laying more events than there are',
    (d) =>
      layEvents(d, { sound: SOUND, events: [], places: [{ frame: 1, cueId: null }], category: 'FX', newId }),
    'CORE_NOTHING_DONE',
    /0 events for 1 places/,
  ],
  [
    'ending a cue before it begins',
    (d) => editCue(d, { id: 'q', fields: { out: 50 } }),
    'CORE_BAD_SPAN',
    /FX 1.*in 100, out 50/,
  ],
  [
    'editing a cue that is not there',
    (d) => editCues(d, { edits: [{ id: 'x', fields: {} }] }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'spotting a cue without length',
    (d) => spotCue(d, { id: 'z', category: 'FX', in: 5, out: 5 }),
    'CORE_BAD_SPAN',
    /in 5, out 5/,
  ],
  [
    'typing into a cell of no cue',
    (d) => editCells(d, { cells: [{ id: 'x', field: 'words', text: '' }] }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'typing a time that is none',
    (d) => editCells(d, { cells: [{ id: 'q', field: 'in', text: 'noon' }] }),
    'CORE_BAD_CELL',
    /noon/,
  ],
  [
    'replacing nothing',
    (d) => replaceText(d, { ids: ['q'], find: '', replace: 'x' }),
    'CORE_NO_WORDS',
    /find/,
  ],
  [
    'replacing in no cue',
    (d) => replaceText(d, { ids: ['x'], find: 'a', replace: 'b' }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  ['numbering from zero', (d) => renumberCues(d, { first: 0 }), 'CORE_BAD_NUMBER', /first 0/],
  ['numbering by halves', (d) => renumberCues(d, { step: 1.5 }), 'CORE_BAD_NUMBER', /step 1.5/],
  [
    'an empty note',
    (d) => addNote(d, { id: 'z', cueId: null, frame: 1, words: ' ', author: 'I', at: '' }),
    'CORE_NO_WORDS',
    /note/,
  ],
  [
    'a note on no cue',
    (d) => addNote(d, { id: 'z', cueId: 'x', frame: 1, words: 'w', author: 'I', at: '' }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'an answer to nothing',
    (d) => replyToNote(d, { id: 'z', to: 'x', words: 'w', author: 'I', at: '' }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  [
    'an empty answer',
    (d) => replyToNote(d, { id: 'z', to: 'n', words: '', author: 'I', at: '' }),
    'CORE_NO_WORDS',
    /answer/,
  ],
  ['closing no note', (d) => closeNote(d, { id: 'x', closed: true }), 'CORE_RECORD_MISSING', /x/],
  ['showing no picture', (d) => showCut(d, { id: 'x' }), 'CORE_RECORD_MISSING', /x/],
  ['editing no picture', (d) => editCut(d, { id: 'x', fields: { offset: 3 } }), 'CORE_RECORD_MISSING', /x/],
  ['removing no picture', (d) => removeCut(d, { id: 'x' }), 'CORE_RECORD_MISSING', /x/],
  ['editing no track', (d) => editTrack(d, { id: 'x', fields: { mute: true } }), 'CORE_RECORD_MISSING', /x/],
  ['moving no track', (d) => moveTrack(d, { id: 'x', before: null }), 'CORE_NO_TRACK', /x/],
  ['moving a track before none', (d) => moveTrack(d, { id: 't-a', before: 'x' }), 'CORE_NO_TRACK', /x/],
  ['removing empty tracks where none is', removeEmptyTracks, 'CORE_NO_TRACK', /there are none/],
  ['solo of no track', (d) => soloOnly(d, { id: 'x' }), 'CORE_NO_TRACK', /x/],
  [
    'shortening the reel into its sounds',
    (d) => editReel(d, { fields: { length: 120 } }),
    'CORE_BAD_LENGTH',
    /Reel 1/,
  ],
  [
    'a programme beyond the end',
    (d) => editReel(d, { fields: { programme: 20_000 } }),
    'CORE_BAD_LENGTH',
    /before the end/,
  ],
  ['another rate under what lies there', (d) => conformRate(d, { rate: '25' }), 'CORE_REEL_IN_USE', /Reel 1/],
  ['going back to now', (d) => goBack(d, { then: d, what: 'now' }), 'CORE_NOTHING_DONE', /already/],
  [
    'recalling the present balance',
    (d) => recallBalance(d, { then: d, name: 'now' }),
    'CORE_NOTHING_DONE',
    /already/,
  ],
  [
    'editing no treatment',
    (d) => editInsert(d, { id: 'x', fields: { bypass: true } }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  ['moving no treatment', (d) => moveInsert(d, { id: 'x', before: null }), 'CORE_RECORD_MISSING', /x/],
  [
    'riding no track',
    (d) => drawRide(d, { trackId: 'x', what: 'level', moments: [[0, 0]], newId }),
    'CORE_NO_TRACK',
    /x/,
  ],
  [
    'riding nothing',
    (d) => drawRide(d, { trackId: 't-a', what: 'level', moments: [], newId }),
    'CORE_NOTHING_DONE',
    /nothing was drawn/,
  ],
  ['moving no point of a ride', (d) => editRidePoint(d, { id: 'x', value: 1 }), 'CORE_RECORD_MISSING', /x/],
  [
    'following a single look',
    (d) => followSource(d, { trackId: 't-a', seen: [[0, 0.5]], newId }),
    'CORE_NOTHING_DONE',
    /two moments/,
  ],
  [
    'a shortlist of no cue',
    (d) =>
      shortlistSound(d, { id: 'z', cueId: 'x', sound: SOUND, part: { in: null, out: null, sync: null } }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
  ['ranking no candidate', (d) => rankCandidate(d, { id: 'x', by: 1 }), 'CORE_RECORD_MISSING', /x/],
  [
    'a remark on no candidate',
    (d) => remarkCandidate(d, { id: 'x', remark: '' }),
    'CORE_RECORD_MISSING',
    /x/,
  ],
]

describe('an edit', () => {
  it.each(refused)('refuses %s', (_, edit, code, says) => {
    const answer = edit(reel)
    expect(answer).toMatchObject({ ok: false, code })
    expect(answer.ok ? '' : answer.message).toMatch(says)
  })

  it('refuses the same sound on a shortlist twice', () => {
    const part = { in: null, out: null, sync: null }
    const once = after(reel, shortlistSound(reel, { id: 'l', cueId: 'q', sound: SOUND, part }))
    expect(shortlistSound(once, { id: 'm', cueId: 'q', sound: SOUND, part })).toMatchObject({
      ok: false,
      code: 'CORE_NOTHING_DONE',
      message: expect.stringContaining('FX 001') as string,
    })
  })

  it('refuses settings that a treatment doesn’t know, or out of its range', () => {
    const treated = after(reel, addInsert(reel, { id: 'i', on: 't-a', effect: 'limiter' }))
    for (const fields of [{ ceiling: 3 }, { ceiling: 'low' }]) {
      expect(editInsert(treated, { id: 'i', fields })).toMatchObject({ ok: false, code: 'CORE_BAD_RECORD' })
    }
    expect(moveInsert(treated, { id: 'i', before: 'x' })).toMatchObject({
      ok: false,
      code: 'CORE_RECORD_MISSING',
    })
  })

  it('refuses to touch what is locked, but for its mute', () => {
    const locked = after(reel, shapeClips(reel, { ids: ['a'], fields: { locked: true } }))
    const tryEdit = (edit: Result<Change>): boolean => {
      const change = expectOk(edit)
      return expectOk(apply(locked, change)) !== locked
    }
    expect(tryEdit(shapeClips(locked, { ids: ['a'], fields: { mute: true } }))).toBe(true)
    expect(() => after(locked, shapeClips(locked, { ids: ['a'], gainBy: 1 }))).toThrow('it is locked')
    expect(() => after(locked, moveClips(locked, { ids: ['a'], by: -2000 }))).toThrow('it is locked')
    expect(() => after(locked, deleteRecords(locked, { ids: ['a'] }))).toThrow('it is locked')
  })
})

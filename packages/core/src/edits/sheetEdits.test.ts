import { describe, expect, it } from 'vitest'
import { expectOk, type Result } from '../errors.js'
import { apply, type Change } from '../reel/change.js'
import { currentCut, reelOf, tracksInOrder, type ReelDocument } from '../reel/document.js'
import { checkChange } from '../reel/invariants.js'
import { talksOf } from '../spotting/notes.js'
import { testReel } from '../test/testReel.js'
import { nameByRule } from '../turnover/nameFiles.js'
import { deleteRecords } from './deleteRecords.js'
import { editCells, replaceText } from './editCells.js'
import { addCut, editCut, removeCut, showCut } from './editCuts.js'
import { addNote, closeNote, replyToNote } from './editNotes.js'
import { addTracks, conformRate, editReel, TRACK_TEMPLATE } from './editReel.js'
import { editCues } from './editRecords.js'
import { renumberCues } from './renumberCues.js'
import { spotCue } from './spotCue.js'

const after = (doc: ReelDocument, change: Result<Change>): ReelDocument => {
  const made = expectOk(change)
  const next = expectOk(apply(doc, made))
  expectOk(checkChange(next, made))
  return next
}
const spotted = (): ReelDocument =>
  [
    ['a', 500],
    ['b', 100],
    ['c', 300],
  ].reduce(
    (doc, [id, at]) =>
      after(
        doc,
        spotCue(doc, {
          id: id as string,
          category: 'FX',
          in: at as number,
          out: (at as number) + 5,
          words: `door ${id}`,
        }),
      ),
    testReel(),
  )

describe('cells of the sheet', () => {
  it('are written all or none', () => {
    const doc = spotted()
    const change = editCells(doc, {
      cells: [
        { id: 'a', field: 'words', text: 'gate' },
        { id: 'a', field: 'in', text: '1:00:20:00' },
        { id: 'a', field: 'length', text: '9:99' },
        { id: 'b', field: 'state', text: 'Ready' },
      ],
    })
    expect([...after(doc, change).cue.values()]).toMatchObject([
      { id: 'a', words: 'gate', in: 480, out: 505 },
      { id: 'b', state: 'ready' },
      { id: 'c' },
    ])
    expect(
      editCells(doc, {
        cells: [
          { id: 'a', field: 'words', text: 'gate' },
          { id: 'b', field: 'in', text: '99' },
        ],
      }),
    ).toMatchObject({
      ok: false,
      message: expect.stringMatching(/^FX 002, In: .*frames run from 0 to 23/) as string,
    })
    expect(editCells(doc, { cells: [{ id: 'b', field: 'priority', text: 'urgent' }] })).toMatchObject({
      ok: false,
      message: 'FX 002, Priority: that can’t be read ("urgent" is none of (empty), low, high, must).',
    })
  })
  it('give a cue of another category the next number there', () => {
    const doc = spotted()
    const next = after(
      doc,
      editCues(doc, { edits: ['a', 'b'].map((id) => ({ id, fields: { category: 'BG' as const } })) }),
    )
    expect(
      [next.cue.get('a'), next.cue.get('b'), next.cue.get('c')].map(
        (cue) => `${cue?.category} ${cue?.number}`,
      ),
    ).toEqual(['BG 1', 'BG 2', 'FX 3'])
  })
  it('are found and replaced without case, taking signs for what they are', () => {
    const doc = after(
      spotted(),
      editCells(spotted(), { cells: [{ id: 'b', field: 'words', text: 'Door (iron) $1' }] }),
    )
    const next = after(doc, replaceText(doc, { ids: ['a', 'b'], find: 'DOOR (iron)', replace: '$& gate' }))
    expect([next.cue.get('a')?.words, next.cue.get('b')?.words]).toEqual(['door a', '$& gate $1'])
  })
})

describe('numbers', () => {
  it('change only by renumbering, in the order of time', () => {
    const doc = spotted()
    const next = after(doc, renumberCues(doc, { step: 10, first: 10 }))
    expect(['b', 'c', 'a'].map((id) => next.cue.get(id)?.number)).toEqual([10, 20, 30])
    expect(renumberCues(doc, { first: 0 })).toMatchObject({ ok: false, code: 'CORE_BAD_NUMBER' })
    expect(renumberCues(doc, { categories: ['BG'] })).toMatchObject({ value: { updated: [] } })
  })
})

describe('notes', () => {
  it('move with their cue, keep their answers, and outlive the cue at its frame', () => {
    let doc = spotted()
    doc = after(
      doc,
      addNote(doc, {
        id: 'n',
        cueId: 'a',
        frame: 0,
        words: 'gravel?',
        author: 'Mara',
        question: true,
        at: '2026-01-01T10:00:00Z',
      }),
    )
    doc = after(
      doc,
      replyToNote(doc, { id: 'm', to: 'n', words: 'boards', author: 'Idris', at: '2026-01-01T11:00:00Z' }),
    )
    doc = after(
      doc,
      replyToNote(doc, { id: 'o', to: 'm', words: 'fine', author: 'Mara', at: '2026-01-01T12:00:00Z' }),
    )
    doc = after(doc, closeNote(doc, { id: 'n', closed: true }))
    expect(talksOf(doc)).toMatchObject([
      { frame: 500, note: { id: 'n', closed: true }, replies: [{ id: 'm' }, { id: 'o' }] },
    ])
    // Somebody who has not seen the answers yet can't take the question from under them.
    const hasty = { label: 'hasty', added: [], updated: [], removed: [doc.note.get('n')!] }
    expect(checkChange(expectOk(apply(doc, hasty)), hasty)).toMatchObject({
      ok: false,
      code: 'CORE_RECORD_MISSING',
    })
    doc = after(doc, deleteRecords(doc, { ids: ['a'] }))
    expect(talksOf(doc)).toMatchObject([{ frame: 500, note: { cueId: null } }])
    doc = after(doc, deleteRecords(doc, { ids: ['n'] }))
    expect(doc.note.size).toBe(0)
    expect(addNote(doc, { id: 'x', cueId: null, frame: 1, words: ' ', author: 'M', at: '' })).toMatchObject({
      ok: false,
      code: 'CORE_NO_WORDS',
    })
  })
})

describe('versions of the picture', () => {
  it('are kept side by side; the first sets the length, later ones only lengthen', () => {
    let doc = testReel()
    doc = after(doc, addCut(doc, { id: 'k2', pictureId: 'p2', name: 'cut 2', length: 2000 }))
    expect(reelOf(doc).length).toBe(2000)
    doc = after(doc, addCut(doc, { id: 'k3', pictureId: 'p3', name: 'cut 3', length: 1000, offset: 24 }))
    expect([reelOf(doc).length, currentCut(doc)?.name]).toEqual([2000, 'cut 3'])
    doc = after(doc, editCut(doc, { id: 'k3', fields: { offset: -12 } }))
    doc = after(doc, showCut(doc, { id: 'k2' }))
    expect(currentCut(doc)?.id).toBe('k2')
    doc = after(doc, removeCut(doc, { id: 'k2' }))
    expect([currentCut(doc), [...doc.cut.keys()]]).toEqual([null, ['k3']])
  })
})

describe('facts of the reel', () => {
  it('take another rate only while nothing lies on it', () => {
    let doc = testReel({ programme: 240 })
    doc = after(doc, addCut(doc, { id: 'k', pictureId: 'p', name: 'cut 1', length: 14_376, offset: 24 }))
    doc = after(doc, addNote(doc, { id: 'n', cueId: null, frame: 48, words: 'late', author: 'Mara', at: '' }))
    const made = after(doc, conformRate(doc, { rate: '25' }))
    // 01:00:00:00 stays 01:00:00:00; ten minutes stay ten minutes.
    expect(reelOf(made)).toMatchObject({ rate: '25', firstFrame: 90_000, programme: 250, length: 15_000 })
    // What stood one and two seconds in still does.
    expect([made.cut.get('k')?.offset, made.note.get('n')?.frame]).toEqual([25, 50])
    expect(conformRate(spotted(), { rate: '25' })).toMatchObject({ ok: false, code: 'CORE_REEL_IN_USE' })
  })
  it('never cut off what lies on it', () => {
    const doc = spotted()
    expect(editReel(doc, { fields: { length: 504 } })).toMatchObject({
      ok: false,
      message: expect.stringContaining('01:00:21:01') as string,
    })
    expect(reelOf(after(doc, editReel(doc, { fields: { length: 505, name: 'R' } })))).toMatchObject({
      length: 505,
      name: 'R',
    })
  })
  it('bring tracks of a template once, by category', () => {
    let doc = after(testReel(), addTracks(testReel(), { tracks: TRACK_TEMPLATE, ids: [] }))
    expect(tracksInOrder(doc).map((track) => track.name)).toEqual(TRACK_TEMPLATE.map(([, name]) => name))
    doc = after(
      doc,
      addTracks(doc, {
        tracks: [...TRACK_TEMPLATE, ['FX', 'Trains']],
        ids: Array.from({ length: 20 }, (_, index) => `n${index}`),
      }),
    )
    expect(tracksInOrder(doc)).toHaveLength(TRACK_TEMPLATE.length + 1)
  })
  it('name files by rule', () => {
    const reel = {
      company: 'Quill',
      show: 'Last Lamp / 2',
      name: 'Reel 1',
      nameRule: '{company}_{show}_{reel}_v{date}_{function}_{nothing}',
    }
    expect(nameByRule(reel, 'mix', '2026-01-02')).toBe('Quill_Last-Lamp-2_Reel-1_v2026-01-02_mix')
    expect(nameByRule({ ...reel, nameRule: '' }, 'cues', '2026-01-02')).toBe(
      'Last-Lamp-2_Reel-1_2026-01-02_cues',
    )
  })
})

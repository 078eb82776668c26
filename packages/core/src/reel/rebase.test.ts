import { describe, expect, it } from 'vitest'
import { deleteRecords } from '../edits/deleteRecords.js'
import { moveClips } from '../edits/moveClips.js'
import { editCue } from '../edits/editRecords.js'
import { addNote } from '../edits/editNotes.js'
import { shapeClips } from '../edits/shapeClips.js'
import { spotCue } from '../edits/spotCue.js'
import { expectOk, type Result } from '../errors.js'
import { after, placed } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { samples } from '../time/units.js'
import { invert, isEmpty } from './change.js'
import { cuesInOrder, type ReelDocument } from './document.js'
import { rebaseChange, type Rebased } from './rebase.js'

const spot = (doc: ReelDocument, id: string, at: number) =>
  spotCue(doc, { id, category: 'FX', in: at, out: at + 10 })
const withCue = after(testReel(), spot(testReel(), 'a', 100))

describe('a change that is fitted to another document', () => {
  it('is the same change where nothing is in its way', () => {
    const mine = expectOk(spot(withCue, 'b', 200))
    const fitted = expectOk(rebaseChange(withCue, mine))
    expect(fitted.change).toBe(mine)
    expect([...fitted.doc.cue.keys()]).toEqual(['a', 'b'])
  })

  it('takes the next free number for a cue whose own was given out, in its label, too', () => {
    const mine = expectOk(spot(withCue, 'b', 200))
    const theirs = after(withCue, spot(withCue, 'c', 300))
    const { change, doc } = expectOk(rebaseChange(theirs, mine))
    expect(change.label).toBe('Spot FX 003')
    expect(cuesInOrder(doc).map((cue) => [cue.id, cue.number])).toEqual([
      ['a', 1],
      ['b', 3],
      ['c', 2],
    ])
  })

  it('numbers several cues of one change apart', () => {
    const first = expectOk(spot(testReel(), 'x', 1))
    const second = expectOk(spot(after(testReel(), spot(testReel(), 'x', 1)), 'y', 2))
    const both = { ...first, added: [...first.added, ...second.added] }
    const { doc } = expectOk(rebaseChange(withCue, both))
    expect([...doc.cue.values()].map((cue) => cue.number).sort()).toEqual([1, 2, 3])
  })

  it('merges two people’s changes of one cue, field by field', () => {
    const mine = expectOk(editCue(withCue, { id: 'a', fields: { words: 'door' } }))
    const theirs = after(withCue, editCue(withCue, { id: 'a', fields: { notes: 'heavy', out: 150 } }))
    const { doc } = expectOk(rebaseChange(theirs, mine))
    expect(doc.cue.get('a')).toMatchObject({ words: 'door', notes: 'heavy', out: 150 })
  })

  it('is refused, and names the field, where both changed the same one differently', () => {
    const mine = expectOk(editCue(withCue, { id: 'a', fields: { words: 'door' } }))
    const theirs = after(withCue, editCue(withCue, { id: 'a', fields: { words: 'gate' } }))
    expect(rebaseChange(theirs, mine)).toMatchObject({
      ok: false,
      code: 'CORE_RECORD_CHANGED',
      message: expect.stringContaining('words of FX 001') as string,
    })
  })

  it('has nothing left to do where others did the same', () => {
    const words = editCue(withCue, { id: 'a', fields: { words: 'door' } })
    const gone = deleteRecords(withCue, { ids: ['a'] })
    expect(isEmpty(expectOk(rebaseChange(after(withCue, words), expectOk(words))).change)).toBe(true)
    expect(isEmpty(expectOk(rebaseChange(after(withCue, gone), expectOk(gone))).change)).toBe(true)
  })

  it('does not take out what somebody has worked on since', () => {
    const mine = expectOk(deleteRecords(withCue, { ids: ['a'] }))
    const theirs = after(withCue, editCue(withCue, { id: 'a', fields: { words: 'wanted' } }))
    expect(rebaseChange(theirs, mine)).toMatchObject({ ok: false, code: 'CORE_RECORD_CHANGED' })
  })

  it('takes out a cue that only got another number', () => {
    const mine = expectOk(deleteRecords(withCue, { ids: ['a'] }))
    const theirs = after(withCue, editCue(withCue, { id: 'a', fields: { number: 7 } }))
    expect(expectOk(rebaseChange(theirs, mine)).doc.cue.size).toBe(0)
  })

  it('is refused where what it changes is gone, or what it adds is there as something else', () => {
    const mine = expectOk(editCue(withCue, { id: 'a', fields: { words: 'door' } }))
    const gone = after(withCue, deleteRecords(withCue, { ids: ['a'] }))
    expect(rebaseChange(gone, mine)).toMatchObject({ ok: false, code: 'CORE_RECORD_MISSING' })
    const added = expectOk(spot(testReel(), 'a', 500))
    expect(rebaseChange(withCue, added)).toMatchObject({ ok: false, code: 'CORE_RECORD_EXISTS' })
  })

  it('is refused where the outcome would break a rule: a sound moved to where another has been laid', () => {
    const one = placed(testReel(), 'a', 100)
    const mine = expectOk(moveClips(one, { ids: ['a'], by: 96_000 }))
    const theirs = placed(one, 'b', 150, { trackId: 't-a' })
    expect(rebaseChange(theirs, mine)).toMatchObject({ ok: false, code: 'CORE_OVERLAP' })
  })

  it('takes back a change after others have changed other fields of the same record', () => {
    const mine = expectOk(editCue(withCue, { id: 'a', fields: { words: 'door' } }))
    const later = after(after(withCue, { ok: true, value: mine }), editCue(withCue, { id: 'a', fields: {} }))
    const theirs = after(later, editCue(later, { id: 'a', fields: { notes: 'soft' } }))
    const { doc } = expectOk(rebaseChange(theirs, invert(mine)))
    expect(doc.cue.get('a')).toMatchObject({ words: '', notes: 'soft' })
  })

  it('lets go of a cue that was deleted, whichever came first: sound on it or deletion', () => {
    const heard = placed(withCue, 's', 100)
    const hang = shapeClips(heard, { ids: ['s'], fields: { cueId: 'a' } })
    const remark = addNote(heard, { id: 'n', cueId: 'a', frame: 100, words: 'Loud?', author: 'I', at: '' })
    const gone = deleteRecords(heard, { ids: ['a'] })
    const cueOf = (result: Result<Rebased>): (string | null | undefined)[] => {
      const { doc } = expectOk(result)
      return [doc.clip.get('s')?.cueId, doc.note.get('n')?.cueId]
    }
    const both = after(after(heard, hang), remark)
    expect(cueOf(rebaseChange(both, expectOk(gone)))).toEqual([null, null])
    expect(cueOf(rebaseChange(after(heard, gone), expectOk(remark)))).toEqual([null, null])
    // A sound that was laid on the cue from the first is laid all the same.
    const laid = {
      ...expectOk(hang),
      added: [{ ...both.clip.get('s')!, id: 'z', start: samples(0) }],
      updated: [],
    }
    const { doc } = expectOk(rebaseChange(after(heard, gone), laid))
    expect(doc.clip.get('z')?.cueId).toBeNull()
  })
})

import { describe, expect, it } from 'vitest'
import { editCue } from '../edits/editRecords.js'
import { moveClips } from '../edits/moveClips.js'
import { spotCue } from '../edits/spotCue.js'
import { expectOk } from '../errors.js'
import { after, placed } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { apply, changeTo, emptyChange, isEmpty, textsOf, touchedIds } from './change.js'
import { EMPTY_STACKS, pushEntry, stacksFromLog, type LogEntry } from './history.js'

let seed = 5
const roll = (most: number): number => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % most
const entry = (
  seq: number,
  role: LogEntry['role'],
  target: number | null = null,
  author = 'Ines',
): LogEntry => ({
  ...{ seq, author, role, target, label: `act ${seq}` },
})

describe('what an author may undo and redo', () => {
  it('is their acts, the last first, and never the making of the reel', () => {
    const log = [entry(1, 'do'), entry(2, 'do'), entry(3, 'do', null, 'Idris'), entry(4, 'do')]
    expect(stacksFromLog(log, 'Ines')).toEqual({ undo: [2, 4], redo: [] })
    expect(stacksFromLog(log, 'Idris')).toEqual({ undo: [3], redo: [] })
    expect(stacksFromLog(log, 'Nobody')).toEqual(EMPTY_STACKS)
  })

  it('moves over with each undo and back with each redo, and a new act forgets what could be redone', () => {
    const log = [
      entry(1, 'do'),
      entry(2, 'do'),
      entry(3, 'do'),
      entry(4, 'undo', 3),
      entry(5, 'undo', 2),
      entry(6, 'redo', 2),
    ]
    expect(stacksFromLog(log, 'Ines')).toEqual({ undo: [2], redo: [3] })
    expect(stacksFromLog([...log, entry(7, 'do')], 'Ines')).toEqual({ undo: [2, 7], redo: [] })
  })

  it('is the same, rebuilt from the log, as when it was followed line by line', () => {
    for (let run = 0; run < 100; run++) {
      let stacks = EMPTY_STACKS
      const log = [entry(1, 'do', null, 'Idris')]
      for (let seq = 2; seq < 30; seq++) {
        const kind = roll(4)
        const top = kind === 2 ? stacks.undo.at(-1) : kind === 3 ? stacks.redo.at(-1) : undefined
        const next = top === undefined ? entry(seq, 'do') : entry(seq, kind === 2 ? 'undo' : 'redo', top)
        log.push(next, ...(roll(3) === 0 ? [entry(100 + seq, 'do', null, 'Idris')] : []))
        stacks = pushEntry(stacks, next)
      }
      expect(stacksFromLog(log, 'Ines')).toEqual(stacks)
    }
  })
})

describe('a change as a value', () => {
  const reel = after(
    placed(testReel(), 'a', 100),
    spotCue(testReel(), { id: 'q', category: 'FX', in: 1, out: 9, words: 'door' }),
  )

  it('names what it touches, and is empty where it touches nothing', () => {
    expect(isEmpty(emptyChange('Nothing'))).toBe(true)
    const moved = expectOk(moveClips(reel, { ids: ['a'], by: 2000 }))
    expect([isEmpty(moved), touchedIds(moved)]).toEqual([false, ['a']])
  })

  it('says which texts it writes, so that what could not be saved can be read', () => {
    expect(
      textsOf(expectOk(editCue(reel, { id: 'q', fields: { words: 'gate', notes: 'soft', out: 12 } }))),
    ).toEqual(['gate', 'soft'])
    expect(textsOf(expectOk(editCue(reel, { id: 'q', fields: { out: 12 } })))).toEqual([])
    expect(
      textsOf(expectOk(spotCue(reel, { id: 'r', category: 'BG', in: 1, out: 2, words: 'rain' }))),
    ).toEqual(['rain'])
    expect(textsOf(expectOk(spotCue(reel, { id: 'r', category: 'BG', in: 1, out: 2 })))).toEqual([])
  })

  it('leads from one document to another, there and back', () => {
    const other = after(reel, moveClips(reel, { ids: ['a'], by: 2000 }))
    const there = changeTo(reel, other, 'There')
    expect(expectOk(apply(reel, there))).toEqual(other)
    expect(isEmpty(changeTo(other, other, 'Nowhere'))).toBe(true)
    expect(expectOk(apply(other, changeTo(other, reel, 'Back')))).toEqual(reel)
  })
})

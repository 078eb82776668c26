import { addNote, apply, editCues, expectOk, spotCue, type ReelDocument } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { testReel } from '../../../../../packages/core/src/test/testReel.js'
import { blockToText, pasteCells, textToBlock } from './pasteCells.js'
import { blockOf, moveFocus, selectCell, type GridSelection } from './gridSelection.js'
import { PLAIN_VIEW, readView } from './listView.js'
import { filterCues } from './useCueTable.js'

const axes = { rows: ['a', 'b', 'c', 'd', 'e', 'f'], columns: ['in', 'words', 'notes'] }
const block = (from: string, to: string): GridSelection => {
  const [anchor, focus] = [from, to].map((cell) => ({
    row: cell.split(' ')[0] as string,
    column: cell.split(' ')[1] as string,
  }))
  return { anchor: anchor as GridSelection['anchor'], focus: focus as GridSelection['focus'] }
}

describe('the selection of the list', () => {
  it('moves with the focus, stops at the edges, and stretches from its anchor', () => {
    let selection = moveFocus(null, axes, 1, 1, false)
    expect(selection).toEqual(block('a in', 'a in'))
    selection = moveFocus(selection, axes, 2, 9, false)
    expect(selection).toEqual(block('c notes', 'c notes'))
    selection = moveFocus(selection, axes, -1, -1, true)
    expect(selection).toEqual(block('c notes', 'b words'))
    expect(blockOf(selection, axes)).toEqual({ rows: ['b', 'c'], columns: ['words', 'notes'] })
    expect(moveFocus(selection, { rows: [], columns: [] }, 1, 0, false)).toBeNull()
  })
  it('stays with its cues when the list is sorted otherwise, and is empty when they are gone', () => {
    const selection = selectCell(block('b in', 'b in'), { row: 'c', column: 'in' }, true)
    expect(blockOf(selection, { ...axes, rows: ['c', 'x', 'b'] }).rows).toEqual(['c', 'x', 'b'])
    expect(blockOf(selection, { ...axes, rows: ['x', 'b'] }).rows).toEqual([])
  })
})

describe('blocks of cells', () => {
  const target = (from: string, to: string) => blockOf(block(from, to), axes)
  it('cross the clipboard with tabs, quotation marks and line ends in them', () => {
    const cells = [
      ['two\nlines', 'a "word"'],
      ['tab\there', ''],
    ]
    expect(textToBlock(blockToText(cells))).toEqual(cells)
    expect(textToBlock('one\ttwo\r\nthree\tfour\r\n')).toEqual([
      ['one', 'two'],
      ['three', 'four'],
    ])
  })
  it('are laid from the corner, repeated where they fit a larger selection, and cut off at the edge', () => {
    const told = (cells: ReturnType<typeof pasteCells>): string[] =>
      cells.map((cell) => `${cell.id} ${cell.field} ${cell.text}`)
    expect(
      told(
        pasteCells(
          [
            ['1', '2'],
            ['3', '4'],
          ],
          target('b words', 'b words'),
          axes,
        ),
      ),
    ).toEqual(['b words 1', 'b notes 2', 'c words 3', 'c notes 4'])
    expect(told(pasteCells([['1'], ['2']], target('a in', 'd in'), axes))).toEqual([
      'a in 1',
      'b in 2',
      'c in 1',
      'd in 2',
    ])
    // Three rows are no whole number of two: the block is laid once.
    expect(told(pasteCells([['1'], ['2']], target('a in', 'c in'), axes))).toEqual(['a in 1', 'b in 2'])
    expect(
      told(
        pasteCells(
          [
            ['1', '2'],
            ['3', '4'],
          ],
          target('f notes', 'f notes'),
          axes,
        ),
      ),
    ).toEqual(['f notes 1'])
    expect(pasteCells([], target('a in', 'a in'), axes)).toEqual([])
  })
})

describe('views of the list', () => {
  it('survive what an older version kept, or somebody broke', () => {
    expect(readView('{"order":["words","gone"],"group":"scene"}')).toMatchObject({
      group: 'scene',
      hidden: PLAIN_VIEW.hidden,
    })
    expect(readView('{"order":["words","gone"]}').order.slice(0, 2)).toEqual(['words', 'code'])
    expect(readView('{"order":["words"]}').order).toHaveLength(PLAIN_VIEW.order.length)
    expect(readView('no json')).toEqual(PLAIN_VIEW)
  })
  it('let through what fits every word and filter', () => {
    const run = (doc: ReelDocument, change: ReturnType<typeof spotCue>): ReelDocument =>
      expectOk(apply(doc, expectOk(change)))
    let doc = testReel()
    for (const [id, category, words] of [
      ['a', 'FX', 'Door shut'],
      ['b', 'FOL', 'Steps to the door'],
      ['c', 'BG', 'Rain'],
    ] as const)
      doc = run(doc, spotCue(doc, { id, category, in: 10, out: 20, words }))
    doc = run(doc, editCues(doc, { edits: [{ id: 'b', fields: { state: 'ready', by: 'Mara' } }] }))
    doc = run(doc, addNote(doc, { id: 'n', cueId: 'c', frame: 0, words: 'harder?', author: 'Idris', at: '' }))
    const ids = (view: Partial<typeof PLAIN_VIEW>): string[] =>
      filterCues(doc, { ...PLAIN_VIEW, ...view }).map((cue) => cue.id)
    expect(ids({})).toHaveLength(3)
    expect(ids({ search: 'door mara' })).toEqual(['b'])
    expect(ids({ search: 'fx 001' })).toEqual(['a'])
    expect(ids({ categories: ['FX', 'BG'] }).sort()).toEqual(['a', 'c'])
    expect(ids({ states: ['ready'] })).toEqual(['b'])
    expect(ids({ noted: true })).toEqual(['c'])
  })
})

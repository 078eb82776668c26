import { describe, expect, it } from 'vitest'
import { spotCue } from '../edits/spotCue.js'
import { takeOver } from '../edits/takeOver.js'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import { cuesInOrder, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { testReel } from '../test/testReel.js'
import type { Category } from '../reel/categories.js'
import { compareSheets, differenceOf, type ComparedCue } from './compareSheets.js'
import { likeness } from './likeness.js'

type Line = readonly [id: string, category: Category, at: number, words: string]
const sheet = (...lines: Line[]): ReelDocument =>
  lines.reduce(
    (doc, [id, category, at, words]) =>
      expectOk(apply(doc, expectOk(spotCue(doc, { id, category, in: at, out: at + 10, words })))),
    testReel(),
  )
const compare = (mine: ReelDocument, theirs: ReelDocument): ComparedCue[] =>
  compareSheets(cuesInOrder(mine), cuesInOrder(theirs), 24)
const told = (lines: readonly ComparedCue[]): string[] =>
  lines.map((line) => `${line.mine?.id ?? '-'} ${line.theirs?.id ?? '-'} ${differenceOf(line)}`)

describe('likeness of words', () => {
  it('is Dice’s coefficient over letter pairs', () => {
    // night: ni ig gh ht; nacht: na ac ch ht; one of four shared: 2 * 1 / 8.
    expect(likeness('night', 'nacht')).toBe(0.25)
    expect(likeness('Gate bolt', 'bolt, GATE')).toBe(1)
    expect(likeness('Öffnet', 'offnet')).toBe(1)
    expect([likeness('', ''), likeness('', 'x'), likeness('門 戸', '門')]).toEqual([1, 0, 2 / 3])
  })
})

describe('comparing sheets', () => {
  const mine = sheet(
    ['a', 'FX', 100, 'Door shut'],
    ['b', 'FOL', 105, 'Hand on the latch'],
    ['c', 'FX', 400, 'Bell'],
    ['d', 'BG', 900, 'Rain, steady'],
    ['e', 'FX', 2000, 'Thunder'],
  )
  it('tells same, moved, worded otherwise, filed otherwise, and what only one has', () => {
    const theirs = sheet(
      ['p', 'FX', 100, 'Door shut'],
      ['q', 'FOL', 110, 'Hand on the latch'],
      ['r', 'FX', 402, 'Bell'],
      ['s', 'BG', 900, 'Steady rain outside'],
      ['t', 'DSG', 2001, 'Thunder'],
      ['u', 'FX', 3000, 'Owl'],
    )
    expect(told(compare(mine, theirs))).toEqual([
      'a p same',
      'b q moved',
      'c r moved',
      'd s worded',
      'e t category',
      '- u theirs',
    ])
  })
  it('does not pair different things that happen at one time', () => {
    expect(
      told(compare(sheet(['a', 'FX', 100, 'Door shut']), sheet(['p', 'FOL', 100, 'Steps on gravel']))),
    ).toEqual(['a - mine', '- p theirs'])
  })
  it('finds a line again that moved up to ten seconds, but no farther', () => {
    expect(told(compare(sheet(['a', 'FX', 100, 'Door shut']), sheet(['p', 'FX', 340, 'Door shut'])))).toEqual(
      ['a p moved'],
    )
    expect(told(compare(sheet(['a', 'FX', 100, 'Door shut']), sheet(['p', 'FX', 341, 'Door shut'])))).toEqual(
      ['a - mine', '- p theirs'],
    )
  })
  it('gives each of several equal lines to its nearest, each only once', () => {
    const steps = sheet(['a', 'FOL', 100, 'Step'], ['b', 'FOL', 112, 'Step'], ['c', 'FOL', 124, 'Step'])
    const others = sheet(['p', 'FOL', 101, 'Step'], ['q', 'FOL', 113, 'Step'])
    expect(told(compare(steps, others))).toEqual(['a p moved', 'b q moved', 'c - mine'])
  })
  it('knows nothing of cues without words but their time and category', () => {
    expect(told(compare(sheet(['a', 'FX', 100, '']), sheet(['p', 'FX', 110, 'Door'])))).toEqual(['a p moved'])
    expect(told(compare(sheet(['a', 'FX', 100, '']), sheet(['p', 'FX', 130, ''])))).toEqual([
      'a - mine',
      '- p theirs',
    ])
  })
  it('takes lines over, after which nothing differs but what only mine has', () => {
    const theirs = sheet(
      ['p', 'FX', 102, 'Door pulled shut'],
      ['q', 'FOL', 2001, 'Thunder'],
      ['u', 'FX', 3000, 'Owl'],
    )
    const change = expectOk(takeOver(mine, { lines: compare(mine, theirs), ids: ['new'] }))
    const after = expectOk(apply(mine, change))
    expect(told(compare(after, theirs)).filter((line) => !line.endsWith('same'))).toEqual([
      'b - mine',
      'c - mine',
      'd - mine',
    ])
    expect(after.cue.get('new')).toMatchObject({ category: 'FX', number: 4, words: 'Owl' })
    // Thunder became Foley and got the next Foley number.
    expect(after.cue.get('e')).toMatchObject({ category: 'FOL', number: 2 } satisfies Partial<Cue>)
  })
})

import { describe, expect, it } from 'vitest'
import type { SheetPaper } from '../../contract/recipes.js'
import { documentOf, recordsOf, type ReelDocument } from '../../reel/document.js'
import type { Clip, ReelRecord, Track } from '../../reel/records.js'
import { testClip, testTrack } from '../../test/records.js'
import { testReel } from '../../test/testReel.js'
import type { DrawnBox, DrawnPage, DrawnSheet, DrawnText, Measure } from './drawn.js'
import { layoutCueSheet } from './layoutCueSheet.js'
import { packPages } from './packed.js'
import { wrap } from './setText.js'
import type { SheetBox } from './sheetBoxes.js'

/** Letters half as wide as they are high: as good as any face, and easily reckoned by hand. */
const measure: Measure = (text, _, size) => [...text].length * size * 0.5
const PAPER: SheetPaper = { size: 'A4', landscape: false, tracks: 6, way: 'packed', seconds: 60 }

let state = 1
const random = (most: number): number => {
  state = (state * 1_103_515_245 + 12_345) % 2_147_483_648
  return Math.floor((state / 2_147_483_648) * most)
}

/** A reel of so many tracks with sounds one after the other, some of them crossfaded, with names of any length. */
function crowded(tracks: number, clips: number, seed: number): ReelDocument {
  state = seed
  const records: ReelRecord[] = [...recordsOf(testReel({ length: 100_000 }))]
  for (let t = 0; t < tracks; t++) {
    const track: Track = testTrack(`t${t}`, { order: `a${String(t).padStart(3, '0')}` })
    records.push(track)
    let at = random(200_000)
    for (let c = 0; c < clips; c++) {
      const length = 2000 + random(random(4) === 0 ? 2_000_000 : 60_000)
      const fade = random(3) === 0 ? 960 : 0
      const name = Array.from({ length: 1 + random(9) }, () => 'word'.repeat(1 + random(3))).join(' ')
      records.push(testClip(`t${t}c${c}`, track.id, { start: at, length, fadeIn: fade, fadeOut: fade, name }))
      at += fade > 0 ? length - 480 : length + (random(2) === 0 ? random(900_000) : 0)
    }
  }
  return documentOf(records)
}

const draw = (doc: ReelDocument, paper: Partial<SheetPaper> = {}): DrawnSheet =>
  layoutCueSheet(doc, { ...PAPER, ...paper }, measure, '2031-05-09')

/** Where a text reaches: above its baseline by its size, below it by a fifth. */
const boxOf = ({ x, y, text, size }: DrawnText) => ({
  ...{ left: x, right: x + measure(text, 'plain', size) },
  ...{ top: y - size * 0.95, bottom: y + size * 0.2 },
})

function expectNoOverlap(page: DrawnPage): void {
  const texts = [...page.boxes.flatMap(({ text }) => text), ...page.cues.flatMap(({ text }) => text)].map(
    boxOf,
  )
  texts.sort((a, b) => a.top - b.top)
  for (const [index, one] of texts.entries())
    for (const other of texts.slice(index + 1)) {
      if (other.top >= one.bottom - 0.3) break
      expect(other.left >= one.right - 0.01 || other.right <= one.left + 0.01).toBe(true)
    }
}

describe('the packed mix cue sheet', () => {
  it.each([
    [1, 40, 3],
    [6, 60, 11],
    [14, 30, 7],
  ])(
    'of %i tracks of %i sounds: nothing overlaps, order is kept, every word is inside its box',
    (tracks, clips, seed) => {
      const doc = crowded(tracks, clips, seed)
      const sheet = draw(doc)
      expect(new Set(sheet.pages.flatMap(({ boxes }) => boxes.map(({ clipId }) => clipId))).size).toBe(
        tracks * clips,
      )
      for (const page of sheet.pages) {
        expectNoOverlap(page)
        for (const box of page.boxes) {
          expect(box.cut).toBe(false)
          for (const text of box.text.map(boxOf)) {
            expect(text.top).toBeGreaterThanOrEqual(box.top - 0.01)
            expect(text.bottom).toBeLessThanOrEqual(box.bottom + 0.5)
          }
          expect(box.bottom).toBeLessThanOrEqual(sheet.bodyBottom + 0.01)
          expect(box.top).toBeGreaterThanOrEqual(sheet.bodyTop - 0.01)
        }
        expectOrder(doc, page.boxes)
      }
    },
  )

  it('is never longer than one to scale on which everything finds room', () => {
    for (const seed of [2, 5, 9]) {
      const doc = crowded(6, 25, seed)
      for (const seconds of [4, 10, 30]) {
        const scaled = draw(doc, { way: 'scale', seconds })
        if (scaled.pages.some(({ boxes }) => boxes.some(({ cut }) => cut))) continue
        expect(draw(doc).pages.length).toBeLessThanOrEqual(scaled.pages.length)
      }
    }
  })

  it('folds an hour of nothing between two sounds into one page, a frame each side of it', () => {
    const doc = placed([
      { id: 'a', start: 0, length: 48_000 },
      { id: 'b', start: 3600 * 48_000, length: 48_000 },
    ])
    const [page, ...more] = draw(doc).pages
    expect(more).toHaveLength(0)
    const [a, b] = page?.boxes as [DrawnBox, DrawnBox]
    expect(b.top - a.bottom).toBeLessThan(3)
    expect(a.text.map(({ text }) => text)).toEqual(['00:00:00', 'Lever', '00:01:00'])
  })

  it('breaks where the fewest boxes are cut, and draws a cut one on both pages, with its words', () => {
    const box = (id: string, from: number, to: number, column = 1): SheetBox => ({
      ...{ id, column, from, to, wordsFrom: from, fadeIn: 0, fadeOut: 0 },
      ...{ lines: [{ text: id, face: 'plain', size: 20 }], end: null },
    })
    // Each box needs 26.4 points. A page of 100 holds three; broken at 30 it would cut the long one, and a page of two is better filled than one of one.
    const boxes = [
      box('a', 0, 10),
      box('b', 10, 20),
      box('long', 20, 40, 2),
      box('c', 20, 30),
      box('d', 30, 40),
    ]
    expect(packPages(boxes, 100).map(({ from, to }) => [from, to])).toEqual([
      [0, 20],
      [20, 40],
    ])
  })

  it('of a reel with nothing on it has no page', () => {
    expect(draw(testReel()).pages).toEqual([])
  })
})

describe('the mix cue sheet to scale', () => {
  it('gives each second the same height, a fade its own, and marks what goes over the page', () => {
    const doc = placed([{ id: 'a', start: 0, length: 30 * 48_000, fadeIn: 5 * 48_000, fadeOut: 2 * 48_000 }])
    const sheet = draw(doc, { way: 'scale', seconds: 20 })
    expect(sheet.pages).toHaveLength(2)
    const second = (sheet.bodyBottom - sheet.bodyTop - 4) / 20
    const [first, last] = sheet.pages.map(({ boxes }) => boxes[0]) as [DrawnBox, DrawnBox]
    expect([first.fromAbove, first.toBelow, last.fromAbove, last.toBelow]).toEqual([false, true, true, false])
    expect(first.fadeIn).toBeCloseTo(5 * second, 6)
    expect([first.fadeOut, last.fadeIn]).toEqual([0, 0])
    expect(last.fadeOut).toBeCloseTo(2 * second, 6)
    expect(last.bottom - last.top).toBeCloseTo(10 * second, 6)
    expect(sheet.pages[0]?.ruler.length).toBeGreaterThan(5)
  })

  it('leaves words out where there is no room, and says so', () => {
    const doc = placed(
      Array.from({ length: 40 }, (_, index) => ({ id: `c${index}`, start: index * 24_000, length: 12_000 })),
    )
    const [page] = draw(doc, { way: 'scale', seconds: 600 }).pages
    expectNoOverlap(page as DrawnPage)
    expect(page?.boxes.some(({ cut }) => cut)).toBe(true)
  })
})

describe('a line of type', () => {
  const set = { face: 'plain', size: 10, width: 50, most: 3 } as const
  it.each([
    ['one two three', ['one two', 'three']],
    ['unbreakablewordhere', ['unbreakabl', 'ewordhere']],
    ['a b c d e f g h i j k l m n o p q r s t', ['a b c d e', 'f g h i j', 'k l m n o…']],
    ['', []],
  ])('of %j breaks into %j', (text, lines) => {
    expect(wrap(text, set, measure).map((line) => line.text)).toEqual(lines)
  })
})

/** One track with sounds of a cue. */
function placed(
  clips: { id: string; start: number; length: number; fadeIn?: number; fadeOut?: number }[],
): ReelDocument {
  const last = Math.ceil(Math.max(...clips.map(({ start, length }) => start + length)) / 2000)
  return documentOf([
    ...recordsOf(testReel({ length: last + 100 })),
    testTrack('t'),
    ...clips.map(({ id, ...fields }) => testClip(id, 't', { name: 'Lever', ...fields })),
  ])
}

/** Of two moments the later never stands higher. */
function expectOrder(doc: ReelDocument, boxes: readonly DrawnBox[]): void {
  const edges = boxes.flatMap(({ clipId, top, bottom, fromAbove, toBelow }) => {
    const { start, length } = doc.clip.get(clipId) as Clip
    return [
      ...(fromAbove ? [] : [{ at: start, y: top }]),
      ...(toBelow ? [] : [{ at: start + length, y: bottom }]),
    ]
  })
  edges.sort((a, b) => a.at - b.at)
  for (const [index, edge] of edges.entries())
    if (index > 0) expect(edge.y).toBeGreaterThanOrEqual((edges[index - 1]?.y ?? 0) - 0.01)
}

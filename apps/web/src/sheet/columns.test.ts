import type { Track } from '@yodel/core'
import { expect, it } from 'vitest'
import { columnAt, FOLDED_WIDTH, layoutColumns, WIDE_WIDTH, widthOfColumns } from './columns.js'
import { NARROW_WIDTH, TRACK_WIDTH } from './geometry.js'

const track = (id: string, folder = ''): Track => ({
  ...{
    kind: 'track',
    id,
    name: id,
    category: 'FX',
    order: id,
    level: 0,
    pan: 0,
    mute: false,
    solo: false,
    ink: 'category',
    width: 'stereo',
    folder,
    column: 0,
  },
})
const tracks = [track('a', 'box'), track('b', 'box'), track('c'), track('d', 'box')]

it('shares the room among the tracks, down to their least width', () => {
  expect(layoutColumns(tracks, new Set(), 800).map(({ left, width }) => [left, width])).toEqual(
    [0, 200, 400, 600].map((left) => [left, 200]),
  )
  expect(widthOfColumns(layoutColumns(tracks, new Set(), 100))).toBe(4 * TRACK_WIDTH)
  expect(widthOfColumns(layoutColumns([], new Set(), 100))).toBe(0)
  // All of a usual reel are in sight on the smallest page; of a crowd the narrowest that can be read.
  const twelve = Array.from({ length: 12 }, (_, index) => track(String(index)))
  expect(widthOfColumns(layoutColumns(twelve, new Set(), 420, NARROW_WIDTH))).toBeLessThanOrEqual(420)
  expect(layoutColumns(twelve, new Set(), 100, NARROW_WIDTH)[0]?.width).toBe(NARROW_WIDTH)
})
it('folds neighbours of one folder into a narrow column, each run by itself, and gives their room to the others', () => {
  const columns = layoutColumns(tracks, new Set(['box']), 800)
  expect(columns.map(({ key, folded, width, tracks: held }) => [key, folded, width, held.length])).toEqual([
    ['a', true, FOLDED_WIDTH, 2],
    ['c', false, 800 - 2 * FOLDED_WIDTH, 1],
    ['d', true, FOLDED_WIDTH, 1],
  ])
  expect(columnAt(columns, FOLDED_WIDTH)?.key).toBe('c')
  expect(columnAt(columns, 800)).toBeUndefined()
})
it('names a folder where it begins', () => {
  expect(layoutColumns(tracks, new Set(), 800).map(({ folder }) => folder)).toEqual(['box', '', '', 'box'])
})
it('gives one track room, and what is left to the others, down to their least width', () => {
  const widths = (room: number, wide: string, folded = new Set<string>()): number[] =>
    layoutColumns(tracks, folded, room, NARROW_WIDTH, wide).map(({ width }) => width)
  expect(widths(400, 'c')).toEqual([70, 70, WIDE_WIDTH, 70])
  expect(widths(200, 'c')).toEqual([NARROW_WIDTH, NARROW_WIDTH, WIDE_WIDTH, NARROW_WIDTH])
  expect(widths(1000, 'c')).toEqual([250, 250, 250, 250])
  expect(widths(400, 'gone')).toEqual([100, 100, 100, 100])
  // In a folder that is folded together it has none.
  expect(widths(400, 'a', new Set(['box']))).toEqual([FOLDED_WIDTH, 400 - 2 * FOLDED_WIDTH, FOLDED_WIDTH])
})

import { expect, it } from 'vitest'
import { FRAME_RATES } from '../time/rates.js'
import { testReel } from '../test/testReel.js'
import { after } from '../test/after.js'
import { spotCue } from '../edits/spotCue.js'
import type { Category } from '../reel/categories.js'
import { eventFor } from './eventFor.js'

const RATE = FRAME_RATES['24']
/** Three sounds two seconds (48 frames) apart. */
const ROW = [0, 1, 2].map((one): [number, number, number] => [
  one * 96_000,
  one * 96_000 + 4000,
  one * 96_000 + 90_000,
])
const cue = (category: Category, words: string, length: number) =>
  [
    ...after(
      testReel(),
      spotCue(testReel(), { id: 'q', category, in: 100, out: 100 + length, words }),
    ).cue.values(),
  ][0]!

it.each([
  ['one lever of a row', cue('FX', 'Lever nine thrown', 30), 0],
  ['one, on a cue that was only pressed', cue('FX', 'Lever', 1), 0],
  ['one, where the second would come on the very frame at which the cue has ended', cue('FX', 'Bell', 48), 0],
  ['the row, where the second still belongs to the cue', cue('FX', 'Bell, two beats', 49), null],
  ['the row for steps, however short', cue('FOL', 'He walks off', 20), null],
  ['the whole of a background', cue('BG', 'Drips', 30), null],
])('%s', (_, given, wanted) => {
  expect(eventFor(given, ROW, RATE)).toEqual(wanted === null ? null : { index: wanted, event: ROW[wanted] })
})

it('a recording of one sound is taken as it is', () => {
  expect(eventFor(cue('FX', 'Lever', 30), ROW.slice(0, 1), RATE)).toBeNull()
  expect(eventFor(cue('FX', 'Lever', 30), [], RATE)).toBeNull()
})

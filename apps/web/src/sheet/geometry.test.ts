import { expectOk, FRAME_RATES, formatTimecode, spotCue, type Cue } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { CARD_LINE, covers, layoutCueLane, stripStep, ticks, topOf, stretchAround } from './geometry.js'

const cue = (index: number, at: number): Cue => ({
  ...(expectOk(spotCue(testReel(), { id: `q${index}`, category: 'FX', in: at, out: at + 5 }))
    .added[0] as Cue),
  number: index + 1,
})

describe('the drawn stretch', () => {
  it.each([0.02, 0.5, 2.12, 48])(
    'covers what is visible around the gate at every place of the reel (zoom %f)',
    (zoom) => {
      for (const gate of [0, 1, 700, 14_399]) {
        const stretch = stretchAround(gate, 700, zoom, 14_400)
        expect(covers(stretch, gate, 700, 14_400)).toBe(true)
        expect(stretch.from).toBeGreaterThanOrEqual(-1)
        expect(stretch.to).toBeLessThanOrEqual(14_401)
        expect(topOf(stretch, gate + 10) - topOf(stretch, gate)).toBeCloseTo(10 * zoom)
      }
    },
  )
  it('has to be drawn anew once the gate has run through the margin', () => {
    const stretch = stretchAround(5000, 700, 2, 14_400)
    // 320 px of margin at 2 px a frame.
    expect(covers(stretch, 5000 + 160, 700, 14_400)).toBe(true)
    expect(covers(stretch, 5000 + 162, 700, 14_400)).toBe(false)
    const bare = stretchAround(5000, 700, 2, 14_400, 0)
    expect(covers(bare, 5000, 700, 14_400)).toBe(true)
    expect((bare.to - bare.from) * 2).toBe(700)
  })
})

describe('the timecode lane', () => {
  it('names lines that stand at least 44 px apart and fall on round timecodes', () => {
    for (const zoom of [0.05, 0.3, 2.12, 10, 48]) {
      const rate = FRAME_RATES['25']
      const found = ticks({ from: 1000, to: 1000 + 2000 / zoom, zoom, anchor: 0 }, rate, 90_000).filter(
        (tick) => tick.major,
      )
      const gaps = found.slice(1).map((tick, index) => (tick.frame - (found[index]?.frame ?? 0)) * zoom)
      expect(Math.min(...gaps)).toBeGreaterThanOrEqual(44)
      if (zoom < 1)
        for (const tick of found) expect(formatTimecode(90_000 + tick.frame, rate)).toMatch(/:00$/)
    }
  })
})

describe('the cue lane', () => {
  it.each([
    [10, 2.12, 'full'],
    [300, 2.12, 'full'],
    [1000, 2.12, 'line'],
    [2000, 0.5, 'counts'],
    [40, 0.05, 'counts'],
  ] as const)('lays out %i cues at zoom %f as %s, in order and without overlaps', (count, zoom, look) => {
    const cues = Array.from({ length: count }, (_, index) =>
      cue(index, Math.floor((index * 14_000) / count / 3) * 3),
    )
    const lane = layoutCueLane(cues, zoom, 14_400)
    expect(lane.look).toBe(look)
    expect(lane.cards.flatMap((card) => card.cues)).toEqual(cues)
    expect(lane.cards.at(-1)?.lines).toBe(look === 'full' ? 3 : 1)
    for (const [index, card] of lane.cards.entries()) {
      const before = lane.cards[index - 1]
      // Also where the one before takes all the lines that it may.
      if (before)
        expect(card.top).toBeGreaterThanOrEqual(before.top + before.height + (before.lines - 1) * CARD_LINE)
    }
  })
})

describe('the picture strip', () => {
  it('keeps thumbnails at least 34 px apart, one a second or fewer when far out', () => {
    for (const zoom of [0.03, 0.4, 1, 3, 20, 48]) {
      const { step, sparse } = stripStep(zoom, FRAME_RATES['24'])
      expect(step * zoom).toBeGreaterThanOrEqual(33.99)
      expect(sparse).toBe(step >= 24)
    }
  })
})

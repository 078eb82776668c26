import { describe, expect, it } from 'vitest'
import { shapeClips } from '../edits/shapeClips.js'
import { spotCue } from '../edits/spotCue.js'
import { nextNumber, cueCode } from '../reel/numbering.js'
import { after, placed } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { layoutCards, type CardWish } from './cardLayout.js'
import { coverageOf } from './coverage.js'
import { gapsBetween, mergeSpans, type Span } from './spans.js'

let seed = 11
const roll = (most: number): number => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % most

describe('cards beside the picture', () => {
  const wish = (id: string, wanted: number, height = 20): CardWish => ({ id, wanted, height })
  const tops = (wishes: CardWish[], min?: number): number[] =>
    layoutCards(wishes, 4, min).map(({ top }) => top)

  it('stand where they want to while there is room', () => {
    expect(tops([wish('a', 0), wish('b', 100)])).toEqual([0, 100])
    expect(layoutCards([], 4)).toEqual([])
  })

  it('share what is missing among those that meet', () => {
    // Both want 50; they need 24 between their tops: twelve up, twelve down.
    expect(tops([wish('a', 50), wish('b', 50)])).toEqual([38, 62])
    expect(tops([wish('a', 50), wish('b', 50), wish('c', 50)])).toEqual([26, 50, 74])
  })

  it('never stand above the head of the lane', () => {
    expect(tops([wish('a', 0), wish('b', 0)], 0)).toEqual([0, 24])
  })

  it('never overlap, keep their order, and are moved least: no single shift makes it better', () => {
    for (let run = 0; run < 100; run++) {
      let at = 0
      const wishes = Array.from({ length: 2 + roll(12) }, (_, index) =>
        wish(`c${index}`, (at += roll(30)), 10 + roll(30)),
      )
      const places = layoutCards(wishes, 4)
      const cost = (moved: readonly number[]): number =>
        moved.reduce((sum, top, index) => sum + (top - (wishes[index]?.wanted ?? 0)) ** 2, 0)
      const found = places.map(({ top }) => top)
      const fits = (moved: readonly number[]): boolean =>
        moved.every(
          (top, index) =>
            index === 0 || top >= (moved[index - 1] ?? 0) + (wishes[index - 1]?.height ?? 0) + 4 - 1e-9,
        )
      expect(fits(found)).toBe(true)
      for (const [index] of found.entries()) {
        for (const by of [-0.5, 0.5]) {
          const moved = found.map((top, other) => (other === index ? top + by : top))
          if (fits(moved)) expect(cost(moved)).toBeGreaterThanOrEqual(cost(found) - 1e-6)
        }
      }
    }
  })
})

describe('stretches of the reel', () => {
  /** The same by walking every frame. */
  const walked = (spans: readonly Span[], length: number): boolean[] =>
    Array.from({ length }, (_, frame) => spans.some((span) => span.from <= frame && frame < span.to))

  it('are joined, and what is left over found, as by walking every frame', () => {
    for (let run = 0; run < 200; run++) {
      const spans = Array.from({ length: roll(8) }, () => {
        const from = roll(60)
        return { from, to: from + roll(12) }
      })
      const merged = mergeSpans(spans)
      expect(walked(merged, 80)).toEqual(walked(spans, 80))
      for (const [index, span] of merged.entries())
        expect(span.from).toBeGreaterThan(merged[index - 1]?.to ?? -1)
      const gaps = gapsBetween(spans, 10, 70)
      const free = walked(spans, 80).map((taken, frame) => !taken && frame >= 10 && frame < 70)
      expect(walked(gaps, 80)).toEqual(free)
    }
  })
})

describe('a cue and its sounds', () => {
  /** Two seconds from frame 100; the sound is one second, its sync point a quarter in. */
  const cued = after(testReel(), spotCue(testReel(), { id: 'q', category: 'FX', in: 100, out: 148 }))
  const cover = (doc = cued): string => coverageOf(doc, doc.cue.get('q')!)

  it('is covered by nothing, in part, or fully, by what sounds and meets its sync frame', () => {
    expect(cover()).toBe('nothing')
    const part = placed(cued, 'a', 100, { cueId: 'q' })
    expect(cover(part)).toBe('partly')
    const long = { id: 's', name: 'Rain', recorded: 120_000, sync: 0 }
    expect(cover(placed(cued, 'a', 100, { cueId: 'q', sound: long }))).toBe('fully')
    // Nothing sounds on its first frame, however much sounds after.
    expect(cover(placed(cued, 'a', 104, { cueId: 'q', sound: long }))).toBe('partly')
    expect(cover(after(part, shapeClips(part, { ids: ['a'], fields: { mute: true } })))).toBe('nothing')
  })

  it('that is short is covered by whatever sounds on its frame', () => {
    const short = after(testReel(), spotCue(testReel(), { id: 'q', category: 'FX', in: 100, out: 120 }))
    expect(cover(placed(short, 'a', 100, { cueId: 'q' }))).toBe('fully')
  })

  it('does not count what sounds twice at once', () => {
    const twice = placed(placed(cued, 'a', 100, { cueId: 'q' }), 'b', 101, { cueId: 'q' })
    expect(cover(twice)).toBe('partly')
  })
})

describe('numbers of cues', () => {
  it('go on from the highest of their category, whatever is missing below', () => {
    let doc = testReel()
    for (const id of ['a', 'b', 'c']) doc = after(doc, spotCue(doc, { id, category: 'FX', in: 1, out: 2 }))
    doc = { ...doc, cue: new Map([...doc.cue].filter(([id]) => id !== 'a')) }
    expect([nextNumber(doc, 'FX'), nextNumber(doc, 'BG')]).toEqual([4, 1])
  })
  it('are written with three digits, or more where they need them', () => {
    expect(cueCode({ category: 'FX', number: 14 })).toBe('FX 014')
    expect(cueCode({ category: 'FOL', number: 1204 })).toBe('FOL 1204')
  })
})

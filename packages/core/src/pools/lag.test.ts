import { describe, expect, it } from 'vitest'
import { lagOf, stretchToHit } from './lag.js'

const MS = 48
const steps = (count: number, from = 0, every = 500): number[] =>
  Array.from({ length: count }, (_, index) => (from + index * every) * MS)

describe('the lag of a hand', () => {
  it('is the middle of how late it hits, whatever a few hits do, and how far half of them are from it', () => {
    const late = [60, 70, 80, 90, 100, -200, 340]
    const hits = steps(7, 1000).map((place, index) => place + (late[index] as number) * MS)
    expect(lagOf(hits, steps(7, 1000))).toEqual({ ms: 80, hits: 7, spread: 20 })
    expect(lagOf(hits.slice(0, 6), steps(7, 1000))).toEqual({ ms: 75, hits: 6, spread: 15 })
  })
  it('is a matter of time and not of the reel: at half speed a hand is as late', () => {
    const at = (rolled: number) => steps(6, 1000, 800).map((place) => place + 90 * MS * rolled)
    for (const rolled of [1, 0.5, 0.25])
      expect(lagOf(at(rolled), steps(6, 1000, 800), rolled)?.ms).toBeCloseTo(90)
  })
  it('is early for whoever hits early, and is not told by what was hit at nothing or too seldom', () => {
    expect(
      lagOf(
        steps(5, 1000).map((place) => place - 30 * MS),
        steps(5, 1000),
      )?.ms,
    ).toBe(-30)
    expect(lagOf([...steps(4), 5000 * MS, 7000 * MS], steps(4))).toBeNull()
    expect(lagOf(steps(9), [])).toBeNull()
  })
})

describe('a stretch to hit', () => {
  const length = 10_000 * MS
  it('is the next one from here on in which enough happens, with time to get ready', () => {
    const places = [...steps(9, 2000), ...steps(9, 40_000), ...steps(9, 80_000)]
    expect(stretchToHit(places, { from: 30_000 * MS, length })).toEqual({
      from: 38_500 * MS,
      to: 48_500 * MS,
    })
    expect(stretchToHit(places, { from: 90_000 * MS, length })?.from).toBe(500 * MS)
    expect(stretchToHit(places, { from: 0, length: length / 2, rolled: 0.5 })?.from).toBe(1250 * MS)
  })
  it('is where the most happens when enough happens nowhere, and nowhere where too little does', () => {
    const places = [...steps(5, 2000), ...steps(6, 40_000)]
    expect(stretchToHit(places, { from: 0, length })?.from).toBe(38_500 * MS)
    expect(stretchToHit(steps(4), { from: 0, length })).toBeNull()
    expect(stretchToHit([], { from: 0, length })).toBeNull()
    // A rattle is one thing to a hand.
    expect(stretchToHit(steps(40, 2000, 20), { from: 0, length })).toBeNull()
  })
})

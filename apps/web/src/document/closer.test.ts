import { describe, expect, it } from 'vitest'
import {
  CLOSEST,
  nextCloser,
  panned,
  transformOf,
  WHOLE_PICTURE,
  withCloser,
  zoomed,
  type Closer,
} from './closer.js'

/** Which point of the picture is seen at a place of the view. */
const seenAt = ({ times, x, y }: Closer, at: { x: number; y: number }) => ({
  x: x + (at.x - 0.5) / times,
  y: y + (at.y - 0.5) / times,
})

describe('a closer look at the picture', () => {
  it('leaves what is under the pointer in its place', () => {
    const at = { x: 0.3, y: 0.8 }
    const once = zoomed(WHOLE_PICTURE, 2.5, at)
    expect(seenAt(once, at).x).toBeCloseTo(0.3, 9)
    expect(seenAt(once, at).y).toBeCloseTo(0.8, 9)
    const there = seenAt(once, { x: 0.6, y: 0.5 })
    const twice = zoomed(once, 1.7, { x: 0.6, y: 0.5 })
    expect(seenAt(twice, { x: 0.6, y: 0.5 }).x).toBeCloseTo(there.x, 9)
  })
  it('never shows what lies beside the picture', () => {
    for (const closer of [
      panned(zoomed(WHOLE_PICTURE, 3, { x: 0.5, y: 0.5 }), 9, -9),
      zoomed(zoomed(WHOLE_PICTURE, 6, { x: 0, y: 1 }), 0.3, { x: 0.9, y: 0.1 }),
      zoomed(WHOLE_PICTURE, 0.2, { x: 0, y: 0 }),
    ])
      for (const corner of [seenAt(closer, { x: 0, y: 0 }), seenAt(closer, { x: 1, y: 1 })])
        for (const part of [corner.x, corner.y]) {
          expect(part).toBeGreaterThan(-1e-9)
          expect(part).toBeLessThan(1 + 1e-9)
        }
    expect(zoomed(WHOLE_PICTURE, 100, { x: 0.5, y: 0.5 }).times).toBe(CLOSEST)
  })
  it('goes round through twice and four times, about one point', () => {
    const [twice, four, whole] = [1, 2, 3].map((count) =>
      Array.from({ length: count }).reduce<Closer>(nextCloser, { times: 1, x: 0.5, y: 0.5 }),
    )
    expect([twice?.times, four?.times, whole]).toEqual([2, 4, WHOLE_PICTURE])
    expect(transformOf(WHOLE_PICTURE)).toBe('scale(1) translate(0.000%, 0.000%)')
    expect(transformOf({ times: 2, x: 0.75, y: 0.25 })).toBe('scale(2) translate(-50.000%, 0.000%)')
  })
  it('is remembered for each cue, the whole picture by forgetting', () => {
    const look = { times: 3, x: 0.4, y: 0.4 }
    const all = withCloser({ a: look }, 'b', look)
    expect(Object.keys(all)).toEqual(['a', 'b'])
    expect(withCloser(all, 'a', WHOLE_PICTURE)).toEqual({ b: look })
    const many = Array.from({ length: 401 }, (_, index) => `cue ${index}`)
    const kept = many.reduce((sum, key) => withCloser(sum, key, look), {})
    expect([Object.keys(kept).length, 'cue 0' in kept]).toEqual([400, false])
  })
})

import { describe, expect, it } from 'vitest'
import type { SoundEvent } from '../contract/sounds.js'
import { joinWithBefore, leaveOut, misfitOf, redraw } from './mendEvents.js'

const EVENTS: readonly SoundEvent[] = [
  [0, 100, 1000],
  [2000, 2100, 3000],
  [3000, 3500, 4000],
]
const LENGTH = 5000

describe('mending the split of a recording', () => {
  it('takes events that follow each other, also without a gap', () => {
    expect(misfitOf(EVENTS, LENGTH)).toBe(-1)
    expect(misfitOf([], LENGTH)).toBe(-1)
  })

  it.each<[string, SoundEvent]>([
    ['begins within the one before', [2900, 3500, 4000]],
    ['begins after its attack', [3600, 3500, 4000]],
    ['ends at its attack', [3000, 4000, 4000]],
    ['ends beyond the recording', [3000, 3500, 5001]],
  ])('names one that %s', (_, third) => {
    expect(misfitOf([...EVENTS.slice(0, 2), third], LENGTH)).toBe(2)
  })

  it('joins two under the attack of the first', () => {
    expect(joinWithBefore(EVENTS, 2)).toEqual([EVENTS[0], [2000, 2100, 4000]])
    expect(joinWithBefore(EVENTS, 0)).toEqual(EVENTS)
  })

  it('leaves one out and the others alone', () => {
    expect(leaveOut(EVENTS, 1)).toEqual([EVENTS[0], EVENTS[2]])
  })

  it('draws one anew between its neighbours, its attack within', () => {
    expect(redraw(EVENTS, 1, { in: 500, out: 3500, sync: 400 }, LENGTH)[1]).toEqual([1000, 1000, 3000])
    expect(redraw(EVENTS, 1, { in: 1500, out: 2500, sync: null }, LENGTH)[1]).toEqual([1500, 1500, 2500])
    expect(redraw(EVENTS, 2, { in: 3100, out: 9000, sync: 9000 }, LENGTH)[2]).toEqual([3100, 4999, 5000])
  })

  it('always leaves events that fit', () => {
    for (const at of [0, 1, 2])
      for (const drawn of [
        { in: 0, out: LENGTH, sync: null },
        { in: 700, out: 3600, sync: 4900 },
      ])
        if (Math.max(drawn.in, EVENTS[at - 1]?.[2] ?? 0) < (EVENTS[at + 1]?.[0] ?? LENGTH))
          expect(misfitOf(redraw(EVENTS, at, drawn, LENGTH), LENGTH)).toBe(-1)
  })
})

import { describe, expect, it } from 'vitest'
import { findPacing } from './pacing.js'
import { FRAME_RATES } from './rates.js'

const at = (count: number, fps: number, first = 0): number[] =>
  Array.from({ length: count }, (_, index) => first + index / fps)
const paced = (times: readonly number[], ...declared: (keyof typeof FRAME_RATES)[]) => {
  const { rate, ...rest } = findPacing(
    times,
    declared.map((id) => FRAME_RATES[id]),
  )
  return [rate.id, rest.even, rest.repeated, rest.leftOut]
}

describe('the pacing of a movie', () => {
  it.each(['23.976', '24', '25', '29.97', '30', '48', '50', '59.94', '60'] as const)(
    'at %s is even, also with times in whole milliseconds, wherever it begins',
    (id) => {
      const { num, den } = FRAME_RATES[id]
      const times = at(3000, num / den, 1.4).map((time) => Math.round(time * 1000) / 1000)
      expect(paced(times)).toEqual([id, true, 0, 0])
    },
  )

  it('takes what the file states first, where it fits, however few frames there are', () => {
    // Ten frames say nothing of a thousandth.
    expect(paced(at(10, 24), '23.976')).toEqual(['23.976', true, 0, 0])
    // A field rate is not a frame rate.
    expect(paced(at(100, 25), '50', '25')).toEqual(['25', true, 0, 0])
  })

  it('with a missing frame keeps its rate, and one frame is shown longer', () => {
    const times = at(1441, 24).filter((_, index) => index !== 700)
    expect(paced(times, '24', '23.976')).toEqual(['24', false, 1, 0])
    expect(paced(times)).toEqual(['24', false, 1, 0])
    expect(findPacing(times, [FRAME_RATES['24']]).holes).toEqual([{ at: 700, frames: 1 }])
  })

  it('with stretches missing says where, however it is counted', () => {
    const times = at(1000, 25, 3).filter((_, index) => index < 100 || (index >= 140 && index !== 500))
    expect(findPacing(times, [FRAME_RATES['25']]).holes).toEqual([
      { at: 100, frames: 40 },
      { at: 500, frames: 1 },
    ])
  })

  it('at a rate that no reel has is put on the nearest, frame by frame where it belongs', () => {
    // 24.5 a second for a minute are 1,470 frames on 1,500 of 25 fps, or 30 too many on 24.
    const [id, even, repeated, leftOut] = paced(at(1470, 24.5))
    expect([id === '25' || id === '24', even]).toEqual([true, false])
    expect(Number(repeated) + Number(leftOut)).toBeGreaterThan(27)
    expect(Number(repeated) + Number(leftOut)).toBeLessThan(32)
    // A steady 29.87 drifts by 6 frames in a minute.
    expect(paced(at(1792, 29.87))).toEqual(['29.97', false, expect.closeTo(6, -0.5), 0])
  })

  it('that changes as it goes, as a phone’s does, is uneven', () => {
    const times = [...at(300, 30), ...at(240, 24, 10), ...at(200, 20, 20)]
    const [, even, repeated, leftOut] = paced(times, '30')
    expect(even).toBe(false)
    expect(Number(repeated) + Number(leftOut)).toBeLessThan(150)
  })

  it('of a single frame is what the file states', () => {
    expect(paced([0], '25')).toEqual(['25', true, 0, 0])
  })
})

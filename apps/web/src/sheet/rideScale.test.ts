import { FRAME_RATES, type RideMoment, type RidePoint } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { rideLine, rideScale } from './rideScale.js'

const rate = FRAME_RATES['25']
// A frame is 1,920 samples and, here, two pixels.
const stretch = { from: 100, to: 300, zoom: 2, anchor: 50 }
const level = rideScale('level', stretch, 74, rate)
const pan = rideScale('pan', stretch, 74, rate)

describe('rideScale', () => {
  it('stands where the stretch stands', () => {
    expect(level).toMatchObject({ top: 100, height: 400 })
    expect(level.y(150 * 1920)).toBe(100)
  })

  it('shows −48 dB at the left, +12 dB at the right, and what lies beyond at the edge', () => {
    expect([level.x(-48), level.x(12)]).toEqual([4, 70])
    expect([level.x(-90), level.x(20)]).toEqual([4, 70])
    expect(pan.x(0)).toBe(37)
  })

  it('reads back what it shows', () => {
    for (const value of [-48, -6.5, 0, 12]) {
      const [at, read] = level.momentAt(level.x(value), level.y(200 * 1920))
      expect(at).toBe(200 * 1920)
      expect(read).toBeCloseTo(value, 2)
    }
  })

  it('never reads a moment before the reel', () => {
    expect(rideScale('level', { ...stretch, from: -20 }, 74, rate).momentAt(10, 0)[0]).toBe(0)
  })

  it('draws a straight way by its ends, a held one by a corner, a bent one in steps', () => {
    const from = 100 * 1920
    const to = 200 * 1920
    const bent = (bend: RidePoint['bend']): RideMoment[] => [
      [from, -48, bend],
      [to, 12],
    ]
    expect(level.path(bent('straight'))).toBe('M4.0 0.0L70.0 200.0')
    expect(level.path(bent('hold'))).toBe('M4.0 0.0L4.0 200.0L70.0 200.0')
    // The middle of an s lies half way, its first quarter below that of a straight line.
    const steps = level.path(bent('s')).slice(1).split('L')
    expect(steps).toHaveLength(13)
    expect(steps[6]).toBe('37.0 100.0')
    expect(Number(steps[3]?.split(' ')[0])).toBeLessThan(4 + 66 / 4)
  })
})

describe('rideLine', () => {
  const point = (at: number, value: number): RidePoint =>
    ({ id: String(at), trackId: 't', what: 'level', at, value, bend: 'straight' }) as RidePoint

  it('rests where there is no point', () => {
    expect(rideLine([], -3, 960)).toEqual([
      [0, -3],
      [960, -3],
    ])
  })

  it('goes on from the first and the last point, beyond what is drawn if need be', () => {
    expect(rideLine([point(48, 2), point(4800, -9)], 0, 960)).toEqual([
      [0, 2],
      [48, 2, 'straight'],
      [4800, -9, 'straight'],
      [4800, -9],
    ])
  })
})

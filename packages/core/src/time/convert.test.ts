import { describe, expect, it } from 'vitest'
import { frameToSample, framesToSeconds, nearestFrame, pictureFrameAt, sampleToFrame } from './convert.js'
import { FRAME_RATES, FRAME_RATE_IDS } from './rates.js'
import type { Frames } from './units.js'

const f = (value: number): Frames => value as Frames

describe('frames and samples at 48 kHz', () => {
  it('has the published samples a frame: 24 -> 2000, 25 -> 1920, 30 -> 1600, 23.976 -> 2002', () => {
    expect(frameToSample(f(1), FRAME_RATES['24'])).toBe(2000)
    expect(frameToSample(f(1), FRAME_RATES['25'])).toBe(1920)
    expect(frameToSample(f(1), FRAME_RATES['30'])).toBe(1600)
    expect(frameToSample(f(1), FRAME_RATES['23.976'])).toBe(2002)
  })
  it('spreads 1601.6 samples a frame without adding up rounding', () => {
    const rate = FRAME_RATES['29.97']
    expect([1, 2, 3, 4, 5].map((frame) => frameToSample(f(frame), rate))).toEqual([
      1602, 3203, 4805, 6406, 8008,
    ])
    expect(frameToSample(f(107_892), rate)).toBe(Math.round(107_892 * 1601.6))
  })
  it('takes 3,603.6 s for one hour of 29.97 non-drop timecode', () => {
    expect(framesToSeconds(108_000, FRAME_RATES['29.97'])).toBeCloseTo(3603.6, 9)
  })
  it.each(FRAME_RATE_IDS)('finds the frame of its first and last sample at %s', (id) => {
    const rate = FRAME_RATES[id]
    for (let frame = 0; frame < 200_000; frame += 37) {
      const first = frameToSample(f(frame), rate)
      expect(sampleToFrame(first, rate)).toBe(frame)
      expect(sampleToFrame(frameToSample(f(frame + 1), rate) - 1, rate)).toBe(frame)
      expect(nearestFrame(first + 700, rate)).toBe(
        frame + (700 * 2 >= frameToSample(f(frame + 1), rate) - first ? 1 : 0),
      )
    }
  })
  it('shows a movie of another rate in real time', () => {
    expect(pictureFrameAt(240, FRAME_RATES['24'], FRAME_RATES['25'])).toBe(250)
    expect(pictureFrameAt(1000, FRAME_RATES['29.97'], FRAME_RATES['29.97d'])).toBe(1000)
  })
})

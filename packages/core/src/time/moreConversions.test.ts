import { describe, expect, it } from 'vitest'
import {
  frameOfSample,
  framesAtRate,
  framesIn,
  frameToSample,
  nearestFrame,
  samplesIn,
  samplesOfFrames,
  samplesPerFrame,
  sampleToFrame,
  secondsOf,
} from './convert.js'
import { FRAME_RATE_IDS, FRAME_RATES } from './rates.js'
import { frames, samples, seconds } from './units.js'

const NTSC = FRAME_RATES['23.976']

describe('lengths', () => {
  it('of a frame: 2,000 samples at 24, 2,002 at 24000/1001, not whole at 29.97', () => {
    expect(samplesPerFrame(FRAME_RATES['24'])).toBe(2000)
    expect(samplesPerFrame(NTSC)).toBe(2002)
    expect(samplesPerFrame(FRAME_RATES['29.97'])).toBeCloseTo(1601.6, 9)
  })
  it('of seconds, in whole samples and frames', () => {
    expect([samplesIn(0.25), samplesIn(1 / 3)]).toEqual([12_000, 16_000])
    // 24000/1001 frames last 1001 s / 1000: ten minutes hold 14,385.6 of them.
    expect([framesIn(600, FRAME_RATES['24']), framesIn(600, NTSC)]).toEqual([14_400, 14_386])
    expect(secondsOf(12_000)).toBe(0.25)
  })
  it('of frames from a place on add up to the same as going there at once', () => {
    for (const id of FRAME_RATE_IDS) {
      const rate = FRAME_RATES[id]
      let at = 0
      for (let step = 0; step < 500; step++) at += samplesOfFrames(at, 1, rate)
      expect(at).toBe(frameToSample(frames(500), rate))
      for (let step = 0; step < 500; step++) at += samplesOfFrames(at, -1, rate)
      expect(at).toBe(0)
    }
  })
  it('of frames before the reel’s first sample are counted from there', () => {
    expect(samplesOfFrames(-500, 1, FRAME_RATES['24'])).toBe(2000)
  })
})

describe('another rate', () => {
  it('keeps real time: an hour at 25 is 86,400 frames at 24', () => {
    expect(framesAtRate(90_000, FRAME_RATES['25'], FRAME_RATES['24'])).toBe(86_400)
  })
  it('goes there and back to within half a frame of the coarser one', () => {
    for (const id of FRAME_RATE_IDS) {
      const back = framesAtRate(
        framesAtRate(1000, FRAME_RATES['60'], FRAME_RATES[id]),
        FRAME_RATES[id],
        FRAME_RATES['60'],
      )
      expect(Math.abs(back - 1000)).toBeLessThanOrEqual(2)
    }
  })
})

describe('a sample among the frames', () => {
  it('has a fraction for drawing, the frame on screen, and the nearest one', () => {
    const rate = FRAME_RATES['24']
    expect(frameOfSample(3000, rate)).toBe(1.5)
    expect([sampleToFrame(3999, rate), sampleToFrame(4000, rate)]).toEqual([1, 2])
    expect([nearestFrame(2999, rate), nearestFrame(3000, rate)]).toEqual([1, 2])
  })
})

describe('units', () => {
  it('refuse what is not whole, or not a number', () => {
    expect(() => frames(1.5)).toThrow('frames: must be a whole number, got 1.5')
    expect(() => samples(Number.NaN)).toThrow('samples: must be a whole number, got NaN')
    expect(() => seconds(Infinity)).toThrow('seconds: must be finite, got Infinity')
    expect([frames(2), samples(3), seconds(0.5)]).toEqual([2, 3, 0.5])
  })
})

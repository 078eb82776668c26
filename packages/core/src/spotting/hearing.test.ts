import { describe, expect, it } from 'vitest'
import { OnsetDetector } from '../hearing/onsets.js'
import { frameToSample } from '../time/convert.js'
import { FRAME_RATES } from '../time/rates.js'
import { frames } from '../time/units.js'
import { nearestMark, nextMark } from './marks.js'
import { MOVEMENT_SIZE, MovementMeter } from './pictureCuts.js'
import { gapsBetween, mergeSpans } from './spans.js'
import { findTwoPop } from './twoPop.js'

let state = 7
const noise = (): number => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 1_073_741_824 - 1

describe('onsets', () => {
  it('finds attacks over steady noise to within 10 ms, and none in noise or a slow swell', () => {
    const attacks = [24_000, 50_000, 51_000 + 6000, 110_000]
    const sound = Float32Array.from({ length: 144_000 }, (_, i) => {
      let value = 0.003 * noise()
      for (const at of attacks) if (i >= at) value += 0.4 * Math.exp(-(i - at) / 2400) * noise()
      return value
    })
    const detector = new OnsetDetector()
    for (let at = 0; at < sound.length; at += 5000) detector.push(sound.subarray(at, at + 5000))
    const found = detector.finish()
    expect(found).toHaveLength(attacks.length)
    found.forEach((at, index) => expect(Math.abs(at.at - (attacks[index] as number))).toBeLessThan(480))
    const swell = new OnsetDetector()
    swell.push(Float32Array.from({ length: 192_000 }, (_, i) => (i / 192_000) * 0.3 * noise()))
    expect(swell.finish().filter(({ at }) => at > 24_000)).toEqual([])
  })
})

describe('movement', () => {
  it('tells a cut from strong steady movement and from flashes', () => {
    const meter = new MovementMeter()
    const { width, height } = MOVEMENT_SIZE
    for (let frame = 0; frame < 60; frame++) {
      // A stripe that sweeps across; at frame 30 everything turns light; flashes of one and two frames.
      meter.push(
        Uint8Array.from(
          { length: width * height },
          (_, at) =>
            (frame < 30 ? 40 : 160) +
            ([15, 45, 46].includes(frame) ? 60 : 0) +
            (Math.abs((at % width) - ((frame * 3) % width)) < 8 ? 60 : 0),
        ),
      )
    }
    const { movement, cuts } = meter.finish()
    expect(cuts).toEqual([30])
    expect(movement[0]).toBe(0)
    // The level alone changes by 120 of 255, give or take the stripe's edges.
    expect(movement[30]).toBeGreaterThan(0.45)
    expect(movement[10]).toBeLessThan(0.1)
  })
})

describe('the 2-pop', () => {
  const rate = FRAME_RATES['24']
  const tone = (frame: number, count: number, hz = 1000, rest = 0): Float32Array => {
    const from = frameToSample(frames(frame), rate)
    const to = frameToSample(frames(frame + count), rate)
    return Float32Array.from({ length: 480_000 }, (_, i) =>
      i >= from && i < to ? 0.1 * Math.sin((2 * Math.PI * hz * i) / 48_000) : rest * noise(),
    )
  }
  it('is found on its frame', () => {
    expect(findTwoPop(tone(144, 1), rate)).toEqual({ frame: 144, frames: 1 })
    expect(findTwoPop(tone(100, 2, 1000, 0.0005), rate)).toEqual({ frame: 100, frames: 2 })
  })
  it('is not a long tone, another pitch or noise', () => {
    expect(findTwoPop(tone(100, 24), rate)).toBeNull()
    expect(findTwoPop(tone(100, 1, 440), rate)).toBeNull()
    expect(findTwoPop(tone(100, 1, 1000, 0.2), rate)).toBeNull()
  })
})

describe('watched stretches', () => {
  it('join where they touch, and leave the gaps between', () => {
    const spans = [
      { from: 50, to: 60 },
      { from: 0, to: 10 },
      { from: 10, to: 20 },
      { from: 55, to: 58 },
      { from: 70, to: 70 },
    ]
    expect(mergeSpans(spans)).toEqual([
      { from: 0, to: 20 },
      { from: 50, to: 60 },
    ])
    expect(gapsBetween(spans, 5, 100)).toEqual([
      { from: 20, to: 50 },
      { from: 60, to: 100 },
    ])
    expect(gapsBetween([], 5, 5)).toEqual([])
  })
})

describe('marks', () => {
  it('are gone to in order and snapped to within reach', () => {
    expect([
      nextMark([10, 20, 30], 20, 1),
      nextMark([10, 20, 30], 20, -1),
      nextMark([10], 10, 1),
      nextMark([], 0, -1),
    ]).toEqual([30, 10, null, null])
    expect([
      nearestMark([10, 20], 15, 5),
      nearestMark([10, 20], 16, 5),
      nearestMark([10, 20], 40, 5),
    ]).toEqual([10, 20, null])
  })
})

import { describe, expect, it } from 'vitest'
import { testClip } from '../test/records.js'
import { Mixer } from './mixer.js'
import { sourceSpan } from './played.js'
import { voiceOf } from './plan.js'
import { planOfVoices } from './renderPlan.js'
import { AIR_AT_8K, airFactor, passingAt, SPEED_OF_SOUND, warped, warpOf, type Warp } from './warp.js'

const RATE = 48_000
const C = SPEED_OF_SOUND
const LENGTH = 4 * RATE
const tone = (hertz: number, length = LENGTH): Float32Array =>
  Float32Array.from({ length }, (_, i) => 0.8 * Math.sin((2 * Math.PI * hertz * i) / RATE))
const clipOf = (fields: Parameters<typeof testClip>[2]) =>
  testClip('c', 't', { length: LENGTH, recorded: LENGTH, sync: LENGTH / 2, ...fields })

/** What the mixer plays of a clip from a source, in blocks of some length. */
function played(fields: Parameters<typeof testClip>[2], source: Float32Array, block = 4096) {
  const voice = voiceOf(clipOf(fields))
  const mixer = new Mixer(planOfVoices([voice]), (_, at) =>
    at < source.length ? { from: 0, channels: [source] } : null,
  )
  const [left, right] = [new Float32Array(LENGTH), new Float32Array(LENGTH)]
  for (let at = 0; at < LENGTH; at += block) mixer.render(left, right, at, Math.min(block, LENGTH - at))
  return { left, right, misses: mixer.misses }
}

/** 20 moments around the passing, in seconds. */
const MOMENTS = Array.from({ length: 20 }, (_, index) => (index - 9.5) / 5.5)

describe.each([
  [30, 4],
  [-12, 1.5],
  [90, 60],
])('a source that goes past at %f m/s, %f m away', (speed, distance) => {
  it('left where what arrives now came from: the way of the sound is its time, to a nanometre', () => {
    for (const t of MOMENTS) {
      const { left, away, aside } = passingAt(speed, distance, t)
      // From its definition: what left at τ comes |x(τ)| / c later, counted from what left in passing.
      expect(Math.abs(C * (t + distance / C - left) - away)).toBeLessThan(1e-9)
      expect(away).toBeCloseTo(Math.sqrt(distance ** 2 + (speed * left) ** 2), 9)
      expect(aside).toBeCloseTo(speed * left, 9)
    }
    expect(passingAt(speed, distance, 0)).toEqual({
      ...{ left: expect.closeTo(0, 9), away: expect.closeTo(distance, 9), aside: expect.closeTo(0, 9) },
    })
  })
  it('has the pitch of a moving source: c / (c + the speed with which it goes away)', () => {
    const warp = warpOf(clipOf({ passSpeed: speed, passDistance: distance })) as Warp
    for (const t of MOMENTS) {
      const x = LENGTH / 2 + t * RATE
      const ratio = (warped(warp, x + 0.5) - warped(warp, x - 0.5)) / 1
      const { away, aside } = passingAt(speed, distance, t)
      expect(ratio).toBeCloseTo(C / (C + (speed * aside) / away), 5)
    }
    expect(warped(warp, LENGTH / 2)).toBeCloseTo(LENGTH / 2, 6)
  })
  it('is heard so: pitch, level 1/r, place', () => {
    const { left, right } = played({ passSpeed: speed, passDistance: distance }, tone(200))
    for (const t of MOMENTS.filter((one) => Math.abs(one) < 1.4)) {
      const at = Math.round(LENGTH / 2 + t * RATE)
      const { away, aside } = passingAt(speed, distance, t)
      const window = 1200
      const power = (side: Float32Array): number =>
        Math.sqrt(side.slice(at - window, at + window).reduce((sum, one) => sum + one * one, 0) / window)
      const level = Math.hypot(power(left), power(right))
      // Within 0.5 dB: the level changes within the window, and 200 Hz loses a little to the air's low-pass.
      expect(20 * Math.log10(level / ((0.8 * distance) / away))).toBeCloseTo(0, 0)
      const side = aside / away
      expect(Math.atan2(power(right), power(left)) / (Math.PI / 4) - 1).toBeCloseTo(side, 1)
    }
    // Zero crossings of half a second before and after: the pitch of their middles.
    for (const t of [-1, 1]) {
      const [from, to] = [LENGTH / 2 + (t - 0.1) * RATE, LENGTH / 2 + (t + 0.1) * RATE].map(Math.round) as [
        number,
        number,
      ]
      let crossed = 0
      const louder = (speed > 0 ? t > 0 : t < 0) ? right : left
      for (let i = from; i < to; i++) if ((louder[i - 1] ?? 0) < 0 && (louder[i] ?? 0) >= 0) crossed++
      const { away, aside } = passingAt(speed, distance, t)
      expect(crossed / 0.2 / ((200 * C) / (C + (speed * aside) / away))).toBeCloseTo(1, 1)
    }
  })
})

describe('air', () => {
  /** ISO 9613-1, equations 3 to 5: decibels a metre at 20 °C, 50 % and 101.325 kPa. From memory. */
  const alpha = (hertz: number): number => {
    const T = 293.15
    const psat = 10 ** (-6.8346 * (273.16 / T) ** 1.261 + 4.6151)
    const h = 50 * psat
    const frO = 24 + (4.04e4 * h * (0.02 + h)) / (0.391 + h)
    const frN = 9 + 280 * h
    const o = (0.01275 * Math.exp(-2239.1 / T)) / (frO + hertz ** 2 / frO)
    const n = (0.1068 * Math.exp(-3352 / T)) / (frN + hertz ** 2 / frN)
    return 8.686 * hertz ** 2 * (1.84e-11 + o + n)
  }
  it('takes from 8 kHz what the standard says', () => {
    expect(alpha(8000)).toBeCloseTo(AIR_AT_8K, 2)
    for (const metres of [1, 10, 50, 120, 400]) {
      const a = airFactor(metres)
      const b = 1 - a
      const db = 10 * Math.log10((a * a) / (1 - 2 * b * Math.cos((2 * Math.PI * 8000) / RATE) + b * b))
      expect(db).toBeCloseTo(-AIR_AT_8K * metres, 6)
    }
    expect(airFactor(0.001)).toBe(1)
  })
})

describe('a run', () => {
  const warp = (fields: Parameters<typeof testClip>[2]): Warp => warpOf(clipOf(fields)) as Warp
  /** The integral of the speed from the sync point on, by the trapezoid rule over single samples. */
  function integrated(up: number, down: number, sync: number, x: number): number {
    const speedAt = (at: number): number =>
      at < 0 || at > LENGTH ? 1 : Math.min(up ? at / up : 1, down ? (LENGTH - at) / down : 1, 1)
    const [from, to] = [Math.min(sync, x), Math.max(sync, x)]
    let sum = 0
    for (let at = from; at < to; at++) sum += (speedAt(at) + speedAt(at + 1)) / 2
    return sync + (x < sync ? -sum : sum)
  }
  it.each([
    [0, 96_000, 40_000],
    [48_000, 0, 100_000],
    [30_000, 60_000, 50_000],
    [96_000, 96_000, 20_000],
    [0, 96_000, 150_000],
  ])(
    'up over %i and down over %i is the integral of its speed, its sync point (%i) where it was',
    (up, down, sync) => {
      const one = warp({ runUp: up, runDown: down, sync })
      expect(warped(one, sync)).toBe(sync)
      let before = -Infinity
      for (let x = 0; x <= LENGTH; x += 4800) {
        const place = warped(one, x)
        expect(Math.abs(place - integrated(up, down, sync, x))).toBeLessThan(0.01)
        expect(place).toBeGreaterThanOrEqual(before)
        expect(place).toBeGreaterThanOrEqual(-1e-6)
        expect(place).toBeLessThanOrEqual(LENGTH)
        before = place
      }
    },
  )
  it('is heard so, to the sample, and comes to rest', () => {
    const sync = 60_000
    const source = tone(500)
    const { left, misses } = played({ runDown: 96_000, sync }, source)
    const one = warp({ runDown: 96_000, sync })
    for (let x = 200; x < LENGTH - 2000; x += 331)
      // Mono in the middle lies 3 dB lower on either side.
      expect((left[x] ?? 0) * Math.SQRT2).toBeCloseTo(
        0.8 * Math.sin((2 * Math.PI * 500 * warped(one, x)) / RATE),
        3,
      )
    expect(Math.abs((left[LENGTH - 1] ?? 0) - (left[LENGTH - 40] ?? 0))).toBeLessThan(1e-3)
    expect(misses).toBe(0)
  })
  it('sounds the same however it is cut into blocks, also while it goes past', () => {
    const fields = { runUp: 24_000, runDown: 48_000, passSpeed: 25, passDistance: 6 }
    const [a, b] = [played(fields, tone(700)), played(fields, tone(700), 333)]
    expect(Buffer.from(a.left.buffer).equals(Buffer.from(b.left.buffer))).toBe(true)
    expect(Buffer.from(a.right.buffer).equals(Buffer.from(b.right.buffer))).toBe(true)
  })
  it('asks for all that it reads, backwards and faster as well', () => {
    for (const fields of [
      { passSpeed: 100, passDistance: 2 },
      { runDown: 90_000, reverse: true },
      { passSpeed: -60, passDistance: 20, reverse: true, runUp: 9000 },
    ]) {
      const voice = voiceOf(clipOf(fields))
      const w = voice.played?.warp as Warp
      for (let x = 0; x + 128 < LENGTH; x += 9999) {
        const [low, high] = sourceSpan(voice, x, x + 128)
        for (const at of [x, x + 64, x + 127]) {
          const place = fields.reverse ? LENGTH - 1 - warped(w, at) : warped(w, at)
          expect(low).toBeLessThanOrEqual(place - 12)
          expect(high).toBeGreaterThan(place + 12)
        }
      }
    }
  })
})

import { describe, expect, it } from 'vitest'
import { Mixer } from '../../audio/mixer.js'
import { planOfVoices, type RenderPlan } from '../../audio/renderPlan.js'
import { PLACES, type Insert, type PlaceId, type Settings } from '../../reel/inserts.js'
import type { SoundPort } from '../../signal/soundPort.js'
import { fallOf, octaveOf } from '../../test/decays.js'
import { responseDb } from '../biquad.js'
import { eyringDecay, sabineDecay } from '../decay.js'
import { PRESETS } from '../presets.js'
import { ROOM_BANDS, ROOM_SPECS, roomResponse } from '../rooms.js'
import { airAbsorption, airSections } from './air.js'
import { bend, bendSlope } from './saturation.js'

const RATE = 48_000
const place = (id: PlaceId, fields: Partial<Settings<'place'>> = {}): Insert => ({
  ...{ kind: 'insert', id: 'p', on: 't', order: 'a0', bypass: false, effect: 'place' },
  ...PRESETS.place[PLACES.indexOf(id)]!.settings,
  ...fields,
})
const noise = (length: number, seed = 1): Float32Array => {
  let state = seed
  return Float32Array.from(
    { length },
    () => ((state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648 - 0.5) * 0.4,
  )
}
const sine = (length: number, hz: number, level: number): Float32Array =>
  Float32Array.from({ length }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / RATE))
const portOf =
  (...channels: Float32Array[]): SoundPort =>
  (_, at) =>
    at < channels[0]!.length ? { from: 0, channels: channels as [Float32Array] } : null
const planOf = (inserts: Insert[], length: number): RenderPlan =>
  planOfVoices(
    [
      {
        ...{ mediaId: 'm', start: 0, end: length, offset: 0, gain: 1, fadeIn: 0, fadeOut: 0 },
        ...{ fadeInShape: 'linear', fadeOutShape: 'linear' },
      },
    ],
    { inserts, pan: -1 },
  )
function render(inserts: Insert[], port: SoundPort, from: number, length: number, piece = 1024) {
  const mixer = new Mixer(planOf(inserts, from), port)
  const out = [new Float32Array(length), new Float32Array(length)] as const
  for (let at = 0; at < length; at += piece) mixer.render(...out, at, Math.min(piece, length - at))
  return out
}
/** Level of a tone in a sound, by correlation over whole periods. */
function levelOf(x: Float32Array, hz: number): number {
  let [re, im] = [0, 0]
  const length = Math.floor((x.length * hz) / RATE) * (RATE / hz)
  for (let i = 0; i < length; i++) {
    re += x[i]! * Math.cos((2 * Math.PI * hz * i) / RATE)
    im += x[i]! * Math.sin((2 * Math.PI * hz * i) / RATE)
  }
  return (2 * Math.hypot(re, im)) / length
}
const db = (gain: number): number => 20 * Math.log10(gain)

describe('air', () => {
  // ISO 9613-2, table 2, which is computed by ISO 9613-1: dB a kilometre for octaves (from memory).
  const OCTAVES = [63, 125, 250, 500, 1000, 2000, 4000, 8000]
  it.each<[number, number, number[]]>([
    [10, 70, [0.1, 0.4, 1.0, 1.9, 3.7, 9.7, 32.8, 117]],
    [20, 70, [0.1, 0.3, 1.1, 2.8, 5.0, 9.0, 22.9, 76.6]],
    [30, 70, [0.1, 0.3, 1.0, 3.1, 7.4, 12.7, 23.1, 59.3]],
    [15, 20, [0.3, 0.6, 1.2, 2.7, 8.2, 28.2, 88.8, 202]],
    [15, 50, [0.1, 0.5, 1.2, 2.2, 4.2, 10.8, 36.2, 129]],
    [15, 80, [0.1, 0.3, 1.1, 2.4, 4.1, 8.3, 23.7, 82.8]],
  ])('at %d °C and %d %% takes what the table of ISO 9613 says', (celsius, humidity, table) => {
    for (const [index, wanted] of table.entries()) {
      // The standard's exact midbands: 1000 times 10 to the 3/10 of an octave.
      const exact = 1000 * 10 ** (0.3 * (index - OCTAVES.indexOf(1000)))
      const km = 1000 * airAbsorption(exact, { celsius, humidity, pressure: 101.325 })
      expect(Math.abs(km - wanted), `${OCTAVES[index]} Hz: ${km}`).toBeLessThan(
        Math.max(0.06, wanted * 0.006),
      )
    }
  })
  it.each([20, 100, 300, 800])(
    '%d m of it are drawn within 2 dB down to -25 dB, and further down as far as little is heard',
    (metres) => {
      const sections = airSections(metres)
      for (const hz of [250, 500, 1000, 2000, 3000, 4000, 6000, 8000]) {
        const wanted = -metres * airAbsorption(hz)
        if (wanted > -25) expect(Math.abs(responseDb(sections, hz) - wanted), `${hz} Hz`).toBeLessThan(2)
        else expect(responseDb(sections, hz), `${hz} Hz`).toBeLessThan(-23)
      }
      expect(airSections(0)).toEqual([])
    },
  )
})

describe('the telephone', () => {
  // ITU-T G.712 (11/2001), 4-wire: loss against frequency relative to 1020 Hz, and beyond the band (from memory).
  it.each([
    [300, -0.3, 1.7],
    [400, -0.3, 0.75],
    [600, -0.3, 0.5],
    [2400, -0.3, 0.75],
    [3000, -0.3, 1],
    [3400, -0.3, 1.8],
  ])('at %d Hz loses between %d and %d dB', (hz, least, most) => {
    const loss = through(1020) - through(hz)
    expect(loss).toBeGreaterThan(least)
    expect(loss).toBeLessThan(most)
  })
  it('lets nothing through that lies beyond 4.6 kHz, nor the hum of the mains', () => {
    for (const hz of [50, 4600, 6000, 10_000])
      expect(through(1020) - through(hz), `${hz} Hz`).toBeGreaterThan(24)
  })
  const through = (hz: number): number => {
    const length = 24_000
    const soft = place('telephone', { broken: 0 })
    const [left] = render([soft], portOf(sine(length, hz, 0.01)), length, length)
    return db(levelOf(left.subarray(12_000), hz) / 0.01)
  }
})

describe('saturation', () => {
  it('makes the harmonics that its series says (x - 8/27 x³: a third of 2/27 A² beside the tone)', () => {
    for (const level of [0.05, 0.1, 0.2]) {
      const x = sine(RATE, 100, level).map(bend)
      expect(levelOf(x, 300) / levelOf(x, 100)).toBeCloseTo((2 / 27) * level ** 2, 4)
      expect(levelOf(x, 200)).toBeLessThan(1e-7)
    }
  })
  it('is lopsided with a bias: then a second harmonic of half the bend of the curve times A', () => {
    const [bias, level] = [0.3, 0.05]
    const x = sine(RATE, 100, level).map((value) => bend(value + bias))
    const curved = (bend(bias + 1e-3) - 2 * bend(bias) + bend(bias - 1e-3)) / 1e-6
    expect(levelOf(x, 200) / levelOf(x, 100)).toBeCloseTo(Math.abs((curved * level) / 4 / bendSlope(bias)), 4)
  })
  it('runs smoothly into its ends', () => {
    for (const at of [-2.9999, 2.9999]) expect(bend(at)).toBeCloseTo(Math.sign(at), 6)
    expect([bend(5), bend(-5), bend(0)]).toEqual([1, -1, 0])
    expect(bendSlope(0.5)).toBeCloseTo((bend(0.5001) - bend(0.4999)) / 0.0002, 5)
  })
})

describe('made rooms', () => {
  it('agree by Sabine and by Eyring where little is swallowed; a wall that swallows all leaves nothing', () => {
    expect(eyringDecay([6, 11, 3], 0.05) / sabineDecay([6, 11, 3], 0.05)).toBeCloseTo(1, 1)
    expect(eyringDecay([6, 11, 3], 1 - 1e-12)).toBeLessThan(0.05)
    // A cube of 10 m whose walls swallow a tenth: 0.161 * 1000 / 60 by hand.
    expect(sabineDecay([10, 10, 10], 0.1)).toBeCloseTo(2.683, 3)
  })
  // Octaves for which ISO 3382 lets a decay be measured: their width times the decay is above 16.
  it.each([
    ['tank', [2, 3, 4, 5]],
    ['helmet', [4, 5, 6]],
  ] as const)('the %s dies away as Eyring says within 10 %%', (room, bands) => {
    const { size, decay } = ROOM_SPECS[room]
    for (const band of bands) {
      const measured = roomResponse(room).map((side) => fallOf(octaveOf(side, ROOM_BANDS[band]!)))
      const mean = (measured[0]! + measured[1]!) / 2
      expect(Math.abs(mean / decay[band]! - 1), `${ROOM_BANDS[band]} Hz: ${mean}`).toBeLessThan(0.1)
      expect(size.every((metres) => metres > 0)).toBe(true)
    }
  })
})

describe.each(PLACES)('%s', (id) => {
  const length = 30_000
  const source = noise(length)
  source.fill(0, 9000, 20_000)
  const ports = [portOf(source), portOf(source, noise(length, 5))]
  it('at no amount is the untouched sound, to the bit', () => {
    for (const port of ports) {
      const [as, is] = [
        render([], port, length, 40_000),
        render([place(id, { amount: 0 })], port, length, 40_000),
      ]
      expect(is).toEqual(as)
    }
  })
  it('sounds the same whatever the size of the pieces it is rendered in, and otherwise than before', () => {
    for (const port of ports) {
      const [whole] = render([place(id)], port, length, 90_000, 1024)
      for (const piece of [128, 777]) {
        const [out] = render([place(id)], port, length, 90_000, piece)
        expect(Math.max(...out.map((value, i) => Math.abs(value - whole[i]!)))).toBeLessThan(1e-6)
      }
      const [plain] = render([], port, length, length)
      expect(Math.max(...plain.map((value, i) => Math.abs(value - whole[i]!)))).toBeGreaterThan(0.01)
      expect(Math.max(...whole.map(Math.abs))).toBeLessThan(2)
    }
  })
  it('is silent once its room and its noise have died away', () => {
    const [left] = render([place(id)], ports[0]!, length, 6 * RATE)
    expect(Math.max(...left.subarray(5.5 * RATE).map(Math.abs))).toBeLessThan(1e-5)
  })
})

import { describe, expect, it } from 'vitest'
import { KernelSamples } from '../../kernels/kernels.js'
import type { Room } from '../../reel/inserts.js'
import { fallOf, octaveOf } from '../../test/decays.js'
import { Bus } from '../bus.js'
import { ROOM_BANDS, ROOM_SPECS, reflectionsOf } from '../rooms.js'
import { PlaceRoom } from './PlaceRoom.js'
import { Waver } from './Waver.js'

const RATE = 48_000

/** What a room makes of a mono sound, left and right, without the sound itself. */
function heardIn(room: Room, size: number, source: Float32Array, length: number, piece = 1000) {
  const place = new PlaceRoom(room, size)
  const bus = new Bus()
  const out = [new Float32Array(length), new Float32Array(length)] as const
  for (let at = 0; at < length; at += piece) {
    const count = Math.min(piece, length - at)
    bus.clear()
    bus.wakeMono(count)
    for (let i = 0; i < count; i++) bus.mono[i] = source[at + i] ?? 0
    place.process(bus, count, 0, 1)
    out[0].set(bus.left.subarray(0, count), at)
    out[1].set(bus.right.subarray(0, count), at)
  }
  return out
}
const CLICK = Float32Array.of(1)
const powerOf = (x: Float32Array): number => x.reduce((sum, value) => sum + value * value, 0)
const fallIn = (room: Room, size: number, band: number): number => {
  const sides = heardIn(room, size, CLICK, 6 * RATE).map((side) => fallOf(octaveOf(side, ROOM_BANDS[band]!)))
  return (sides[0]! + sides[1]!) / 2
}

describe('the room of a place', () => {
  // Tank and helmet by Eyring (decay.ts); the others by their specs. Octaves as ISO 3382 lets them be measured.
  it.each<[Room, number[]]>([
    ['tank', [1, 2, 3, 4, 5]],
    ['helmet', [4, 5]],
    ['hall', [1, 2, 3, 4, 5]],
    ['corridor', [1, 2, 3, 4, 5]],
    ['parlour', [2, 3, 4, 5]],
  ])('of the %s dies away within 10 %% of what its walls say', (room, bands) => {
    for (const band of bands) {
      const part = fallIn(room, 1, band) / ROOM_SPECS[room].decay[band]!
      expect(Math.abs(part - 1), `${ROOM_BANDS[band]} Hz: ${part}`).toBeLessThan(0.1)
    }
  })
  it('sounds as much longer as it is larger: its walls swallow what they did (Sabine: volume over surface)', () => {
    for (const size of [0.5, 2])
      expect(fallIn('tank', size, 3) / fallIn('tank', 1, 3) / size).toBeCloseTo(1, 1)
  })
  it.each(['hall', 'parlour', 'corridor', 'tank', 'valley', 'cabin', 'helmet'] as const)(
    'of the %s gives each ear half the power that comes in, as the folded rooms do, and not the same to both',
    (room) => {
      // Of the power of a click, a quarter lies in the band of the room.
      const [left, right] = heardIn(room, 1, CLICK, 5 * RATE)
      for (const side of [left, right])
        expect(Math.abs(10 * Math.log10((4 * powerOf(side)) / 0.5)), `${powerOf(side)}`).toBeLessThan(1.6)
      const both = left.reduce((sum, value, at) => sum + value * right[at]!, 0)
      expect(both / Math.sqrt(powerOf(left) * powerOf(right))).toBeLessThan(0.6)
    },
  )
  it('answers when the sound has gone over its first wall and back', () => {
    for (const room of ['hall', 'valley'] as const)
      for (const [side, heard] of heardIn(room, 1, CLICK, RATE).entries()) {
        const first = Math.min(...reflectionsOf(ROOM_SPECS[room], side as 0 | 1).map(({ late }) => late))
        const before = heard.subarray(0, Math.round(first * RATE) - 120)
        const around = heard.subarray(Math.round(first * RATE) - 6, Math.round(first * RATE) + 7)
        expect(Math.max(...around.map(Math.abs))).toBeGreaterThan(20 * Math.max(...before.map(Math.abs)))
      }
  })
  it('has nothing above its band, and does not fold it down', () => {
    for (const [hz, most] of [
      [8500, 0.01],
      [11_000, 0.01],
      [15_000, 0.01],
    ] as const) {
      const tone = Float32Array.from({ length: RATE }, (_, at) => Math.sin((2 * Math.PI * hz * at) / RATE))
      const [left] = heardIn('parlour', 1, tone, RATE)
      // Without the edge at which the tone begins.
      expect(Math.max(...left.subarray(0.7 * RATE).map(Math.abs)), `${hz} Hz`).toBeLessThan(most)
    }
  })
  it('does not hang on how a sound is cut into pieces', () => {
    const source = Float32Array.from({ length: 5000 }, (_, at) => Math.sin(at * at))
    const [whole] = heardIn('corridor', 1, source, 12_000, 1024)
    for (const piece of [1, 3, 128, 777])
      expect(heardIn('corridor', 1, source, 12_000, piece)[0]).toEqual(whole)
  })
})

describe('a pitch that wavers', () => {
  it('is off by what it is told at most, as often as it is told (a tone of 3150 Hz, which IEC 60386 takes)', () => {
    const [hz, part, length] = [100 / 180, 0.0025, 4 * RATE]
    const waver = new Waver()
    const out = new Float32Array(length)
    const block = new KernelSamples(1000)
    for (let at = 0; at < length; at += 1000) {
      for (let i = 0; i < 1000; i++) block.samples[i] = Math.sin((2 * Math.PI * 3150 * (at + i)) / RATE)
      waver.run(block.at, 1000, at, { hz, part })
      out.set(block.samples, at)
    }
    // The frequency between crossings of zero, ten waves apart.
    const crossings: number[] = []
    for (let at = 2000; at < length; at++)
      if (out[at - 1]! < 0 && out[at]! >= 0) crossings.push(at - out[at]! / (out[at]! - out[at - 1]!))
    const off = crossings.slice(10).map((at, index) => (10 * RATE) / (at - crossings[index]!) / 3150 - 1)
    expect(Math.abs(Math.max(...off) - part)).toBeLessThan(part / 25)
    expect(Math.abs(Math.min(...off) + part)).toBeLessThan(part / 25)
    const highest = crossings[off.indexOf(Math.max(...off.slice(0, off.length / 2)))]!
    const next = crossings[off.lastIndexOf(Math.max(...off.slice(off.length / 2)))]!
    expect(
      Math.abs(((next - highest) * hz) / RATE - Math.round(((next - highest) * hz) / RATE)),
    ).toBeLessThan(0.1)
  })
})

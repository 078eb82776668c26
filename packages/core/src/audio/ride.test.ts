import { describe, expect, it } from 'vitest'
import {
  clearRide,
  copyRide,
  drawRide,
  editRidePoint,
  followSource,
  layRide,
  liftRide,
  thinStroke,
  withHeldRide,
  type RideMoment,
} from '../edits/rides.js'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import { rideOf, type ReelDocument } from '../reel/document.js'
import { testReel } from '../test/testReel.js'
import { addTrack } from '../edits/placeSound.js'
import { gainFromDb } from '../signal/levels.js'
import { Mixer } from './mixer.js'
import { ridesOf } from './plan.js'
import { planOfVoices, type PlanStrip } from './renderPlan.js'
import { rideValue } from './ride.js'
import type { SoundPort } from '../signal/soundPort.js'

const LENGTH = 9000
const ones = new Float32Array(LENGTH).fill(1)
const mono: SoundPort = (_, at) => (at >= LENGTH ? null : { from: 0, channels: [ones] })
const stereo: SoundPort = (_, at) =>
  at >= LENGTH ? null : { from: 0, channels: [ones, ones.map(() => 0.5)] }

function render(strip: Partial<PlanStrip>, port: SoundPort, piece: number): [Float32Array, Float32Array] {
  const plain = {
    mediaId: 'm',
    start: 100,
    end: 100 + LENGTH,
    offset: 0,
    gain: 1,
    fadeIn: 300,
    fadeOut: 0,
    fadeInShape: 'linear',
    fadeOutShape: 'linear',
  } as const
  const mixer = new Mixer(planOfVoices([plain], strip), port)
  const sides: [Float32Array, Float32Array] = [new Float32Array(LENGTH + 200), new Float32Array(LENGTH + 200)]
  for (let at = 0; at < LENGTH + 200; at += piece)
    mixer.render(...sides, at, Math.min(piece, LENGTH + 200 - at))
  return sides
}

const STRAIGHT = ['straight', 'straight'] as const

describe('a ride', () => {
  // Gains run straight over 64 samples: at the points themselves a corner is cut by as much.
  const ride = { at: [1000, 5000], values: [0, -12], bends: STRAIGHT }
  it('runs straight between its points, in decibels, and stays where it ends', () => {
    expect([0, 1000, 3000, 5000, 99_999].map((at) => rideValue(ride, at))).toEqual([0, 0, -6, -12, -12])
    const [left] = render({ levelRide: ride }, stereo, 700)
    for (const at of [450, 900, 1100, 2000, 3333, 4900, 8000])
      expect(left[at]! / gainFromDb(rideValue(ride, at))).toBeCloseTo(1, 3)
  })
  it('bends as its points say: half of the way in the middle of an S and slow at its ends, nothing until it jumps where it holds', () => {
    const bent = (bend: 's' | 'hold', at: number): number =>
      rideValue({ ...ride, bends: [bend, 'straight'] }, at)
    // (1 - cos(pi/4)) / 2 of -12 dB after a quarter of the time.
    expect([1000, 2000, 3000, 5000].map((at) => bent('s', at))).toEqual([
      0,
      expect.closeTo(-1.7574, 4),
      expect.closeTo(-6, 9),
      -12,
    ])
    expect([1000, 4999, 5000].map((at) => bent('hold', at))).toEqual([0, 0, -12])
  })
  it('moves the place by the law that a still one has, mono and stereo (W3C StereoPannerNode)', () => {
    const pan = { at: [1000, 5000], values: [-1, 1], bends: STRAIGHT }
    const still = (port: SoundPort, at: number) =>
      render({ pan: rideValue(pan, at) }, port, 512).map((side) => side[at]!)
    for (const port of [mono, stereo]) {
      const moving = render({ panRide: pan }, port, 512)
      for (const at of [500, 1500, 2500, 3500, 4900, 7000]) {
        const [left, right] = still(port, at)
        expect([moving[0][at], moving[1][at]]).toEqual([expect.closeTo(left!, 3), expect.closeTo(right!, 3)])
      }
    }
  })
  it('sounds the same whatever the size of the pieces it is rendered in', () => {
    const strip = {
      levelRide: ride,
      panRide: { at: [0, 9000], values: [-0.8, 0.6], bends: ['s', 's'] as const },
    }
    expect(render(strip, stereo, 128)).toEqual(render(strip, stereo, 1000))
  })
})

describe('drawing a ride', () => {
  const track = expectOk(apply(testReel(), expectOk(addTrack(testReel(), { id: 't', category: 'FX' }))))
  let made = 0
  const newId = (): string => `p${made++}`
  const draw = (doc: ReelDocument, moments: RideMoment[]): ReelDocument =>
    expectOk(apply(doc, expectOk(drawRide(doc, { trackId: 't', what: 'level', moments, newId }))))
  const values = (doc: ReelDocument): RideMoment[] =>
    rideOf(doc, 't', 'level').map((point) => [point.at, point.value])

  it('keeps of a stroke what half a decibel can’t do without', () => {
    const stroke = Array.from({ length: 500 }, (_, i): RideMoment => [
      i * 100,
      i < 250 ? -i / 10 + 0.2 * Math.sin(i) : -25,
    ])
    const thin = thinStroke(stroke, 0.5)
    expect(thin.length).toBeLessThan(12)
    const ride = {
      at: thin.map(([at]) => at),
      values: thin.map(([, value]) => value),
      bends: thin.map(() => 'straight' as const),
    }
    for (const [at, value] of stroke) expect(Math.abs(rideValue(ride, at) - value)).toBeLessThanOrEqual(0.5)
  })
  it('replaces what stood under the stroke and leaves what stands beside it', () => {
    const first = draw(track, [
      [0, 0],
      [1000, -3],
      [2000, 5],
      [3000, 0],
    ])
    const second = draw(first, [
      [900, -10],
      [2500, -30],
    ])
    expect(values(second)).toEqual([
      [0, 0],
      [900, -10],
      [2500, -30],
      [3000, 0],
    ])
    expect(values(draw(track, [[5, 99]]))).toEqual([[5, 24]])
  })
  it('is copied with its bends to another place and track, raised within its range, and taken away', () => {
    let doc = draw(track, [
      [100, -6],
      [900, 0],
      [2000, 20],
    ])
    const middle = rideOf(doc, 't', 'level')[1]!
    doc = expectOk(apply(doc, expectOk(editRidePoint(doc, { id: middle.id, bend: 's' }))))
    doc = expectOk(apply(doc, expectOk(addTrack(doc, { id: 'u', category: 'BG' }))))
    const copied = copyRide(doc, 't', 'level')!
    doc = expectOk(apply(doc, expectOk(layRide(doc, { trackId: 'u', copied, at: 5000, newId }))))
    doc = expectOk(apply(doc, expectOk(liftRide(doc, { trackId: 'u', what: 'level', by: 6 }))))
    expect(rideOf(doc, 'u', 'level').map(({ at, value, bend }) => [at, value, bend])).toEqual([
      [5000, 0, 'straight'],
      [5800, 6, 's'],
      [6900, 24, 'straight'],
    ])
    doc = expectOk(apply(doc, expectOk(clearRide(doc, { trackId: 't', what: 'level' }))))
    expect([copyRide(doc, 't', 'level'), rideOf(doc, 'u', 'level').length]).toEqual([null, 3])
  })
  it('is held by a hand: the track stands at one value meanwhile, on top of its own level', () => {
    const doc = draw(track, [[100, -6]])
    const level = withHeldRide(doc, { trackId: 't', what: 'level', value: -9 })
    expect([level.track.get('t')?.level, rideOf(level, 't', 'level')]).toEqual([-9, []])
    const pan = withHeldRide(doc, { trackId: 't', what: 'pan', value: 2 })
    expect([pan.track.get('t')?.pan, rideOf(pan, 't', 'level').length]).toEqual([1, 1])
  })
  it('moves a point no farther than its neighbours', () => {
    const doc = draw(track, [
      [0, 0],
      [1000, -20],
      [2000, 0],
    ])
    const [, point] = rideOf(doc, 't', 'level')
    const moved = expectOk(apply(doc, expectOk(editRidePoint(doc, { id: point!.id, at: 9000, value: -4 }))))
    expect(values(moved)).toEqual([
      [0, 0],
      [1999, -4],
      [2000, 0],
    ])
  })
  it('follows a source from the left edge of the picture to the right one', () => {
    const seen: RideMoment[] = [
      [0, 0.5],
      [96_000, 1],
    ]
    const doc = expectOk(apply(track, expectOk(followSource(track, { trackId: 't', seen, newId }))))
    expect(rideValue(ridesOf(doc, 't').panRide!, 48_000)).toBe(0.5)
    expect(followSource(track, { trackId: 't', seen: [[0, 0]], newId })).toMatchObject({
      code: 'CORE_NOTHING_DONE',
    })
  })
})

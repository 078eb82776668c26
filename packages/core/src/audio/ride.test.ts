import { describe, expect, it } from 'vitest'
import { drawRide, followSource, moveRidePoint, thinStroke, type RideMoment } from '../edits/rides.js'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import { rideOf, type ReelDocument } from '../reel/document.js'
import { testReel } from '../test/testReel.js'
import { addTrack } from '../edits/placeSound.js'
import { gainFromDb } from './levels.js'
import { Mixer } from './mixer.js'
import { planOfVoices, ridesOf, type PlanStrip } from './plan.js'
import { rideValue } from './ride.js'
import type { SoundPort } from './soundPort.js'

const LENGTH = 9000
const ones = new Float32Array(LENGTH).fill(1)
const mono: SoundPort = (_, at) => (at >= LENGTH ? null : { from: 0, channels: [ones] })
const stereo: SoundPort = (_, at) => (at >= LENGTH ? null : { from: 0, channels: [ones, ones.map(() => 0.5)] })

function render(strip: Partial<PlanStrip>, port: SoundPort, piece: number): [Float32Array, Float32Array] {
  const plain = { mediaId: 'm', start: 100, end: 100 + LENGTH, offset: 0, gain: 1, fadeIn: 300, fadeOut: 0, fadeInShape: 'linear', fadeOutShape: 'linear' } as const
  const mixer = new Mixer(planOfVoices([plain], strip), port)
  const sides: [Float32Array, Float32Array] = [new Float32Array(LENGTH + 200), new Float32Array(LENGTH + 200)]
  for (let at = 0; at < LENGTH + 200; at += piece) mixer.render(...sides, at, Math.min(piece, LENGTH + 200 - at))
  return sides
}

describe('a ride', () => {
  // Gains run straight over 64 samples: at the points themselves a corner is cut by as much.
  const ride = { at: [1000, 5000], values: [0, -12] }
  it('runs straight between its points, in decibels, and stays where it ends', () => {
    expect([0, 1000, 3000, 5000, 99_999].map((at) => rideValue(ride, at))).toEqual([0, 0, -6, -12, -12])
    const [left] = render({ levelRide: ride }, stereo, 700)
    for (const at of [450, 900, 1100, 2000, 3333, 4900, 8000]) expect(left[at]! / gainFromDb(rideValue(ride, at))).toBeCloseTo(1, 3)
  })
  it('moves the place by the law that a still one has, mono and stereo (W3C StereoPannerNode)', () => {
    const pan = { at: [1000, 5000], values: [-1, 1] }
    const still = (port: SoundPort, at: number) => render({ pan: rideValue(pan, at) }, port, 512).map((side) => side[at]!)
    for (const port of [mono, stereo]) {
      const moving = render({ panRide: pan }, port, 512)
      for (const at of [500, 1500, 2500, 3500, 4900, 7000]) {
        const [left, right] = still(port, at)
        expect([moving[0][at], moving[1][at]]).toEqual([expect.closeTo(left!, 3), expect.closeTo(right!, 3)])
      }
    }
  })
  it('sounds the same whatever the size of the pieces it is rendered in', () => {
    const strip = { levelRide: ride, panRide: { at: [0, 9000], values: [-0.8, 0.6] } }
    expect(render(strip, stereo, 128)).toEqual(render(strip, stereo, 1000))
  })
})

describe('drawing a ride', () => {
  const track = expectOk(apply(testReel(), expectOk(addTrack(testReel(), { id: 't', category: 'FX' }))))
  let made = 0
  const newId = (): string => `p${made++}`
  const draw = (doc: ReelDocument, moments: RideMoment[]): ReelDocument => expectOk(apply(doc, expectOk(drawRide(doc, { trackId: 't', what: 'level', moments, newId }))))
  const values = (doc: ReelDocument): RideMoment[] => rideOf(doc, 't', 'level').map((point) => [point.at, point.value])

  it('keeps of a stroke what half a decibel can’t do without', () => {
    const stroke = Array.from({ length: 500 }, (_, i): RideMoment => [i * 100, i < 250 ? -i / 10 + 0.2 * Math.sin(i) : -25])
    const thin = thinStroke(stroke, 0.5)
    expect(thin.length).toBeLessThan(12)
    const ride = { at: thin.map(([at]) => at), values: thin.map(([, value]) => value) }
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
  it('moves a point no farther than its neighbours', () => {
    const doc = draw(track, [
      [0, 0],
      [1000, -20],
      [2000, 0],
    ])
    const [, point] = rideOf(doc, 't', 'level')
    const moved = expectOk(apply(doc, expectOk(moveRidePoint(doc, { id: point!.id, at: 9000, value: -4 }))))
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
    expect(followSource(track, { trackId: 't', seen: [[0, 0]], newId })).toMatchObject({ code: 'CORE_BAD_SPAN' })
  })
})

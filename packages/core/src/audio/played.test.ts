import { describe, expect, it } from 'vitest'
import { fileSpan, prepareSound, UNPREPARED } from '../sounds/prepared.js'
import { Mixer } from './mixer.js'
import type { SoundPort } from '../signal/soundPort.js'
import { EMPTY_PLAN, planOfVoices, type PlanVoice } from './renderPlan.js'
import type { Played } from './renderPlan.js'

const LENGTH = 4800
const tone = (frequency: number, length = LENGTH): Float32Array =>
  Float32Array.from({ length }, (_, i) => Math.sin((2 * Math.PI * frequency * i) / 48_000))
const port =
  (...channels: [Float32Array] | [Float32Array, Float32Array]): SoundPort =>
  (_, at) => {
    // In blocks of 333, so that every voice runs over many of them.
    const from = Math.floor(at / 333) * 333
    return at >= channels[0].length
      ? null
      : { from, channels: channels.map((channel) => channel.subarray(from, from + 333)) as [Float32Array] }
  }

const plain = {
  mediaId: 'm',
  start: 0,
  end: 1000,
  offset: 0,
  gain: 1,
  fadeIn: 0,
  fadeOut: 0,
  fadeInShape: 'linear',
  fadeOutShape: 'linear',
} as const

function render(
  played: Partial<Played>,
  source: SoundPort,
  length: number,
  voice: Partial<PlanVoice> = {},
): [Float32Array, Float32Array] {
  const recorded = Math.floor(LENGTH / (played.speed ?? 1))
  const left = new Float32Array(length)
  const right = new Float32Array(length)
  new Mixer(
    planOfVoices([
      {
        ...plain,
        end: length,
        ...voice,
        played: { speed: 1, reverse: false, sides: 'kept', recorded, ...played },
      },
    ]),
    source,
  ).render(left, right, 0, length)
  return [left, right]
}

describe('a recording that is not played straight on', () => {
  const ramp = Float32Array.from({ length: LENGTH }, (_, i) => i / LENGTH)
  it('runs backwards to the sample, also from the middle', () => {
    const [left] = render({ reverse: true }, port(ramp, ramp), 1000, { offset: 500 })
    for (const i of [0, 1, 499, 999]) expect(left[i]).toBeCloseTo((LENGTH - 1 - 500 - i) / LENGTH, 6)
  })
  it('exchanges its sides, or sums them at half each', () => {
    const other = ramp.map((value) => -2 * value)
    expect(render({ sides: 'swapped' }, port(ramp, other), 100)[0][50]).toBeCloseTo(other[50]!, 6)
    const [left, right] = render({ sides: 'summed' }, port(ramp, other), 100)
    expect([left[50], right[50]]).toEqual([
      expect.closeTo(-ramp[50]! / 2, 6),
      expect.closeTo(-ramp[50]! / 2, 6),
    ])
  })
  it.each([[0.5], [0.7], [1.5], [2], [3.3]])(
    'at speed %f gives a tone of that many times the frequency, within -80 dB',
    (speed) => {
      const frequency = 1000
      const count = Math.floor(LENGTH / speed) - 200
      const [left] = render({ speed }, port(tone(frequency)), count)
      // Mono at the middle lies 3 dB lower on either side (W3C panner).
      for (let i = 100; i < count; i += 7)
        expect(left[i]! * Math.SQRT2).toBeCloseTo(
          Math.sin((2 * Math.PI * frequency * speed * i) / 48_000),
          3.9,
        )
    },
  )
  it('folds nothing back: what would lie above half the rate is gone', () => {
    const [left] = render({ speed: 2 }, port(tone(16_000)), 2000)
    expect(Math.max(...left.subarray(100, 1900).map(Math.abs))).toBeLessThan(1e-3)
  })
  it('counts a hole in the middle, though there is sound on both sides of it', () => {
    const whole = port(ramp)
    const holed: SoundPort = (id, at) => (at >= 999 && at < 1332 ? null : whole(id, at))
    const played = { speed: 1.5, reverse: false, sides: 'kept', recorded: 3200 } as const
    const mixer = new Mixer(planOfVoices([{ ...plain, end: 3200, played }]), holed)
    mixer.render(new Float32Array(4096), new Float32Array(4096), 0, 4096)
    expect(mixer.misses).toBe(1)
  })
  it('counts what is missing once a block, and ends in silence', () => {
    const mixer = new Mixer(EMPTY_PLAN, () => null)
    mixer.setPlan(
      planOfVoices([
        { ...plain, end: 2000, played: { speed: 2, reverse: false, sides: 'kept', recorded: 2000 } },
      ]),
    )
    mixer.render(new Float32Array(2048), new Float32Array(2048), 0, 2048)
    expect(mixer.misses).toBe(2)
    expect(Math.abs(render({ speed: 2 }, port(tone(500)), 2400)[0][2399]!)).toBeLessThan(1)
  })
})

describe('a prepared sound', () => {
  const sound = { id: 's', name: 'Step', length: 48_000, sync: 6000 }
  it('is placed as it is when nothing is prepared', () => {
    expect(prepareSound(sound, UNPREPARED)).toMatchObject({
      recorded: 48_000,
      from: 0,
      to: 48_000,
      sync: 6000,
      speed: 1,
    })
  })
  it('counts in samples as played: twice as fast is half as long, backwards is met from the end', () => {
    expect(prepareSound(sound, { ...UNPREPARED, in: 4000, out: 24_000, speed: 2 })).toMatchObject({
      recorded: 24_000,
      from: 2000,
      to: 12_000,
      sync: 3000,
    })
    const backwards = prepareSound(sound, { ...UNPREPARED, in: 4000, out: 24_000, speed: 2, reverse: true })
    expect(backwards).toMatchObject({ recorded: 24_000, from: 12_000, to: 22_000, sync: 21_000 })
    expect(fileSpan({ offset: 12_000, length: 10_000, recorded: 24_000, speed: 2, reverse: true })).toEqual([
      4000, 24_000,
    ])
  })
  it('has its sync point in the part that is heard', () => {
    expect(prepareSound(sound, { ...UNPREPARED, in: 20_000 }).sync).toBe(20_000)
    expect(prepareSound(sound, { ...UNPREPARED, in: 20_000, sync: 30_000 }).sync).toBe(30_000)
  })
})

import { describe, expect, it } from 'vitest'
import { dbFromGain, fadeGain, gainFromDb, panGains } from '../signal/levels.js'
import { Mixer } from './mixer.js'
import type { SoundPort } from '../signal/soundPort.js'
import { planOfVoices, type PlanVoice } from './renderPlan.js'
import { Varispeed } from './varispeed.js'

const voice = (fields: Partial<PlanVoice>): PlanVoice => ({
  mediaId: 'm',
  start: 0,
  end: 1000,
  offset: 0,
  gain: 1,
  fadeIn: 0,
  fadeOut: 0,
  fadeInShape: 'linear',
  fadeOutShape: 'linear',
  ...fields,
})

/** A recording whose sample n is n + 1, served in blocks of an odd length. */
const ramp: SoundPort = (_, at) => {
  const from = Math.floor(at / 77) * 77
  return { from, channels: [Float32Array.from({ length: 77 }, (_, i) => from + i + 1)] }
}

function renderAll(mixer: Mixer, length: number, piece: number): Float32Array {
  const left = new Float32Array(length)
  const right = new Float32Array(length)
  for (let at = 0; at < length; at += piece) mixer.render(left, right, at, Math.min(piece, length - at))
  return left
}

describe('levels', () => {
  it('converts decibels: -12 dB is 0.2512, -3 dB is 0.7079 (20 log10)', () => {
    expect(gainFromDb(-12)).toBeCloseTo(0.2512, 4)
    expect(gainFromDb(-3)).toBeCloseTo(0.7079, 4)
    expect(gainFromDb(-96)).toBe(0)
  })
  it('meets at -3.01 dB in an equal-power crossfade, at -6.02 dB in an equal-gain one', () => {
    expect(dbFromGain(fadeGain('power', 0.5))).toBeCloseTo(-3.01, 2)
    expect(dbFromGain(fadeGain('linear', 0.5))).toBeCloseTo(-6.02, 2)
    for (const t of [0, 0.2, 0.7, 1]) {
      expect(fadeGain('power', t) ** 2 + fadeGain('power', 1 - t) ** 2).toBeCloseTo(1, 12)
      expect(fadeGain('s', t) + fadeGain('s', 1 - t)).toBeCloseTo(1, 12)
    }
  })
  it('pans after the W3C StereoPannerNode algorithm', () => {
    expect(panGains(0, 1).ll).toBeCloseTo(Math.SQRT1_2, 12)
    expect(panGains(-1, 1)).toMatchObject({ ll: 1, lr: expect.closeTo(0, 12) as number })
    expect(panGains(0, 2)).toMatchObject({
      ll: 1,
      rr: 1,
      lr: expect.closeTo(0, 12) as number,
      rl: expect.closeTo(0, 12) as number,
    })
    // At the far right the left input is moved over whole: 1 and 1 on the right.
    expect(panGains(1, 2)).toMatchObject({
      ll: expect.closeTo(0, 12) as number,
      lr: expect.closeTo(1, 12) as number,
      rr: 1,
    })
  })
})

describe('mixer', () => {
  it('starts and ends a voice at its samples, whatever the size of the pieces', () => {
    const plan = planOfVoices([voice({ start: 100, end: 1500, offset: 30 })], { pan: -1 })
    const whole = renderAll(new Mixer(plan, ramp), 2000, 2000)
    expect(whole[99]).toBe(0)
    expect(whole[100]).toBeCloseTo(31, 3)
    expect(whole[1499]).toBeCloseTo(1430, 2)
    expect(whole[1500]).toBe(0)
    for (const piece of [1, 37, 128, 1024])
      expect(renderAll(new Mixer(plan, ramp), 2000, piece)).toEqual(whole)
  })
  it('sounds the same from the middle as from the beginning', () => {
    const plan = planOfVoices([
      voice({ end: 900, fadeIn: 500, fadeInShape: 's' }),
      voice({ start: 300, end: 1200, fadeOut: 700, fadeOutShape: 'power' }),
    ])
    const whole = renderAll(new Mixer(plan, ramp), 1300, 128)
    const late = new Mixer(plan, ramp)
    late.seek(640)
    expect(renderAll(late, 660, 128)).toEqual(whole.subarray(640))
  })
  it('goes on without a gap when the plan changes', () => {
    const voices = [voice({ end: 2000 })]
    const plan = planOfVoices(voices, { pan: -1 })
    const mixer = new Mixer(plan, ramp)
    const first = renderAll(mixer, 512, 128)
    mixer.setPlan(planOfVoices([...voices, voice({ start: 1500, end: 1600 })], { pan: -1 }))
    const second = renderAll(mixer, 512, 128)
    expect([...first, ...second]).toEqual([...renderAll(new Mixer(plan, ramp), 1024, 128)])
  })
  it('fades by i/n from silence and back to it', () => {
    const one: SoundPort = (_, at) => ({ from: at, channels: [new Float32Array(4096).fill(1)] })
    const out = renderAll(
      new Mixer(planOfVoices([voice({ end: 100, fadeIn: 10, fadeOut: 20 })], { pan: -1 }), one),
      100,
      100,
    )
    expect(out[0]).toBe(0)
    expect(out[5]).toBeCloseTo(0.5, 6)
    expect(out[10]).toBe(1)
    expect(out[90]).toBeCloseTo(0.5, 6)
    expect(out[99]).toBeCloseTo(0.05, 6)
  })
  it('leaves silence and counts where a sound is not there', () => {
    const mixer = new Mixer(planOfVoices([voice({ end: 1024 })]), () => null)
    expect(renderAll(mixer, 1024, 256).every((value) => value === 0)).toBe(true)
    expect(mixer.misses).toBe(4)
  })
})

describe('varispeed', () => {
  it('passes through at speed 1 and meets the source’s samples at half speed', () => {
    let at = 0
    const source = (left: Float32Array, right: Float32Array, into: number, length: number): void => {
      for (let i = 0; i < length; i++, at++) left[into + i] = right[into + i] = Math.sin(at * 0.05)
    }
    const speed = new Varispeed(source)
    const left = new Float32Array(1000)
    const right = new Float32Array(1000)
    speed.render(left, right, 1000, 0.5)
    // The first two lean on the silence before the start.
    for (let i = 2; i < 1000; i++) expect(left[i]).toBeCloseTo(Math.sin(i * 0.025), 3)
    at = 0
    speed.reset()
    speed.render(left, right, 1000, 1)
    expect(left[999]).toBeCloseTo(Math.sin(999 * 0.05), 6)
  })
})

import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { Mixer } from '../audio/mixer.js'
import { planOfVoices, type PlanStrip, type RenderPlan } from '../audio/renderPlan.js'
import { KernelSamples } from '../kernels/kernels.js'
import type { SoundPort } from '../signal/soundPort.js'
import type { Effect, Insert, Settings } from '../reel/inserts.js'
import { responseDb, runSection, sectionOf } from './biquad.js'
import { Bus } from './bus.js'
import { reductionDb } from './Compressor.js'
import { Convolver, CONVOLVER_LATENCY, foldResponse } from './convolver.js'
import { sectionsOf } from './Equaliser.js'
import { LOOK_AHEAD } from './Limiter.js'
import { PRESETS } from './presets.js'
import { ROOM_BANDS, ROOM_SPECS, roomResponse } from './rooms.js'

const RATE = 48_000

function insert<E extends Effect>(
  effect: E,
  settings: Partial<Settings<E>> = {},
  id = `i-${effect}`,
): Insert {
  return {
    kind: 'insert',
    id,
    on: 't',
    order: 'a0',
    bypass: false,
    effect,
    ...PRESETS[effect][0]!.settings,
    ...settings,
  } as Insert
}

const noise = (length: number, seed = 1): Float32Array => {
  let state = seed
  return Float32Array.from(
    { length },
    () => ((state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648) * 2 - 1,
  )
}
const sine = (length: number, hz: number, level = 1): Float32Array =>
  Float32Array.from({ length }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / RATE))
const portOf =
  (...channels: Float32Array[]): SoundPort =>
  (_, at) =>
    at < channels[0]!.length ? { from: 0, channels: channels as [Float32Array] } : null
const voice = {
  mediaId: 'm',
  start: 0,
  end: 48_000,
  offset: 0,
  gain: 1,
  fadeIn: 0,
  fadeOut: 0,
  fadeInShape: 'linear',
  fadeOutShape: 'linear',
} as const
const treated = (inserts: Insert[], length: number, strip: Partial<PlanStrip> = {}): RenderPlan =>
  planOfVoices([{ ...voice, end: length }], { inserts, pan: -1, ...strip })

function render(
  plan: RenderPlan,
  port: SoundPort,
  length: number,
  piece = 1024,
): [Float32Array, Float32Array] {
  const mixer = new Mixer(plan, port)
  const out: [Float32Array, Float32Array] = [new Float32Array(length), new Float32Array(length)]
  for (let at = 0; at < length; at += piece) mixer.render(...out, at, Math.min(piece, length - at))
  return out
}
const rms = (x: Float32Array): number =>
  Math.sqrt(x.reduce((sum, value) => sum + value * value, 0) / x.length)
const db = (gain: number): number => 20 * Math.log10(gain)

describe('an equaliser', () => {
  it('does to a tone what its sections’ formula says', () => {
    const settings = {
      ...PRESETS.equaliser[0]!.settings,
      highPass: 80,
      lowDb: 5,
      firstDb: -6,
      firstQ: 2,
      secondDb: 4,
      highDb: -3,
      lowPass: 12_000,
    }
    for (const hz of [60, 400, 2500, 9000]) {
      const out = render(
        treated([insert('equaliser', settings)], RATE),
        portOf(sine(RATE, hz)),
        RATE,
      )[0].subarray(RATE / 2)
      expect(db(rms(out) * Math.SQRT2)).toBeCloseTo(responseDb(sectionsOf(settings), hz), 2)
    }
  })
  it('has 3 dB less at the corner of a pass, its gain at the middle of a bell, and half of it at the corner of a shelf (Audio EQ Cookbook)', () => {
    expect(responseDb([sectionOf('highPass', 200)], 200)).toBeCloseTo(-3.01, 2)
    expect(responseDb([sectionOf('lowPass', 5000)], 5000)).toBeCloseTo(-3.01, 2)
    expect(responseDb([sectionOf('bell', 1000, 9, 3)], 1000)).toBeCloseTo(9, 6)
    expect(responseDb([sectionOf('lowShelf', 300, -8)], 300)).toBeCloseTo(-4, 6)
    expect(responseDb([sectionOf('highShelf', 4000, 10)], 23_900)).toBeCloseTo(10, 1)
  })
})

describe('a compressor', () => {
  const settings = { threshold: -20, ratio: 4, attack: 10, release: 100, knee: 0, makeUp: 0 }
  it('lets a steady tone rise by a quarter of what it goes over a threshold at 4 : 1 (the definition of a ratio)', () => {
    const out = render(
      treated([insert('compressor', settings)], RATE),
      portOf(sine(RATE, 1000, 10 ** (-8 / 20))),
      RATE,
    )[0].subarray(RATE / 2)
    // 12 dB over: 3 remain. The tone's peak is its level.
    expect(db(rms(out) * Math.SQRT2)).toBeCloseTo(-17, 1)
  })
  it('rounds the knee without a step, and leaves alone what lies below it', () => {
    const soft = { ...settings, knee: 10 }
    expect([-40, -25.01, -25].map((level) => reductionDb(level, soft))).toEqual([0, 0, 0])
    expect(reductionDb(-20, soft)).toBeCloseTo((0.75 * 25) / 20, 9)
    expect(reductionDb(-15, soft)).toBeCloseTo(reductionDb(-15, settings), 9)
  })
  it('has come 63 % of the way after the time of its attack', () => {
    const quiet = sine(RATE, 3000, 0.01).subarray(0, RATE / 2)
    const loud = sine(RATE / 2, 3000, 10 ** (-8 / 20))
    const out = render(
      treated([insert('compressor', { ...settings, attack: 50 })], RATE),
      portOf(Float32Array.of(...quiet, ...loud)),
      RATE,
    )[0]
    const at = RATE / 2 + 0.05 * RATE
    const level = db(Math.max(...out.subarray(at - 96, at + 96).map(Math.abs)))
    expect(-8 - level).toBeCloseTo(9 * (1 - Math.exp(-1)), 0)
  })
})

describe('a limiter', () => {
  it('lets no sample over its ceiling, in the place where it was, and leaves the rest alone', () => {
    const source = noise(RATE).map((value, i) => value * (i % 9000 < 200 ? 3 : 0.3))
    const [out] = render(
      treated([insert('limiter', { ceiling: -6, release: 10 })], RATE),
      portOf(source),
      RATE,
    )
    const ceiling = 10 ** (-6 / 20)
    expect(Math.max(...out.map(Math.abs))).toBeLessThanOrEqual(ceiling + 1e-6)
    // Five milliseconds of looking ahead are made up for: the beginning is where it was, and before a loud place begins nothing is touched.
    expect(out[0]).toBeCloseTo(source[0]! > ceiling ? ceiling : source[0]! * (out[1]! / source[1]!), 2)
    for (const at of [6000, 8000, 8700]) expect(out[at]).toBeCloseTo(source[at]!, 3)
  })
  it('on a stem keeps tracks together to the sample, treated or not', () => {
    const click = new Float32Array(RATE)
    click[3000] = 0.25
    const strip = (key: string, inserts: Insert[]): PlanStrip => ({
      key,
      voices: [{ ...voice }],
      inserts,
      level: 1,
      pan: -1,
      mono: false,
      stem: 'FX',
    })
    const limiter = insert('limiter', { ceiling: 0 })
    const plan: RenderPlan = {
      strips: [strip('a', [limiter]), strip('b', [])],
      stems: { FX: [{ ...limiter, id: 'x' }] },
      whole: [{ ...limiter, id: 'y' }],
      gain: 1,
    }
    const [out] = render(plan, portOf(click), 6000)
    expect([...out.keys()].filter((at) => Math.abs(out[at]!) > 1e-6)).toEqual([3000])
    expect(out[3000]).toBeCloseTo(0.5, 6)
    const late = new Mixer(plan, portOf(click))
    late.seek(2990)
    const part = new Float32Array(20)
    late.render(part, new Float32Array(20), 0, 20)
    expect(part[10]).toBeCloseTo(0.5, 6)
    expect(LOOK_AHEAD).toBeGreaterThan(10)
  })
})

describe('repeats', () => {
  it('come after their time, each softer by the feedback', () => {
    const click = new Float32Array(RATE)
    click[0] = 1
    const [out] = render(
      treated([insert('delay', { time: 100, feedback: 0.5, wet: 0, lowPass: 20_000 })], RATE),
      portOf(click),
      RATE,
    )
    const near = (at: number): number => out.subarray(at, at + 40).reduce((sum, value) => sum + value, 0)
    expect([out[0], near(4800), near(9600), near(14_400)]).toEqual([
      expect.closeTo(1, 6),
      expect.closeTo(1, 2),
      expect.closeTo(0.5, 2),
      expect.closeTo(0.25, 2),
    ])
  })
})

describe('a room', () => {
  it('folds as ffmpeg’s afir does, whatever the length of the answer, and each ear by its own', () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'yodel-fold-'))
    const source = noise(30_000)
    const write = (name: string, x: Float32Array): string => {
      const file = path.join(folder, name)
      writeFileSync(file, new Uint8Array(x.buffer, x.byteOffset, x.byteLength))
      return file
    }
    for (const length of [100, 2048, 9001]) {
      const answer = noise(length, 9).map((value, i) => value * 0.05 * Math.exp((-3 * i) / length))
      const other = noise(length, 5).map((value) => value * 0.05)
      const convolver = new Convolver([foldResponse(answer), foldResponse(other)])
      const [input, left, right] = [source, source, source].map((x) => new KernelSamples(x.length))
      input!.samples.set(source)
      for (let at = 0; at < source.length; at += 777) {
        const [from, ...ears] = [input!, left!, right!].map((x) => x.at + 4 * at)
        convolver.process(from!, ears[0]!, ears[1]!, Math.min(777, source.length - at))
      }
      const ours = left!.samples.subarray(CONVOLVER_LATENCY)
      const raw = ['-f', 'f32le', '-ar', '48000', '-ac', '1', '-i']
      const out = path.join(folder, 'out.f32')
      execFileSync('ffmpeg', [
        '-v',
        'error',
        '-y',
        ...raw,
        write('a', source),
        ...raw,
        write('b', answer),
        '-lavfi',
        'afir=gtype=none:irfmt=input',
        '-f',
        'f32le',
        out,
      ])
      const bytes = readFileSync(out)
      const theirs = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4)
      // What afir makes a loudness of depends on its version: one factor is left to it, and our level is held against the sum that folding is.
      const factor =
        ours.reduce((sum, value, i) => sum + value * (theirs[i] ?? 0), 0) /
        ours.reduce((sum, value, i) => sum + (i < theirs.length ? value * value : 0), 0)
      const worst = Math.max(
        ...Array.from({ length: 29_000 }, (_, i) => Math.abs(ours[i]! - theirs[i]! / factor)),
      )
      expect(db(worst)).toBeLessThan(-110)
      const summed = answer.reduce((sum, value, i) => sum + value * source[12_000 - i]!, 0)
      expect(ours[12_000]).toBeCloseTo(summed, 5)
      const across = other.reduce((sum, value, i) => sum + value * source[12_000 - i]!, 0)
      expect(right!.samples[12_000 + CONVOLVER_LATENCY]).toBeCloseTo(across, 5)
    }
    rmSync(folder, { recursive: true })
  })
  it.each(['parlour', 'hall', 'nave'] as const)(
    '%s dies away in the seconds it is said to (ISO 3382: from -5 to -35 dB of the backward integral)',
    (room) => {
      const [left] = roomResponse(room)
      for (const band of [2, 3, 4]) {
        const octave = Float32Array.from(left)
        const middle = ROOM_BANDS[band]!
        for (const section of [
          sectionOf('highPass', middle * 0.71),
          sectionOf('lowPass', middle * 1.41),
          sectionOf('highPass', middle * 0.71),
          sectionOf('lowPass', middle * 1.41),
        ])
          runSection(section, octave, octave.length, new Float64Array(2), 0)
        const left30 = decayTime(octave)
        expect(left30 / ROOM_SPECS[room].decay[band]!).toBeGreaterThan(0.8)
        expect(left30 / ROOM_SPECS[room].decay[band]!).toBeLessThan(1.25)
      }
    },
  )
  it('answers from both sides differently, and is silent once it has died away', () => {
    const click = new Float32Array(RATE)
    click[0] = 1
    const length = 2 * RATE
    const [left, right] = render(
      treated([insert('reverb', { room: 'parlour', wet: 0, dry: -60, preDelay: 10 })], RATE, { pan: 0 }),
      portOf(click),
      length,
    )
    expect(left[0]).toBe(0)
    expect(Math.max(...left.subarray(0, 480).map(Math.abs))).toBe(0)
    const power = (x: Float32Array): number => x.reduce((sum, value) => sum + value * value, 0)
    expect([power(left), power(right)]).toEqual([expect.closeTo(0.5, 1), expect.closeTo(0.5, 1)])
    expect(left.some((value, i) => Math.abs(value - right[i]!) > 0.01)).toBe(true)
    expect(Math.max(...left.subarray(1.5 * RATE).map(Math.abs))).toBe(0)
  })
})

describe('a chain of treatment', () => {
  const everything = [
    insert('equaliser', { lowDb: 4, lowPass: 6000 }),
    insert('compressor'),
    insert('delay'),
    insert('reverb', { room: 'cabin' }),
    insert('limiter'),
  ]
  const source = noise(40_000)
  source.fill(0, 9000, 30_000)
  const port = portOf(
    source,
    source.map((value) => value * 0.5),
  )
  it('sounds the same whatever the size of the pieces it is rendered in', () => {
    const plan = treated(everything, 40_000, { pan: 0.3 })
    const [whole] = render(plan, port, 60_000, 1024)
    for (const piece of [128, 777]) {
      const [out] = render(plan, port, 60_000, piece)
      expect(Math.max(...out.map((value, i) => Math.abs(value - whole[i]!)))).toBeLessThan(1e-6)
    }
    expect(rms(whole)).toBeGreaterThan(0.01)
  })
  it('goes on sounding when another piece is set', () => {
    const mixer = new Mixer(treated([insert('reverb', { room: 'hall', wet: 0 })], 4800), port)
    const [left, right] = [new Float32Array(9600), new Float32Array(9600)]
    mixer.render(left, right, 0, 9600)
    mixer.setPlan(
      treated([insert('reverb', { room: 'hall', wet: 0 }), insert('equaliser', { highDb: 3 })], 4800),
    )
    mixer.render(left, right, 0, 9600)
    expect(rms(left)).toBeGreaterThan(1e-3)
  })
  it('keeps mono and stereo sound apart, so that each is panned by its own law', () => {
    const bus = new Bus()
    bus.wakeMono(4)
    expect([bus.hasMono, bus.hasStereo, bus.mono[3]]).toEqual([true, false, 0])
    const flat = [insert('compressor', { threshold: 0, ratio: 1 })]
    for (const channels of [[source], [source, source]]) {
      const [a, b] = [flat, []].map(
        (inserts) => render(treated(inserts, 8000, { pan: 0.6 }), portOf(...channels), 8000)[1],
      )
      expect(Math.max(...a!.map((value, i) => Math.abs(value - b![i]!)))).toBeLessThan(1e-6)
    }
  })
  it('on a mono track hears both sides at half each, placed as mono sound is', () => {
    const [as, one] = [
      render(
        treated([], 8000, { mono: true, pan: 0.6 }),
        portOf(
          source,
          source.map(() => 0),
        ),
        8000,
      ),
      render(treated([], 8000, { pan: 0.6 }), portOf(source), 8000),
    ]
    for (const side of [0, 1] as const)
      for (const at of [100, 3333, 7000]) expect(as[side][at]).toBeCloseTo(one[side][at]! / 2, 6)
  })
})

/** Seconds for 60 dB by the slope between -5 and -35 dB of the backward integral. */
function decayTime(x: Float32Array): number {
  let sum = 0
  const energy = Float64Array.from(x)
  for (let i = x.length - 1; i >= 0; i--) energy[i] = sum += x[i]! ** 2
  const at = (level: number): number =>
    energy.findIndex((value) => 10 * Math.log10(value / energy[0]!) <= level)
  return (2 * (at(-35) - at(-5))) / RATE
}

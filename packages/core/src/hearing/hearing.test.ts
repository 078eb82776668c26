import { describe, expect, it } from 'vitest'
import { findEvents } from './events.js'
import { Listener, type Heard } from './Listener.js'
import { LoudnessMeter, type Loudness } from './loudness.js'
import { kaiserSinc } from '../audio/kaiser.js'
import { TruePeakMeter } from './truePeak.js'
import { OutlineCollector } from './outline.js'
import { spectrumColumns } from './spectrogram.js'

const RATE = 48_000
const db = (level: number): number => 10 ** (level / 20)

/** A stereo sine of 1 kHz at given levels, one after the other; EBU Tech 3341 gives both channels the level. */
function stereoTone(...parts: readonly [level: number, time: number][]): Float32Array {
  const out = new Float32Array(2 * RATE * parts.reduce((sum, [, time]) => sum + time, 0))
  let at = 0
  for (const [level, time] of parts)
    for (let i = 0; i < time * RATE; i++, at++)
      out[2 * at] = out[2 * at + 1] = db(level) * Math.sin((2 * Math.PI * 1000 * at) / RATE)
  return out
}

function loudnessOf(sound: Float32Array, channels: 1 | 2, piece = 4099): number {
  const meter = new LoudnessMeter(channels)
  for (let at = 0; at < sound.length; at += piece * channels)
    meter.push(sound.subarray(at, at + piece * channels))
  return meter.finish()
}

function hear(sound: Float32Array, channels: 1 | 2 = 1): Heard {
  const listener = new Listener(channels)
  for (let at = 0; at < sound.length; at += 10_000 * channels)
    listener.push(sound.subarray(at, at + 10_000 * channels))
  return listener.finish()
}

const tone = (frequency: number, time: number, level = 0.5): Float32Array =>
  Float32Array.from({ length: time * RATE }, (_, i) => level * Math.sin((2 * Math.PI * frequency * i) / RATE))
const noise = (time: number, level = 0.3): Float32Array => {
  let state = 1
  return Float32Array.from(
    { length: time * RATE },
    () => level * (((state = (state * 16_807) % 2_147_483_647) / 2_147_483_647) * 2 - 1),
  )
}
/** Blows at given seconds, each a decaying tone. */
function blows(time: number, at: readonly number[], decay = 0.05, bed = 0.0005): Float32Array {
  const out = noise(time, bed)
  for (const second of at)
    for (let i = 0; i < 8 * decay * RATE && Math.round(second * RATE) + i < out.length; i++)
      out[Math.round(second * RATE) + i]! += 0.7 * Math.exp(-i / (decay * RATE)) * Math.sin(i * 0.2)
  return out
}

describe('loudness', () => {
  // ITU-R BS.1770-4: a 997 Hz sine at 0 dBFS in one channel reads -3.01 LKFS.
  it('of a full-scale 997 Hz sine in one channel is -3.01 LUFS', () => {
    expect(loudnessOf(tone(997, 5, 1), 1)).toBeCloseTo(-3.01, 1)
  })
  // EBU Tech 3341, table 1, cases 1 to 5; each must be within 0.1 LU.
  it.each([
    [1, -23, [[-23, 20]]],
    [2, -33, [[-33, 20]]],
    [
      3,
      -23,
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
    ],
    [
      4,
      -23,
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
    ],
    [
      5,
      -23,
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
    ],
  ] as const)('passes case %i of EBU Tech 3341: %f LUFS', (_, expected, parts) => {
    expect(
      Math.abs(loudnessOf(stereoTone(...(parts as unknown as [number, number][])), 2) - expected),
    ).toBeLessThan(0.1)
  })
  it('does not depend on the pieces, and is -70 for silence', () => {
    const sound = stereoTone([-20, 3])
    expect(loudnessOf(sound, 2, 17)).toBeCloseTo(loudnessOf(sound, 2, 100_000), 9)
    expect(loudnessOf(new Float32Array(RATE), 1)).toBe(-70)
    expect(loudnessOf(new Float32Array(0), 1)).toBe(-70)
  })
})

describe('the measures of a programme', () => {
  const measuresOf = (sound: Float32Array): Loudness => {
    const meter = new LoudnessMeter(2)
    meter.push(sound)
    return meter.measures()
  }
  // EBU Tech 3342, table 1: stereo 1 kHz of 20 s at each level; each range must be within 1 LU.
  it.each([
    [10, [-20, -30]],
    [5, [-20, -15]],
    [20, [-40, -20]],
    [15, [-50, -35, -20, -35, -50]],
  ] as const)('have a range of %i LU (EBU Tech 3342)', (expected, levels) => {
    const { range } = measuresOf(stereoTone(...levels.map((level) => [level, 20] as [number, number])))
    expect(Math.abs(range - expected)).toBeLessThan(1)
  })

  // EBU Tech 3341, case 9: 1.34 s at -20 and 1.66 s at -30, five times: short-term -23.0; case 12: 0.18 s and 0.22 s: momentary -23.0.
  it.each([
    ['shortTerm', [-20, 1.34], [-30, 1.66], 5],
    ['momentary', [-20, 0.18], [-30, 0.22], 25],
  ] as const)('have the highest %s loudness of its case of EBU Tech 3341', (which, loud, soft, times) => {
    const parts = Array.from({ length: times }, () => [[...loud], [...soft]] as [number, number][]).flat()
    expect(Math.abs(measuresOf(stereoTone(...parts))[which] + 23)).toBeLessThan(0.1)
  })

  it('are the same where silence is not fed sample by sample', () => {
    const [before, after] = [stereoTone([-20, 2.03]), stereoTone([-26, 1])]
    const gap = Math.round(9.37 * RATE)
    const [short, long] = [new LoudnessMeter(2), new LoudnessMeter(2)]
    for (const [meter, silence] of [
      [short, () => short.pushSilence(gap)],
      [long, () => long.push(new Float32Array(2 * gap))],
    ] as const) {
      meter.push(before)
      silence()
      meter.push(after)
    }
    for (const [name, value] of Object.entries(long.measures()))
      expect(short.measures()[name as keyof Loudness]).toBeCloseTo(value, 6)
  })
})

describe('true peak', () => {
  it('over a limit is told place by place', () => {
    const meter = new TruePeakMeter(1, 0.5)
    const sound = new Float32Array(3 * RATE)
    for (const at of [10_000, 12_000, 100_000]) sound[at] = 0.6
    for (let from = 0; from < sound.length; from += 4099) meter.push(sound.subarray(from, from + 4099))
    meter.pushSilence(RATE)
    meter.push(Float32Array.from({ length: 100 }, (_, i) => (i === 50 ? 0.9 : 0)))
    meter.finish()
    expect(meter.overs.map(({ from, peak }) => [from, Math.round(peak * 100) / 100])).toEqual([
      // Between the sample before and the high one it is over already.
      [9999, 0.6],
      [99_999, 0.6],
      [4 * RATE + 49, 0.9],
    ])
    expect(meter.overs[0]?.to).toBe(12_001)
  })

  it.each([
    ['noise', noise(1)],
    ['a tone', tone(997, 1)],
    ['a swell of noise', noise(1).map((value, i) => value * Math.sin((Math.PI * i) / RATE))],
    ['single clicks', noise(1).map((value, i) => (i % 997 === 0 ? value : 0))],
  ])('of %s is the highest of all places between samples, though most are passed over', (_, sound) => {
    const REACH = 12
    const at = (frame: number): number => sound[frame] ?? 0
    let highest = 0
    for (const shift of [0.25, 0.5, 0.75]) {
      const row = Array.from({ length: 2 * REACH }, (_, tap) => kaiserSinc(tap - (REACH - 1) - shift, REACH))
      const sum = row.reduce((total, value) => total + value, 0)
      for (let i = -REACH; i < sound.length + REACH; i++) {
        const value = row.reduce((total, part, tap) => total + part * at(i - REACH + 1 + tap), 0) / sum
        highest = Math.max(highest, Math.abs(value), Math.abs(at(i)))
      }
    }
    const meter = new TruePeakMeter(1)
    for (let from = 0; from < sound.length; from += 4099) meter.push(sound.subarray(from, from + 4099))
    const measured = meter.finish()
    expect(measured.truePeak).toBeCloseTo(highest, 9)
    expect(measured.samplePeak).toBe(sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0))
  })

  // EBU Tech 3341, case 16: a quarter-rate sine of which the samples miss the peaks by 45 degrees lies 3.01 dB above them.
  it('is found between samples', () => {
    const sound = Float32Array.from(
      { length: RATE },
      (_, i) => 0.5 * Math.sin((Math.PI / 2) * i + Math.PI / 4),
    )
    const { peak, truePeak } = hear(sound)
    expect(peak).toBeCloseTo(20 * Math.log10(0.5 * Math.SQRT1_2), 2)
    expect(Math.abs(truePeak - 20 * Math.log10(0.5))).toBeLessThan(0.2)
  })
})

describe('qualities', () => {
  it('tell low from high, tone from noise, sudden from slow', () => {
    const [low, high, hiss] = [hear(tone(80, 2)), hear(tone(4000, 2)), hear(noise(2))]
    expect([low.weight, high.weight]).toEqual([expect.closeTo(100, -1), 0])
    expect([low.brightness, high.brightness]).toEqual([expect.closeTo(80, -1), expect.closeTo(4000, -2)])
    expect(hiss.noisiness).toBeGreaterThan(90)
    expect(high.noisiness).toBeLessThan(5)
    const swell = tone(300, 2).map((value, i) => value * Math.min(1, i / RATE))
    expect(hear(blows(1, [0.3])).bite).toBeGreaterThan(80)
    expect(hear(swell).bite).toBeLessThan(10)
  })
  it.each([[110], [440], [1234]])(
    'find the pitch of a tone of %i Hz, with its overtones, within 1 %%',
    (frequency) => {
      const sound = tone(frequency, 1, 0.3).map(
        (value, i) => value + 0.2 * Math.sin((4 * Math.PI * frequency * i) / RATE),
      )
      expect(Math.abs(hear(sound).pitch / frequency - 1)).toBeLessThan(0.01)
      expect(hear(noise(1)).pitch).toBe(0)
    },
  )
  it('take the first strong attack for the sync point, not the faint catch before it', () => {
    const catchAndClank = blows(1.5, [0.6])
    for (const [index, value] of blows(1.5, [0.2]).entries()) catchAndClank[index]! += 0.2 * value
    expect(hear(catchAndClank).sync / RATE).toBeCloseTo(0.6, 2)
    expect(hear(noise(2)).sync).toBe(0)
  })
  it('put sounds near each other that are alike', () => {
    const away = (a: Heard, b: Heard): number =>
      Math.hypot(...a.likeness.map((value, i) => value - b.likeness[i]!))
    const [step, otherStep, hum] = [
      hear(blows(0.5, [0.1])),
      hear(blows(0.5, [0.12], 0.06)),
      hear(tone(60, 5)),
    ]
    expect(away(step, otherStep) * 4).toBeLessThan(away(step, hum))
    expect(step.likeness).toHaveLength(16)
  })
  it('survive silence and nothing', () => {
    for (const sound of [new Float32Array(0), new Float32Array(1), new Float32Array(RATE)]) {
      const heard = hear(sound)
      expect([heard.length, heard.events, heard.loudness, heard.pitch, heard.sync]).toEqual([
        sound.length,
        [],
        -70,
        0,
        0,
      ])
      expect(heard.likeness.every(Number.isFinite)).toBe(true)
    }
  })
})

describe('events', () => {
  const syncs = (sound: Float32Array, settings?: Parameters<typeof findEvents>[2]): number[] => {
    const outline = new OutlineCollector()
    outline.push(sound, 1)
    return findEvents(outline.finish(), sound.length, settings).map(([, sync]) => sync / RATE)
  }
  const near = (expected: readonly number[]) => expected.map((value) => expect.closeTo(value, 2) as number)
  it('are found to 10 ms, apart from each other, whatever their level', () => {
    const at = [0.4, 1.1, 1.9, 2.55, 3.4]
    expect(syncs(blows(4.2, at))).toEqual(near(at))
    expect(syncs(blows(4.2, at).map((value) => value * 0.01))).toEqual(near(at))
  })
  it('are told apart where one rings into the next', () => {
    const at = [0.3, 1.8, 3.3]
    expect(syncs(blows(5, at, 0.9))).toEqual(near(at))
  })
  it('hold heel and toe together', () => {
    const heels = [0.3, 1.2, 2.1, 3]
    expect(
      syncs(
        blows(
          3.8,
          heels.flatMap((at) => [at, at + 0.12]),
          0.008,
        ),
      ),
    ).toEqual(near(heels))
  })
  it('are one for a bed, none for silence, and never overlap nor leave the recording', () => {
    expect(syncs(noise(5))).toEqual([0])
    expect(syncs(new Float32Array(RATE))).toEqual([])
    const sound = blows(3, [0.01, 0.7, 2.99])
    const events = hear(sound).events
    for (const [index, [start, sync, end]] of events.entries()) {
      expect(start).toBeGreaterThanOrEqual(events[index - 1]?.[2] ?? 0)
      expect([start <= sync, sync < end, end <= sound.length]).toEqual([true, true, true])
    }
  })
  it('can be split more finely or more coarsely by hand', () => {
    const sound = blows(3, [0.3, 0.5, 1.6, 1.8], 0.01)
    expect(syncs(sound, { quiet: 40, rise: 9 })).toHaveLength(4)
    expect(syncs(sound, { quiet: 500, rise: 9 })).toHaveLength(2)
  })
})

describe('a spectrogram', () => {
  it('shows a tone in its band and nowhere else', () => {
    const rows = 60
    const columns = spectrumColumns(tone(1000, 1, 1), 4, rows)
    const column = [...columns.subarray(2 * rows, 3 * rows)]
    // 40 Hz to 20 kHz in 60 bands: 1 kHz lies in band 60 * ln(25) / ln(500) = 31.
    expect(column.indexOf(Math.max(...column))).toBe(31)
    expect(Math.max(...column)).toBeCloseTo(1, 1)
    expect(column[10]).toBeLessThan(0.3)
  })
})

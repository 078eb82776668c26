import { describe, expect, it } from 'vitest'
import { SAMPLE_RATE } from '../time/units.js'
import { InputParts, type InputChannel, type InputLevels, type InputPart } from './InputParts.js'
import { InputResampler } from './InputResampler.js'
import { PartRow } from './PartRow.js'
import { SteadyReading } from './SteadyReading.js'

/** Counts up from a number, so that each sample says which one it is; kept below full scale. */
const counted = (from: number, length: number): Float32Array =>
  Float32Array.from({ length }, (_, i) => (from + i) / 65_536)

describe('what comes in', () => {
  const gather = (channel: InputChannel, hasRight = true): { parts: InputPart[]; levels: InputLevels[] } => {
    const [parts, levels]: [InputPart[], InputLevels[]] = [[], []]
    const input = new InputParts(
      (part) => parts.push(part),
      (told) => levels.push(told),
    )
    const hear = (block: number): void => {
      const left = counted(441 * block, 441)
      const right = left.map((value) => -value)
      input.hear(1000 + 441 * block, left, hasRight ? right : null)
    }
    hear(0)
    input.begin(channel)
    for (let block = 1; block < 8; block++) hear(block)
    input.end()
    hear(8)
    return { parts, levels }
  }

  it('is handed on in twentieths of a second while it is recorded, each with the frame of its first sample', () => {
    const { parts } = gather('left')
    expect(parts.map(({ frame, samples }) => [frame, samples.length])).toEqual([
      [1441, 2400],
      [3841, 7 * 441 - 2400],
    ])
    expect(parts.flatMap(({ samples }) => [...samples])).toEqual([...counted(441, 7 * 441)])
  })

  it('is of the channels that are wanted; of one channel, each is that one', () => {
    expect([...gather('right').parts[0]!.samples.slice(0, 2)]).toEqual([-441 / 65_536, -442 / 65_536])
    const both = gather('both').parts
    expect([...both[0]!.samples.slice(0, 4)].map((value) => 65_536 * value)).toEqual([441, -441, 442, -442])
    expect(both.reduce((sum, { samples }) => sum + samples.length, 0)).toBe(2 * 7 * 441)
    expect([...gather('right', false).parts[0]!.samples.slice(0, 2)]).toEqual([441 / 65_536, 442 / 65_536])
  })

  it('is as loud as its peak since the last word about it, channel by channel', () => {
    const { levels } = gather('both')
    // Told after 2048 samples at the earliest: after the fifth block.
    expect(levels[0]).toEqual({ peaks: [2204 / 65_536, 2204 / 65_536], overs: 0 })
    expect(gather('both', false).levels[0]?.peaks).toHaveLength(1)
  })
})

describe('bringing an input to 48 kHz', () => {
  /** A tone as a device at a rate gives it, and what comes out of it, pushed in blocks of several lengths. */
  const tone = (hz: number, rate: number, seconds: number): { out: Float32Array; blocks: number[] } => {
    const resampler = new InputResampler(rate)
    const input = Float32Array.from({ length: rate * seconds }, (_, i) =>
      Math.sin((2 * Math.PI * hz * i) / rate),
    )
    const [out, blocks]: [number[], number[]] = [[], []]
    for (let at = 0, k = 0; at < input.length; k++) {
      const length = [441, 1024, 1, 37][k % 4]!
      const got = resampler.push(input.slice(at, at + length))
      out.push(...got)
      blocks.push(got.length)
      at += length
    }
    return { out: Float32Array.from(out), blocks }
  }
  const worst = (out: Float32Array, of: (i: number) => number): number =>
    out.slice(200).reduce((most, value, i) => Math.max(most, Math.abs(value - of(i + 200))), 0)

  // The same tone, written down at 48 kHz: its formula is the reference, sample n at n / 48000 s.
  it.each([
    [44_100, 1000],
    [44_100, 18_000],
    [96_000, 15_000],
    [16_000, 6000],
    [88_200, 440],
  ])('from %i Hz keeps a tone of %i Hz in place and level within -70 dB', (rate, hz) => {
    const { out } = tone(hz, rate, 0.5)
    expect(out.length).toBeGreaterThan(0.49 * SAMPLE_RATE)
    expect(worst(out, (i) => Math.sin((2 * Math.PI * hz * i) / SAMPLE_RATE))).toBeLessThan(10 ** (-70 / 20))
  })

  it('stops what 48 kHz can’t carry', () => {
    expect(worst(tone(30_000, 96_000, 0.2).out, () => 0)).toBeLessThan(10 ** (-70 / 20))
  })

  it('gives what is at 48 kHz already as it is, and as many samples as pass in the time', () => {
    const block = counted(0, 480)
    expect(new InputResampler(SAMPLE_RATE).push(block)).toEqual(block)
    const { out } = tone(100, 44_100, 2)
    // What the last 32 samples of the input become is known with the next block only.
    expect(out.length).toBe(Math.ceil(((88_200 - 32) * 160) / 147))
  })
})

describe('a jittering reading', () => {
  it('is about its middle, however far single ones are off', () => {
    const reading = new SteadyReading(160, 30)
    for (let i = 0; i < 400; i++) reading.add(100 + 5 * Math.sin(i) + (i % 11 === 0 ? 900 : 0))
    expect(Math.abs(reading.value - 100)).toBeLessThan(1.5)
  })

  it('follows slowly what drifts, and at once what jumps', () => {
    const reading = new SteadyReading(160, 30)
    for (let i = 0; i < 400; i++) reading.add(i / 100)
    expect(reading.value).toBeCloseTo((400 - 80) / 100, 1)
    for (let i = 0; i < 9; i++) reading.add(104)
    expect(reading.value).toBe(104)
  })
})

describe('parts in a row', () => {
  it('follow each other without a hole, whatever the clock says of each', () => {
    const row = new PartRow()
    expect([row.add(1000, 2400), row.add(3390, 2400), row.add(5812, 100)]).toEqual([1000, 3400, 5800])
    // By what the parts say it lies 0, 10 before, 12 after: the middle counts.
    expect(row.lies()).toEqual({ later: 0, apart: 12 })
  })

  it('lie where the parts of the stretch that counts say, the sound output having stood still before', () => {
    const row = new PartRow()
    for (let part = 0; part < 60; part++) row.add(7 + 2400 * part - (part < 20 ? 0 : 3200), 2400)
    expect(row.lies(48_000, 96_000)).toEqual({ later: -3200, apart: 0 })
    expect(row.lies(24_000, 50_000)).toEqual({ later: 0, apart: 3200 })
    expect(row.lies(1e9, 2e9)).toEqual({ later: -3200, apart: 3200 })
    expect(new PartRow().lies()).toEqual({ later: 0, apart: 0 })
  })
})

import { guessCategory } from './guessCategory.js'
import { describe, expect, it } from 'vitest'
import { PeakCollector, peakWithin } from '../audio/peaks.js'
import { firstOnset } from '../hearing/firstOnset.js'
import { OutlineCollector } from '../hearing/outline.js'
import { matchGain } from './matchGain.js'

/** Quiet noise with decaying blows at given samples. */
function blows(length: number, at: readonly [sample: number, level: number][]): Float32Array {
  const out = Float32Array.from({ length }, (_, i) => 0.002 * Math.sin(i * 12.9898))
  for (const [sample, level] of at)
    for (let i = sample; i < length; i++)
      out[i] = out[i]! + level * Math.exp(-(i - sample) / 3000) * Math.sin((i - sample) * 0.3)
  return out
}

function onsetOf(sound: Float32Array, channels = 1): number {
  const outline = new OutlineCollector()
  for (let at = 0; at < sound.length; at += 1001 * channels)
    outline.push(sound.subarray(at, at + 1001 * channels), channels)
  return firstOnset(outline.finish())
}

describe('first strong onset', () => {
  it.each([[5000], [24_000], [70_000]])('is found at sample %i to 2 ms', (at) => {
    expect(Math.abs(onsetOf(blows(96_000, [[at, 0.8]])) - at)).toBeLessThanOrEqual(96)
  })
  it('passes over a weak sound before the strong one, and stays with the first of equals', () => {
    expect(
      Math.abs(
        onsetOf(
          blows(96_000, [
            [9000, 0.1],
            [40_000, 0.8],
          ]),
        ) - 40_000,
      ),
    ).toBeLessThanOrEqual(96)
    expect(
      Math.abs(
        onsetOf(
          blows(96_000, [
            [9000, 0.6],
            [60_000, 0.8],
          ]),
        ) - 9000,
      ),
    ).toBeLessThanOrEqual(96)
  })
  it('is the beginning for a sound without an attack, and for silence', () => {
    expect(onsetOf(Float32Array.from({ length: 96_000 }, (_, i) => 0.3 * Math.sin(i * 0.05)))).toBe(0)
    expect(onsetOf(new Float32Array(48_000))).toBe(0)
  })
})

describe('peaks', () => {
  it('hold the extremes of every stretch at every resolution, whatever the pieces', () => {
    const sound = blows(100_000, [[50_000, 0.9]])
    const collector = new PeakCollector()
    for (let at = 0; at < sound.length; at += 777) collector.push(sound.subarray(at, at + 777), 1)
    const levels = collector.finish()
    const true_ = Math.max(...sound.map(Math.abs))
    for (const level of levels) {
      expect(level.values.length).toBe(2 * Math.ceil(100_000 / level.step))
      expect(peakWithin(level, 0, 100_000)).toBeCloseTo(true_, 1)
      expect(peakWithin(level, 0, level.step)).toBeLessThan(level.step < 50_000 - 16_384 ? 0.02 : 1)
    }
  })
})

describe('the category of a recording', () => {
  it.each([
    ['Boot on gravel 1', 'Footsteps', '', 'FOL'],
    ['Wind over the cutting', 'Weather', 'ambience', 'BG'],
    ['Thunder near', 'Weather', 'storm', 'FX'],
    ['Block bell, single stroke', 'Bells', 'signal box', 'FX'],
    ['Room tone, waiting room', '', '', 'BG'],
    ['Doorstep drum', '', '', 'FX'],
    ['Thing 7', '', 'whoosh, fast', 'DSG'],
  ] as const)('of "%s" (%s; %s) is %s', (name, category, keywords, expected) => {
    expect(guessCategory({ name, category, keywords })).toBe(expected)
  })
})

describe('matched loudness', () => {
  it('brings every sound to -23 LUFS, but never its true peak above -1 dBTP, and leaves what was not heard', () => {
    expect(matchGain({ measured: true, loudness: -33, truePeak: -20 })).toBe(10)
    expect(matchGain({ measured: true, loudness: -12, truePeak: -0.5 })).toBe(-11)
    expect(matchGain({ measured: true, loudness: -40, truePeak: -6 })).toBe(5)
    expect([
      matchGain({ measured: false, loudness: -33, truePeak: -20 }),
      matchGain({ measured: true, loudness: -70, truePeak: -144 }),
    ]).toEqual([0, 0])
  })
})

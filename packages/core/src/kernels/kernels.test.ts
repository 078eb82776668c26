import { execFileSync } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { runSection, sectionOf, type Section } from '../treatment/biquad.js'
import { bend } from '../treatment/place/saturation.js'
import { SectionRow } from '../treatment/place/SectionRow.js'
import { KERNEL_BYTES } from './kernelBytes.js'
import { Transform } from './Transform.js'
import { kernelFloats, KernelMemory, kernels, KernelSamples } from './kernels.js'

const noise = (length: number): Float32Array => {
  let state = 7
  return Float32Array.from(
    { length },
    () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648 - 0.5,
  )
}
const samplesOf = (values: Float32Array): KernelSamples => {
  const samples = new KernelSamples(values.length)
  samples.samples.set(values)
  return samples
}

describe('the kernels', () => {
  it('are what packages/core/kernels compiles to: `npm run kernels` after a change of them', () => {
    const tool = fileURLToPath(new URL('../../../../tools/kernels.mjs', import.meta.url))
    const compiled = execFileSync(process.execPath, [tool, '--show'], { encoding: 'utf8' })
    expect(compiled).toContain(KERNEL_BYTES.slice(0, 104))
    expect(
      compiled
        .match(/'[0-9a-f]+'/g)
        ?.join('')
        .replaceAll("'", ''),
    ).toBe(KERNEL_BYTES)
  })

  it('keep what lies in their memory when it grows, and give back what nobody holds', () => {
    const kept = samplesOf(Float32Array.of(1, 2, 3))
    const { length } = kernelFloats()
    const large = new KernelMemory(4 * length)
    expect(kernelFloats().length).toBeGreaterThan(length)
    expect([...kept.samples]).toEqual([1, 2, 3])
    kernels().give(large.at)
    expect(kernels().take(4 * length)).toBe(large.at)
  })
})

describe.each([1, 2, 3, 4, 5, 8])('%d sections in a row', (many) => {
  const sections: Section[] = Array.from({ length: many }, (_, at) =>
    at % 2 === 0 ? sectionOf('highPass', 60 * (at + 1)) : sectionOf('bell', 900 * at, 6, 2),
  )
  it.each([1, 2, 3, 4, 7, 128, 500])('filter as one after the other does, %d samples at a time', (piece) => {
    const x = noise(1500)
    const wanted = Float32Array.from(x)
    for (const section of sections) runSection(section, wanted, wanted.length, new Float64Array(2), 0)
    const row = new SectionRow(8)
    row.set(sections)
    const out = samplesOf(x)
    for (let at = 0; at < x.length; at += piece) row.run(out.at + 4 * at, Math.min(piece, x.length - at))
    // One rounding to 32 bit less for each section.
    const off = Math.max(...out.samples.map((value, at) => Math.abs(value - wanted[at]!)))
    expect(off).toBeLessThan(many * 2e-7)
    row.reset()
    const again = samplesOf(x)
    row.run(again.at, x.length)
    expect(Math.max(...again.samples.map((value, at) => Math.abs(value - out.samples[at]!)))).toBe(0)
  })
})

describe('sums', () => {
  const [a, b, c] = [noise(101), noise(103).subarray(2), noise(106).subarray(5)]
  it.each([1, 3, 4, 101])(
    'of %d samples are those of JavaScript to the bit, and nothing behind them changes',
    (count) => {
      const into = samplesOf(a)
      kernels().addSound(into.at, samplesOf(b).at, count, 0.3)
      expect(into.samples).toEqual(a.map((value, at) => (at < count ? value + b[at]! * 0.3 : value)))
    },
  )
  it('of mono and of stereo are those of JavaScript to the bit', () => {
    const [left, right] = [samplesOf(a), samplesOf(b)]
    kernels().addMono(samplesOf(c).at, left.at, right.at, 101, 0.7, 0.1)
    const sums = [a.map((value, at) => value + c[at]! * 0.7), b.map((value, at) => value + c[at]! * 0.1)]
    expect([left.samples, right.samples]).toEqual(sums)
    kernels().addStereo(samplesOf(b).at, samplesOf(c).at, left.at, right.at, 101, 0.9, 0.2, 0.4, 0.8)
    expect(left.samples).toEqual(sums[0]!.map((value, at) => value + b[at]! * 0.9 + c[at]! * 0.4))
    expect(right.samples).toEqual(sums[1]!.map((value, at) => value + b[at]! * 0.2 + c[at]! * 0.8))
  })
})

describe('a device', () => {
  it('bends as its curve says, also far beyond its ends', () => {
    const x = noise(400).map((value) => 20 * value)
    const out = samplesOf(x)
    kernels().saturate(out.at, 400, 1.5, 0.2, bend(0.2), 0.6, 0.3)
    for (const [at, value] of x.entries()) {
      const wanted = value * 0.3 + (bend(value * 1.5 + 0.2) - bend(0.2)) * 0.6
      expect(Math.abs(out.samples[at]! - wanted)).toBeLessThan(1e-6)
    }
  })
  it('hisses evenly, without a pattern, always the same at a moment, and crackles as often as it is told', () => {
    const length = 100_000
    const hiss = (at: number, crackles: number): Float32Array => {
      const out = new KernelSamples(length)
      kernels().hiss(out.at, length, at, 1, crackles)
      return out.samples.slice()
    }
    const white = hiss(5000, 0)
    expect(white.reduce((sum, value) => sum + value, 0) / length).toBeCloseTo(0, 2)
    // An even spread from -1 to 1 has a power of a third.
    expect(white.reduce((sum, value) => sum + value * value, 0) / length).toBeCloseTo(1 / 3, 2)
    for (const away of [1, 2, 7, 256]) {
      const alike = white.reduce((sum, value, at) => sum + value * (white[at + away] ?? 0), 0) / length
      expect(Math.abs(alike), `${away}`).toBeLessThan(0.005)
    }
    expect(hiss(5003, 0).subarray(0, 100)).toEqual(white.subarray(3, 103))
    const crackles = hiss(5000, 2000).filter((value, at) => value !== white[at])
    expect(crackles.length / length).toBeCloseTo(2000 / 2 ** 20, 3)
    expect(Math.max(...crackles)).toBeGreaterThan(30)
  })
  it('hears the loudest of late, falling', () => {
    const x = noise(103)
    const out = samplesOf(x)
    for (const count of [1, 4, 6, 103]) {
      let heard = 0.3
      for (const value of x.subarray(0, count)) heard = Math.max(Math.abs(value), heard * 0.99)
      expect(kernels().heardAfter(out.at, count, 0.3, 0.99, 0.99 ** 4)).toBeCloseTo(heard, 6)
    }
  })
  it('swells along a straight line', () => {
    const out = samplesOf(new Float32Array(11).fill(2))
    kernels().ramp(out.at, 7, 0.5, 0.25)
    expect([...out.samples]).toEqual([1, 1.5, 2, 2.5, 3, 3.5, 4, 2, 2, 2, 2])
  })
})

describe.each([8, 16, 256, 2048])('the transform of %d numbers', (n) => {
  const [re, im] = [noise(n), noise(n + 3).subarray(3)]
  const loaded = (): Transform => {
    const transform = new Transform(n)
    kernelFloats().set(re, transform.re >> 2)
    kernelFloats().set(im, transform.im >> 2)
    return transform
  }
  const rowsOf = ({ re, im }: Transform): [Float32Array, Float32Array] => [
    kernelFloats().slice(re >> 2, (re >> 2) + n),
    kernelFloats().slice(im >> 2, (im >> 2) + n),
  ]
  it('is the sum that defines it', () => {
    const transform = loaded()
    transform.forwards()
    const [ourRe, ourIm] = rowsOf(transform)
    for (const k of [0, 1, 2, 3, n / 2 - 1, n / 2, n - 1]) {
      let [x, y] = [0, 0]
      for (let at = 0; at < n; at++) {
        const angle = (-2 * Math.PI * ((k * at) % n)) / n
        x += re[at]! * Math.cos(angle) - im[at]! * Math.sin(angle)
        y += re[at]! * Math.sin(angle) + im[at]! * Math.cos(angle)
      }
      expect(Math.hypot(ourRe[k]! - x, ourIm[k]! - y)).toBeLessThan(2e-6 * Math.sqrt(n) * Math.log2(n))
    }
  })
  it('comes back to what it was, so many times as large', () => {
    const transform = loaded()
    transform.forwards()
    transform.backwards()
    const [ourRe, ourIm] = rowsOf(transform)
    expect(Math.max(...ourRe.map((value, at) => Math.abs(value / n - re[at]!)))).toBeLessThan(1e-6)
    expect(Math.max(...ourIm.map((value, at) => Math.abs(value / n - im[at]!)))).toBeLessThan(1e-6)
  })
})

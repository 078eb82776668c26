import { SAMPLE_RATE } from '../time/units.js'

/** Coefficients of a second-order section, a0 divided out: `y = b0 x + b1 x' + b2 x'' - a1 y' - a2 y''`. */
export type Section = readonly [b0: number, b1: number, b2: number, a1: number, a2: number]

/** Shapes of {@link sectionOf}. */
export type SectionShape = 'highPass' | 'lowPass' | 'lowShelf' | 'highShelf' | 'bell'

const RATE = SAMPLE_RATE

/**
 * A second-order section at 48 kHz after the Audio EQ Cookbook (R. Bristow-Johnson; also a W3C note).
 *
 * @param hz - Corner or centre, up to 23,900.
 * @param db - Gain of shelves (slope 1) and bells; passes have none.
 * @param q - Of bells and passes; passes are maximally flat at 0.7071.
 */
export function sectionOf(shape: SectionShape, hz: number, db = 0, q = Math.SQRT1_2): Section {
  const w = (2 * Math.PI * Math.min(hz, 23_900)) / RATE
  const cos = Math.cos(w)
  const sin = Math.sin(w)
  const a = 10 ** (db / 40)
  const alpha = shape === 'lowShelf' || shape === 'highShelf' ? sin * Math.SQRT1_2 : sin / (2 * q)
  const root = 2 * Math.sqrt(a) * alpha
  switch (shape) {
    case 'lowPass':
      return divided((1 - cos) / 2, 1 - cos, (1 - cos) / 2, 1 + alpha, -2 * cos, 1 - alpha)
    case 'highPass':
      return divided((1 + cos) / 2, -(1 + cos), (1 + cos) / 2, 1 + alpha, -2 * cos, 1 - alpha)
    case 'bell':
      return divided(1 + alpha * a, -2 * cos, 1 - alpha * a, 1 + alpha / a, -2 * cos, 1 - alpha / a)
    case 'lowShelf':
      return divided(
        a * (a + 1 - (a - 1) * cos + root),
        2 * a * (a - 1 - (a + 1) * cos),
        a * (a + 1 - (a - 1) * cos - root),
        a + 1 + (a - 1) * cos + root,
        -2 * (a - 1 + (a + 1) * cos),
        a + 1 + (a - 1) * cos - root,
      )
    case 'highShelf':
      return divided(
        a * (a + 1 + (a - 1) * cos + root),
        -2 * a * (a - 1 + (a + 1) * cos),
        a * (a + 1 + (a - 1) * cos - root),
        a + 1 - (a - 1) * cos + root,
        2 * (a - 1 - (a + 1) * cos),
        a + 1 - (a - 1) * cos - root,
      )
  }
}

const divided = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Section => [
  b0 / a0,
  b1 / a0,
  b2 / a0,
  a1 / a0,
  a2 / a0,
]

/** Gain of sections in a row at a frequency in Hz, in dB. */
export function responseDb(sections: readonly Section[], hz: number): number {
  const w = (2 * Math.PI * hz) / RATE
  const [c1, s1, c2, s2] = [Math.cos(w), Math.sin(w), Math.cos(2 * w), Math.sin(2 * w)]
  return sections.reduce((db, [b0, b1, b2, a1, a2]) => {
    const over = (b0 + b1 * c1 + b2 * c2) ** 2 + (b1 * s1 + b2 * s2) ** 2
    const under = (1 + a1 * c1 + a2 * c2) ** 2 + (a1 * s1 + a2 * s2) ** 2
    return db + 10 * Math.log10(Math.max(over, 1e-30) / under)
  }, 0)
}

const TINY = 1e-20

/** Filters `count` samples in place (transposed direct form II); `memory` holds two values at `at`. */
export function runSection(
  [b0, b1, b2, a1, a2]: Section,
  x: Float32Array,
  count: number,
  memory: Float64Array,
  at: number,
): void {
  let s1 = memory[at] as number
  let s2 = memory[at + 1] as number
  for (let i = 0; i < count; i++) {
    const input = x[i] as number
    const y = b0 * input + s1
    s1 = b1 * input - a1 * y + s2
    s2 = b2 * input - a2 * y
    x[i] = y
  }
  // Values that run out into nothing would make a processor crawl.
  memory[at] = Math.abs(s1) < TINY ? 0 : s1
  memory[at + 1] = Math.abs(s2) < TINY ? 0 : s2
}

/** {@link runSection} for two sections, one after the other in a single go, whose memories follow each other. */
export function runTwo(
  [b0, b1, b2, a1, a2]: Section,
  [d0, d1, d2, c1, c2]: Section,
  x: Float32Array,
  count: number,
  memory: Float64Array,
  at: number,
): void {
  let s1 = memory[at] as number
  let s2 = memory[at + 1] as number
  let t1 = memory[at + 2] as number
  let t2 = memory[at + 3] as number
  for (let i = 0; i < count; i++) {
    const input = x[i] as number
    const y = b0 * input + s1
    s1 = b1 * input - a1 * y + s2
    s2 = b2 * input - a2 * y
    const z = d0 * y + t1
    t1 = d1 * y - c1 * z + t2
    t2 = d2 * y - c2 * z
    x[i] = z
  }
  store(memory, at, s1, s2, t1, t2)
}

/**
 * {@link runTwo} on two channels at once, whose memories lie at `atLeft` and `atRight`. A processor computes what does not hang on each other side by side.
 */
export function runPair(
  first: Section,
  second: Section,
  left: Float32Array,
  right: Float32Array,
  count: number,
  memory: Float64Array,
  atLeft: number,
  atRight: number,
): void {
  const [b0, b1, b2, a1, a2] = first
  const [d0, d1, d2, c1, c2] = second
  let [s1, s2, t1, t2] = [memory[atLeft], memory[atLeft + 1], memory[atLeft + 2], memory[atLeft + 3]] as [
    number,
    number,
    number,
    number,
  ]
  let [u1, u2, v1, v2] = [memory[atRight], memory[atRight + 1], memory[atRight + 2], memory[atRight + 3]] as [
    number,
    number,
    number,
    number,
  ]
  for (let i = 0; i < count; i++) {
    const l = left[i] as number
    const r = right[i] as number
    const y = b0 * l + s1
    const w = b0 * r + u1
    s1 = b1 * l - a1 * y + s2
    u1 = b1 * r - a1 * w + u2
    s2 = b2 * l - a2 * y
    u2 = b2 * r - a2 * w
    const z = d0 * y + t1
    const q = d0 * w + v1
    t1 = d1 * y - c1 * z + t2
    v1 = d1 * w - c1 * q + v2
    t2 = d2 * y - c2 * z
    v2 = d2 * w - c2 * q
    left[i] = z
    right[i] = q
  }
  store(memory, atLeft, s1, s2, t1, t2)
  store(memory, atRight, u1, u2, v1, v2)
}

function store(memory: Float64Array, at: number, a: number, b: number, c: number, d: number): void {
  memory[at] = Math.abs(a) < TINY ? 0 : a
  memory[at + 1] = Math.abs(b) < TINY ? 0 : b
  memory[at + 2] = Math.abs(c) < TINY ? 0 : c
  memory[at + 3] = Math.abs(d) < TINY ? 0 : d
}

/** Coefficients of a second-order section, a0 divided out: `y = b0 x + b1 x' + b2 x'' - a1 y' - a2 y''`. */
export type Section = readonly [b0: number, b1: number, b2: number, a1: number, a2: number]

/** Shapes of {@link sectionOf}. */
export type SectionShape = 'highPass' | 'lowPass' | 'lowShelf' | 'highShelf' | 'bell'

const RATE = 48_000

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

const divided = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Section => [b0 / a0, b1 / a0, b2 / a0, a1 / a0, a2 / a0]

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
export function runSection([b0, b1, b2, a1, a2]: Section, x: Float32Array, count: number, memory: Float64Array, at: number): void {
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

/** {@link runSection} for two sections, one after the other, whose memories follow each other: a processor computes both at once. */
export function runPair(first: Section, second: Section, x: Float32Array, count: number, memory: Float64Array, at: number): void {
  const [b0, b1, b2, a1, a2] = first
  const [d0, d1, d2, c1, c2] = second
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
  memory[at] = Math.abs(s1) < TINY ? 0 : s1
  memory[at + 1] = Math.abs(s2) < TINY ? 0 : s2
  memory[at + 2] = Math.abs(t1) < TINY ? 0 : t1
  memory[at + 3] = Math.abs(t2) < TINY ? 0 : t2
}

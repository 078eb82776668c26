import { KernelMemory, kernels, type Address } from './kernels.js'

const FLOAT = 4

/** Angles of one size of transform, shared by all that have it. */
interface Angles {
  readonly cos: KernelMemory
  readonly sin: KernelMemory
  /** Every second of them two times, cosines, then sines. */
  readonly twice: KernelMemory
}

const known = new Map<number, Angles>()

function anglesOf(n: number): Angles {
  let angles = known.get(n)
  if (!angles) {
    const all = Array.from({ length: n / 2 }, (_, p) => (2 * Math.PI * p) / n)
    const pairs = all.map((_, p) => all[p & ~1] as number)
    const row = (...values: number[]): KernelMemory => {
      const memory = new KernelMemory(values.length * FLOAT)
      memory.setFloats(values)
      return memory
    }
    const [cos, sin] = [row(...all.map(Math.cos)), row(...all.map(Math.sin))]
    angles = { cos, sin, twice: row(...pairs.map(Math.cos), ...pairs.map(Math.sin)) }
    known.set(n, angles)
  }
  return angles
}

/** The discrete Fourier transform of complex numbers of 32 bit, which lie in two rows that it works on. */
export class Transform {
  private readonly rows: KernelMemory
  private readonly angles: Angles

  /** @param n - How many numbers: a power of two, 8 or more. */
  constructor(private readonly n: number) {
    this.rows = new KernelMemory(4 * n * FLOAT)
    this.angles = anglesOf(n)
  }

  /** Where the real parts lie. */
  get re(): Address {
    return this.rows.at
  }

  /** Where the imaginary parts lie. */
  get im(): Address {
    return this.rows.at + this.n * FLOAT
  }

  /** Transforms what lies in the rows. */
  forwards(): void {
    this.turn(this.re, this.im)
  }

  /** Transforms it back, without dividing by its size. */
  backwards(): void {
    this.turn(this.im, this.re)
  }

  private turn(re: Address, im: Address): void {
    const run = kernels()
    const { n, angles, rows } = this
    const bytes = n * FLOAT
    const other = rows.at + 2 * bytes
    const [otherRe, otherIm] = re < im ? [other, other + bytes] : [other + bytes, other]
    const { cos, sin, twice } = angles
    if (run.transform(re, im, otherRe, otherIm, n, cos.at, sin.at, twice.at) === 1)
      run.move(rows.at, other, 2 * bytes)
  }
}

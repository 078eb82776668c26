import { kaiserSinc } from '../../audio/kaiser.js'
import { KernelMemory, kernels, type Address } from '../../kernels/kernels.js'

/** Of the window: what these filters stop lies about 50 dB down. */
const BETA = 4.6
const FLOAT = 4

/** Weights beside the middle of a half-band filter: of the samples one, three, five … away on both sides; all together a quarter. */
function weightsOf(pairs: number): number[] {
  const weights = Array.from({ length: pairs }, (_, pair) => kaiserSinc(pair + 0.5, pairs, BETA))
  const sum = weights.reduce((a, b) => a + b, 0)
  return weights.map((weight) => weight / (4 * sum))
}

/** Takes every second sample of a sound, without what half as many cannot hold. */
export class HalfBandDown {
  private readonly weights: KernelMemory
  private readonly even: KernelMemory
  private readonly odd: KernelMemory

  /**
   * @param pairs - Weights on either side: the more, the closer it can go to the highest that is left.
   * @param most - Samples that come out at once at most.
   */
  constructor(
    private readonly pairs: number,
    most: number,
  ) {
    this.weights = new KernelMemory(FLOAT * pairs)
    this.weights.setFloats(weightsOf(pairs))
    this.even = new KernelMemory(FLOAT * (pairs - 1 + most))
    this.odd = new KernelMemory(FLOAT * (2 * pairs - 1 + most))
  }

  /** Samples coming in by which what comes out is late. */
  get delay(): number {
    return 2 * this.pairs - 1
  }

  /** Forgets what came in. */
  reset(): void {
    this.even.clear()
    this.odd.clear()
  }

  /** Makes `count` samples of twice as many; both may lie at the same place. */
  process(from: Address, count: number, into: Address): void {
    kernels().halve(from, count, into, this.even.at, this.odd.at, this.weights.at, this.pairs)
  }
}

/** Puts a sample between each two of a sound, without adding anything above what was there. */
export class HalfBandUp {
  private readonly weights: KernelMemory
  private readonly line: KernelMemory

  /** @param most - Samples that come at once at most. */
  constructor(
    private readonly pairs: number,
    most: number,
  ) {
    this.weights = new KernelMemory(FLOAT * pairs)
    this.weights.setFloats(weightsOf(pairs).map((weight) => 2 * weight))
    this.line = new KernelMemory(FLOAT * (2 * pairs - 1 + most))
  }

  /** Samples going out by which what comes out is late. */
  get delay(): number {
    return 2 * this.pairs - 2
  }

  /** Forgets what came in. */
  reset(): void {
    this.line.clear()
  }

  /** Makes twice as many samples of `count`; both may lie at the same place. */
  process(from: Address, count: number, into: Address): void {
    kernels().double(from, count, into, this.line.at, this.weights.at, this.pairs)
  }
}

import FFT from 'fft.js'

/** Samples of a block of the first part, and by how much what comes out is late. */
export const CONVOLVER_LATENCY = 128
/** The first part of an answer is folded in short blocks, the rest in long ones, a few of their pieces at each short block. */
const LONG = 1024
const SHORT_PART = 2 * LONG

/** An impulse response cut into pieces and transformed, ready to be folded in. It crosses threads as it is. */
export interface FoldedResponse {
  readonly short: readonly Float32Array[]
  readonly long: readonly Float32Array[]
}

/** Transforms an impulse response whose first sample answers {@link CONVOLVER_LATENCY} samples after what caused it. */
export function foldResponse(response: Float32Array): FoldedResponse {
  return {
    short: pieces(response.subarray(0, SHORT_PART), CONVOLVER_LATENCY),
    long: pieces(response.subarray(SHORT_PART), LONG),
  }
}

function pieces(response: Float32Array, block: number): Float32Array[] {
  const fft = new FFT(2 * block)
  const out = fft.createComplexArray()
  return Array.from({ length: Math.ceil(response.length / block) }, (_, index) => {
    const padded = new Float32Array(2 * block)
    padded.set(response.subarray(index * block, (index + 1) * block))
    fft.realTransform(out, padded)
    return Float32Array.from(out.slice(0, 2 * block + 2))
  })
}

/**
 * Folds a sound with an impulse response by uniformly partitioned overlap-save in two sizes
 * (W. G. Gardner, "Efficient Convolution without Input-Output Delay", JAES 1995; from memory).
 * Samples go in and come out one by one, {@link CONVOLVER_LATENCY} late, so that the blocks of the caller change nothing.
 */
export class Convolver {
  private readonly input = new Float32Array(CONVOLVER_LATENCY)
  private readonly output = new Float32Array(CONVOLVER_LATENCY)
  private readonly short: Part
  private readonly long: Part
  private readonly longIn = new Float32Array(LONG)
  private readonly longOut = new Float32Array(LONG)
  private filled = 0
  private longFilled = 0

  constructor(response: FoldedResponse) {
    this.short = new Part(response.short, CONVOLVER_LATENCY)
    this.long = new Part(response.long, LONG)
  }

  /** Forgets what went in. */
  reset(): void {
    for (const memory of [this.input, this.output, this.longIn, this.longOut]) memory.fill(0)
    this.short.reset()
    this.long.reset()
    this.filled = this.longFilled = 0
  }

  /** Takes a sample and gives the one of {@link CONVOLVER_LATENCY} samples ago, folded. */
  next(sample: number): number {
    const value = this.output[this.filled] as number
    this.input[this.filled++] = sample
    if (this.filled === CONVOLVER_LATENCY) this.turn()
    return value
  }

  private turn(): void {
    this.filled = 0
    this.short.take(this.input)
    this.short.work(1)
    this.short.give(this.output)
    // The long part answers a whole long block after its own has come in: the work on it is spread over the short blocks until then.
    const at = this.longFilled
    for (let i = 0; i < CONVOLVER_LATENCY; i++)
      this.output[i] = (this.output[i] as number) + (this.longOut[at + i] as number)
    this.longIn.set(this.input, at)
    this.longFilled = at + CONVOLVER_LATENCY
    this.long.work(this.longFilled / LONG)
    if (this.longFilled < LONG) return
    this.longFilled = 0
    this.long.give(this.longOut)
    this.long.take(this.longIn)
  }
}

/** One size of partition: the spectra of the latest blocks, times the pieces of the response. */
class Part {
  private readonly fft: FFT
  private readonly spectra: Float32Array[]
  private readonly window: Float32Array
  private readonly sum: number[]
  private readonly back: number[]
  private newest = 0
  private done = 0

  constructor(
    private readonly response: readonly Float32Array[],
    private readonly block: number,
  ) {
    this.fft = new FFT(2 * block)
    this.spectra = response.map(() => new Float32Array(2 * block + 2))
    this.window = new Float32Array(2 * block)
    this.sum = this.fft.createComplexArray().fill(0)
    this.back = this.fft.createComplexArray()
  }

  reset(): void {
    for (const spectrum of this.spectra) spectrum.fill(0)
    this.window.fill(0)
    this.sum.fill(0)
    this.done = 0
  }

  /** Takes the next block in. */
  take(block: Float32Array): void {
    if (this.response.length === 0) return
    this.window.copyWithin(0, this.block)
    this.window.set(block, this.block)
    this.newest = (this.newest + this.spectra.length - 1) % this.spectra.length
    this.fft.realTransform(this.back, this.window)
    const spectrum = this.spectra[this.newest] as Float32Array
    for (let i = 0; i < spectrum.length; i++) spectrum[i] = this.back[i] as number
    this.sum.fill(0)
    this.done = 0
  }

  /** Does the products up to a part of the whole, 0 to 1. */
  work(part: number): void {
    const { response, spectra, sum } = this
    const until = Math.ceil(part * response.length)
    for (; this.done < until; this.done++) {
      const h = response[this.done] as Float32Array
      const x = spectra[(this.newest + this.done) % spectra.length] as Float32Array
      for (let i = 0; i < h.length; i += 2) {
        const a = x[i] as number
        const b = x[i + 1] as number
        const c = h[i] as number
        const d = h[i + 1] as number
        sum[i] = (sum[i] as number) + a * c - b * d
        sum[i + 1] = (sum[i + 1] as number) + a * d + b * c
      }
    }
  }

  /** Writes the block that the products make. */
  give(out: Float32Array): void {
    if (this.response.length === 0) return void out.fill(0)
    this.fft.completeSpectrum(this.sum)
    this.fft.inverseTransform(this.back, this.sum)
    for (let i = 0; i < this.block; i++) out[i] = this.back[2 * (this.block + i)] as number
  }
}

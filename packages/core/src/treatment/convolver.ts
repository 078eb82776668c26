import { kernelFloats, KernelMemory, KernelSamples, kernels, type Address } from '../kernels/kernels.js'
import { Transform } from '../kernels/Transform.js'

/** Samples of a block of the first part, and by how much what comes out is late. */
export const CONVOLVER_LATENCY = 128
/** The first part of an answer is folded in short blocks, the rest in long ones, a few of their pieces at each short block. */
const LONG = 1024
const SHORT_PART = 2 * LONG

/** A part of a response in blocks of one size: of each the real parts of its spectrum up to the middle, then the imaginary ones. */
interface FoldedPart {
  readonly count: number
  readonly rows: Float32Array<ArrayBuffer>
}

/** An impulse response cut into pieces and transformed, ready to be folded in. It crosses threads as it is. */
export interface FoldedResponse {
  readonly short: FoldedPart
  readonly long: FoldedPart
}

/** Transforms an impulse response whose first sample answers {@link CONVOLVER_LATENCY} samples after what caused it. */
export function foldResponse(response: Float32Array): FoldedResponse {
  return {
    short: foldPart(response.subarray(0, SHORT_PART), CONVOLVER_LATENCY),
    long: foldPart(response.subarray(SHORT_PART), LONG),
  }
}

const FLOAT = 4

/** Real or imaginary parts of a spectrum up to its middle, as many as kernels take at once. */
const rowOf = (block: number): number => 4 * Math.ceil((block + 1) / 4)

function foldPart(response: Float32Array, block: number): FoldedPart {
  const transform = new Transform(2 * block)
  const row = rowOf(block)
  const count = Math.ceil(response.length / block)
  const rows = new Float32Array(2 * count * row)
  for (let index = 0; index < count; index++) {
    kernels().clear(transform.re, 2 * 2 * block * FLOAT)
    kernelFloats().set(response.subarray(index * block, (index + 1) * block), transform.re / FLOAT)
    transform.forwards()
    for (const [part, at] of [transform.re, transform.im].entries())
      rows.set(kernelFloats().subarray(at / FLOAT, at / FLOAT + row), (2 * index + part) * row)
  }
  return { count, rows }
}

/** Responses in the memory of the kernels, for as long as somebody folds with them. */
const laid = new WeakMap<FoldedPart, KernelMemory>()

function laidOut(part: FoldedPart): KernelMemory {
  let memory = laid.get(part)
  if (!memory) {
    memory = new KernelMemory(part.rows.byteLength)
    memory.setFloats(part.rows)
    laid.set(part, memory)
  }
  return memory
}

/**
 * Folds a sound with an impulse response for each ear by uniformly partitioned overlap-save in two sizes
 * (W. G. Gardner, "Efficient Convolution without Input-Output Delay", JAES 1995; from memory).
 * What comes out is {@link CONVOLVER_LATENCY} samples late, and does not hang on the blocks of the caller.
 */
export class Convolver {
  private readonly input = new KernelSamples(CONVOLVER_LATENCY)
  private readonly left = new KernelSamples(CONVOLVER_LATENCY)
  private readonly right = new KernelSamples(CONVOLVER_LATENCY)
  private readonly short: Part
  private readonly long: Part
  private readonly longIn = new KernelSamples(LONG)
  private readonly longLeft = new KernelSamples(LONG)
  private readonly longRight = new KernelSamples(LONG)
  private filled = 0
  private longFilled = 0

  /** @param ears - The response of the left and of the right, of the same length. */
  constructor(ears: readonly [FoldedResponse, FoldedResponse]) {
    this.short = new Part(ears[0].short, ears[1].short, CONVOLVER_LATENCY)
    this.long = new Part(ears[0].long, ears[1].long, LONG)
  }

  /** Forgets what went in. */
  reset(): void {
    const { input, left, right, longIn, longLeft, longRight } = this
    for (const memory of [input, left, right, longIn, longLeft, longRight]) memory.samples.fill(0)
    this.short.reset()
    this.long.reset()
    this.filled = this.longFilled = 0
  }

  /** Takes `count` samples and writes as many for each ear. */
  process(from: Address, left: Address, right: Address, count: number): void {
    const run = kernels()
    for (let done = 0; done < count;) {
      const length = Math.min(count - done, CONVOLVER_LATENCY - this.filled)
      const [into, bytes] = [FLOAT * this.filled, FLOAT * length]
      run.move(this.input.at + into, from + FLOAT * done, bytes)
      run.move(left + FLOAT * done, this.left.at + into, bytes)
      run.move(right + FLOAT * done, this.right.at + into, bytes)
      this.filled += length
      done += length
      if (this.filled === CONVOLVER_LATENCY) this.turn()
    }
  }

  private turn(): void {
    const run = kernels()
    this.filled = 0
    this.short.take(this.input.at)
    this.short.work(1)
    this.short.give(this.left.at, this.right.at)
    // The long part answers a whole long block after its own has come in: the work on it is spread over the short blocks until then.
    const at = FLOAT * this.longFilled
    run.add(this.left.at, this.longLeft.at + at, CONVOLVER_LATENCY, 1)
    run.add(this.right.at, this.longRight.at + at, CONVOLVER_LATENCY, 1)
    run.move(this.longIn.at + at, this.input.at, FLOAT * CONVOLVER_LATENCY)
    this.longFilled += CONVOLVER_LATENCY
    this.long.work(this.longFilled / LONG)
    if (this.longFilled < LONG) return
    this.longFilled = 0
    this.long.give(this.longLeft.at, this.longRight.at)
    this.long.take(this.longIn.at)
  }
}

/** One size of partition: the spectra of the latest blocks, times the pieces of both responses. */
class Part {
  private readonly transform: Transform
  /** Of the real or the imaginary parts of a spectrum up to its middle. */
  private readonly bytes: number
  private readonly count: number
  private readonly responses: readonly [KernelMemory, KernelMemory]
  private readonly spectra: KernelMemory
  private readonly sums: KernelMemory
  private readonly window: KernelMemory
  private newest = 0
  private done = 0

  constructor(
    left: FoldedPart,
    right: FoldedPart,
    private readonly block: number,
  ) {
    this.transform = new Transform(2 * block)
    this.bytes = FLOAT * rowOf(block)
    this.count = left.count
    this.responses = [laidOut(left), laidOut(right)]
    this.spectra = new KernelMemory(2 * this.count * this.bytes)
    this.sums = new KernelMemory(4 * this.bytes)
    this.window = new KernelMemory(2 * block * FLOAT)
  }

  reset(): void {
    for (const memory of [this.spectra, this.sums, this.window]) memory.clear()
    this.done = 0
  }

  /** Takes the next block in. */
  take(block: Address): void {
    if (this.count === 0) return
    const run = kernels()
    const { transform, window, bytes } = this
    const half = this.block * FLOAT
    run.move(window.at, window.at + half, half)
    run.move(window.at + half, block, half)
    run.move(transform.re, window.at, 2 * half)
    run.clear(transform.im, 2 * half)
    transform.forwards()
    this.newest = (this.newest + this.count - 1) % this.count
    const at = this.spectra.at + 2 * this.newest * bytes
    run.move(at, transform.re, bytes)
    run.move(at + bytes, transform.im, bytes)
    this.sums.clear()
    this.done = 0
  }

  /** Does the products up to a part of the whole, 0 to 1. */
  work(part: number): void {
    const { bytes, count, sums, spectra } = this
    const [left, right] = this.responses
    const run = kernels()
    const until = Math.ceil(part * count)
    for (; this.done < until; this.done++) {
      const x = spectra.at + 2 * ((this.newest + this.done) % count) * bytes
      const piece = 2 * this.done * bytes
      run.multiply(sums.at, x, left.at + piece, right.at + piece, bytes)
    }
  }

  /** Writes the block that the products make for each ear. */
  give(left: Address, right: Address): void {
    const run = kernels()
    const { transform, sums, bytes } = this
    const half = this.block * FLOAT
    if (this.count === 0) {
      run.clear(left, half)
      run.clear(right, half)
      return
    }
    run.pack(sums.at, bytes, transform.re, transform.im, 2 * this.block)
    transform.backwards()
    run.move(left, transform.re + half, half)
    run.move(right, transform.im + half, half)
  }
}

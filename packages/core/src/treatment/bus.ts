import { KernelSamples } from '../kernels/kernels.js'
import { MIX_BLOCK } from '../signal/soundPort.js'

/**
 * What runs through a chain of treatment: mono sound and stereo sound side by side, so that each keeps its own law of panning.
 * Of what does not sound the samples mean nothing, nor do those behind what was asked for. They lie in the memory of the kernels.
 */
export class Bus {
  /** Where each side lies, for kernels. */
  readonly inMono = new KernelSamples(MIX_BLOCK)
  readonly inLeft = new KernelSamples(MIX_BLOCK)
  readonly inRight = new KernelSamples(MIX_BLOCK)
  hasMono = false
  hasStereo = false

  /** The mono side; like the others to be asked for at each block. */
  get mono(): Float32Array {
    return this.inMono.samples
  }

  /** The left of the stereo side. */
  get left(): Float32Array {
    return this.inLeft.samples
  }

  /** The right of it. */
  get right(): Float32Array {
    return this.inRight.samples
  }

  /** Begins a block of silence. */
  clear(): void {
    this.hasMono = this.hasStereo = false
  }

  /** Sums the stereo side, at half each, into the mono one. */
  sum(count: number): void {
    if (!this.hasStereo) return
    this.wakeMono(count)
    const { mono, left, right } = this
    for (let i = 0; i < count; i++)
      mono[i] = (mono[i] as number) + ((left[i] as number) + (right[i] as number)) / 2
    this.hasStereo = false
  }

  /** Makes the mono side sound, silent at first. */
  wakeMono(count: number): void {
    if (this.hasMono) return
    this.mono.fill(0, 0, count)
    this.hasMono = true
  }

  /** Makes the stereo side sound, silent at first. */
  wakeStereo(count: number): void {
    if (this.hasStereo) return
    this.left.fill(0, 0, count)
    this.right.fill(0, 0, count)
    this.hasStereo = true
  }
}

/** A piece of treatment at work. What it makes does not depend on how its sound is cut into blocks. */
export interface Processor<T> {
  /** Samples by which its sound comes later than what went in. */
  readonly latency: number
  /** Samples for which it may go on sounding after the last that went in. */
  tail(): number
  /** Sets it anew; what sounds goes on. */
  set(settings: T): void
  /** Forgets everything that went in. */
  reset(): void
  /** Treats the next `count` samples, at most {@link MIX_BLOCK}, of which the first is sample `at` of the reel. */
  process(bus: Bus, count: number, at: number): void
}

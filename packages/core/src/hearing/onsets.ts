import { SAMPLE_RATE } from '../time/units.js'
import FFT from 'fft.js'
import { hannWindow, WindowCutter } from './windows.js'

const SIZE = 1024
const HOP = 256
const BANDS = 24
const LOWEST_HZ = 60
const HIGHEST_HZ = 14_000
/** Hops on either side that an onset has to top, about 32 ms. */
const PEAK_HOPS = 6
/** Hops before and after over which the usual novelty is measured, about 0.27 s. */
const USUAL_HOPS = 50
const LEAST = 3
const TIMES = 2.5
/** Two attacks nearer than this are one, in hops (about 64 ms). */
const APART_HOPS = 12

/** An attack. */
export interface Onset {
  /** Sample at which it begins, good to about 5 ms. */
  readonly at: number
  /** How suddenly the spectrum rises, in decades summed over the bands: about 1 for what is barely there, 10 and more for a hard hit. */
  readonly strength: number
}

/**
 * Finds every attack in a sound at 48 kHz, as help for the eye beside the guide.
 *
 * Spectral flux: a window of 21 ms moves on by 5.3 ms; in 24 bands, evenly spaced in pitch, the rise of the logarithmic
 * level over the two hops before is summed. An onset is a peak of that sum, above 2.5 times what is usual around it.
 * Both sudden and loud count; a slow swell has none.
 */
export class OnsetDetector {
  private readonly fft = new FFT(SIZE)
  private readonly window = hannWindow(SIZE)
  private readonly spectrum = this.fft.createComplexArray()
  private readonly input = new Array<number>(SIZE).fill(0)
  private readonly cutter = new WindowCutter(SIZE, HOP, () => this.hop())
  private readonly held = this.cutter.held
  private readonly edges = bandEdges()
  private readonly levels: Float64Array[] = []
  private readonly novelty: number[] = []

  /** Takes the next mono samples, -1 to 1. */
  push(mono: Float32Array): void {
    this.cutter.push(mono)
  }

  /** The attacks in the order of time. */
  finish(): Onset[] {
    const { novelty } = this
    const found: Onset[] = []
    let last = -APART_HOPS
    for (let at = 0; at < novelty.length; at++) {
      const value = novelty[at] as number
      if (value < LEAST || at - last < APART_HOPS) continue
      if (!this.tops(at, value) || value < TIMES * this.usual(at)) continue
      // The window's newest hop is where the rise was first seen: the attack lies in it.
      found.push({ at: at * HOP + SIZE - HOP - HOP / 2, strength: value })
      last = at
    }
    return found
  }

  private tops(at: number, value: number): boolean {
    for (
      let near = Math.max(0, at - PEAK_HOPS);
      near <= Math.min(this.novelty.length - 1, at + PEAK_HOPS);
      near++
    ) {
      const other = this.novelty[near] as number
      if (other > value || (other === value && near < at)) return false
    }
    return true
  }

  private usual(at: number): number {
    let sum = 0
    const from = Math.max(0, at - USUAL_HOPS)
    const to = Math.min(this.novelty.length, at + USUAL_HOPS)
    for (let near = from; near < to; near++) sum += this.novelty[near] as number
    return sum / (to - from)
  }

  private hop(): void {
    for (let i = 0; i < SIZE; i++) this.input[i] = (this.held[i] as number) * (this.window[i] as number)
    this.fft.realTransform(this.spectrum, this.input)
    const level = new Float64Array(BANDS)
    for (let band = 0; band < BANDS; band++) {
      let power = 0
      for (let bin = this.edges[band] as number; bin < (this.edges[band + 1] as number); bin++) {
        const re = this.spectrum[2 * bin] as number
        const im = this.spectrum[2 * bin + 1] as number
        power += re * re + im * im
      }
      // Below about -80 dBFS a rise is nothing that anybody hears.
      level[band] = Math.log10(1 + Math.sqrt(power) * 20)
    }
    const before = this.levels.at(-2)
    let rise = 0
    if (before)
      for (let band = 0; band < BANDS; band++)
        rise += Math.max(0, (level[band] as number) - (before[band] as number))
    this.novelty.push(rise)
    this.levels.push(level)
    if (this.levels.length > 2) this.levels.shift()
  }
}

function bandEdges(): number[] {
  const edges = Array.from({ length: BANDS + 1 }, (_, band) =>
    Math.round((LOWEST_HZ * (HIGHEST_HZ / LOWEST_HZ) ** (band / BANDS) * SIZE) / SAMPLE_RATE),
  )
  // Low bands are narrower than a bin: each gets at least one of its own.
  for (let band = 1; band < edges.length; band++)
    edges[band] = Math.max(edges[band] as number, (edges[band - 1] as number) + 1)
  return edges
}

import { SAMPLES_PER_MS } from '../time/units.js'
import { dbFromGain, gainFromDb } from '../signal/levels.js'
import type { Settings } from '../reel/inserts.js'
import type { Bus, Processor } from './bus.js'

/** Samples whose highest counts as one reading (a third of a millisecond). */
const CELL = 16

/**
 * Static curve of a compressor: decibels to take away at a level, with a rounded knee
 * (Giannoulis, Massberg and Reiss, "Digital Dynamic Range Compressor Design", JAES 2012; from memory).
 */
export function reductionDb(
  level: number,
  { threshold, ratio, knee }: Pick<Settings<'compressor'>, 'threshold' | 'ratio' | 'knee'>,
): number {
  const over = level - threshold
  const slope = 1 - 1 / ratio
  if (2 * over <= -knee) return 0
  if (2 * over >= knee) return slope * over
  return (slope * (over + knee / 2) ** 2) / (2 * knee)
}

/**
 * Takes away what lies above a threshold, the same from all channels. The level is the highest sample of each cell;
 * the decibels taken away follow it with time constants of attack and release. The gain runs straight from cell to cell, one cell late.
 */
export class Compressor implements Processor<Settings<'compressor'>> {
  readonly latency = 0
  private settings: Settings<'compressor'> = {
    threshold: 0,
    ratio: 1,
    attack: 10,
    release: 100,
    knee: 0,
    makeUp: 0,
  }
  /** Highest sample of which nothing is taken away. */
  private open = 1
  private rise = 0
  private fall = 0
  private reduction = 0
  private highest = 0
  private gain = 1
  private target = 1
  /** Sample of the reel that was to come next. */
  private next = 0
  private step = 0

  set(settings: Settings<'compressor'>): void {
    this.settings = settings
    this.open = gainFromDb(settings.threshold - settings.knee / 2)
    this.target = gainFromDb(settings.makeUp - this.reduction)
    this.rise = Math.exp(-CELL / (settings.attack * SAMPLES_PER_MS))
    this.fall = Math.exp(-CELL / (settings.release * SAMPLES_PER_MS))
  }

  tail(): number {
    return CELL
  }

  reset(): void {
    this.reduction = this.highest = this.step = 0
    this.gain = this.target = gainFromDb(this.settings.makeUp)
  }

  process(bus: Bus, count: number, at: number): void {
    if (at !== this.next) this.pass(at - this.next)
    this.next = at + count
    const { mono, left, right, hasMono, hasStereo } = bus
    // Cells lie on the reel, so that blocks of any size are heard alike.
    for (let done = 0, filled = ((at % CELL) + CELL) % CELL; done < count; filled = 0) {
      const until = Math.min(count, done + CELL - filled)
      const { step } = this
      const from = this.gain
      let highest = this.highest
      if (hasMono) {
        for (let i = done, gain = from; i < until; i++) {
          const value = mono[i] as number
          if (value > highest) highest = value
          else if (-value > highest) highest = -value
          gain += step
          mono[i] = value * gain
        }
      }
      if (hasStereo) {
        for (let i = done, gain = from; i < until; i++) {
          const a = left[i] as number
          const b = right[i] as number
          if (a > highest) highest = a
          else if (-a > highest) highest = -a
          if (b > highest) highest = b
          else if (-b > highest) highest = -b
          gain += step
          left[i] = a * gain
          right[i] = b * gain
        }
      }
      this.gain = from + step * (until - done)
      this.highest = highest
      if (filled + until - done === CELL) this.read()
      done = until
    }
  }

  /** Lets time go by in which nothing sounded, or begins anew where it went back. */
  private pass(samples: number): void {
    if (samples > 0) this.reduction *= this.fall ** Math.floor(samples / CELL)
    this.highest = this.step = 0
    this.gain = this.target = gainFromDb(this.settings.makeUp - this.reduction)
  }

  private read(): void {
    const { settings } = this
    const wanted = this.highest > this.open ? reductionDb(dbFromGain(this.highest), settings) : 0
    const follow = wanted > this.reduction ? this.rise : this.fall
    const before = this.reduction
    this.reduction = wanted + (before - wanted) * follow
    if (this.reduction < 1e-6) this.reduction = 0
    if (this.reduction !== before) this.target = gainFromDb(settings.makeUp - this.reduction)
    this.step = (this.target - this.gain) / CELL
    this.highest = 0
  }
}

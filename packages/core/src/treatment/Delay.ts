import { samplesIn } from '../time/convert.js'
import { SAMPLE_RATE, SAMPLES_PER_MS } from '../time/units.js'
import type { Settings } from '../reel/inserts.js'
import { gainFromDb } from '../signal/levels.js'
import type { Bus, Processor } from './bus.js'

const SIZE = 131_072
const MASK = SIZE - 1
const SILENT_DB = -100

/** Repeats a sound again and again, each time softer and duller. The sound itself stays as it is. */
export class Delay implements Processor<Settings<'delay'>> {
  readonly latency = 0
  private settings: Settings<'delay'> = { time: 250, feedback: 0, wet: -60, lowPass: 20_000 }
  private late = 12_000
  private wet = 0
  private dull = 1
  private readonly lines: (Float32Array | null)[] = [null, null, null]
  private readonly lows = [0, 0, 0]
  /** Up to where each line is written; it is not while nothing sounds. */
  private readonly until = [0, 0, 0]
  private now = 0

  set(settings: Settings<'delay'>): void {
    this.settings = settings
    this.late = Math.max(1, Math.round(settings.time * SAMPLES_PER_MS))
    this.wet = settings.wet <= -60 ? 0 : gainFromDb(settings.wet)
    // One pole: of the way to each new value so much is gone.
    this.dull = 1 - Math.exp((-2 * Math.PI * settings.lowPass) / SAMPLE_RATE)
  }

  tail(): number {
    const { feedback, wet } = this.settings
    if (feedback <= 0) return 2 * this.late
    return Math.min(samplesIn(60), this.late * (2 + (SILENT_DB - wet) / (20 * Math.log10(feedback))))
  }

  reset(): void {
    for (const line of this.lines) line?.fill(0)
    this.lows.fill(0)
  }

  process(bus: Bus, count: number): void {
    if (bus.hasMono) this.repeat(bus.mono, 0, count)
    if (bus.hasStereo) {
      this.repeat(bus.left, 1, count)
      this.repeat(bus.right, 2, count)
    }
    this.now += count
  }

  private repeat(x: Float32Array, channel: 0 | 1 | 2, count: number): void {
    const line = (this.lines[channel] ??= new Float32Array(SIZE))
    const { feedback } = this.settings
    const { late, wet, dull, now } = this
    if (this.until[channel] !== now) line.fill(0)
    this.until[channel] = now + count
    let low = this.lows[channel] as number
    for (let i = 0; i < count; i++) {
      low += ((line[(now + i - late) & MASK] as number) - low) * dull
      const input = x[i] as number
      line[(now + i) & MASK] = input + low * feedback
      x[i] = input + low * wet
    }
    this.lows[channel] = Math.abs(low) < 1e-20 ? 0 : low
  }
}

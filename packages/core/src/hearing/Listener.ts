import { SAMPLES_PER_MS } from '../time/units.js'
import { secondsOf } from '../time/convert.js'
import type { SoundEvent } from '../contract/sounds.js'
import { findEvents } from './events.js'
import { LoudnessMeter } from './loudness.js'
import { firstOnset } from './firstOnset.js'
import { OUTLINE_STEP, OutlineCollector } from './outline.js'
import { mapped, SpectrumMeter } from './spectrum.js'
import { TruePeakMeter } from './truePeak.js'

/** Everything that is measured of a recording when it is listened to once. */
export interface Heard {
  /** Samples at 48 kHz. */
  readonly length: number
  /** Sync point: where the first strong attack begins; 0 for a bed. */
  readonly sync: number
  /** Highest sample, dBFS; -144 for silence. */
  readonly peak: number
  /** dBTP. */
  readonly truePeak: number
  /** LUFS, integrated. */
  readonly loudness: number
  readonly weight: number
  readonly brightness: number
  /** Steepness of the loudest attack: from 500 ms and slower (0) to 2 ms and faster (100), by the logarithm of its rise from a tenth to nine tenths. */
  readonly bite: number
  readonly noisiness: number
  readonly pitch: number
  readonly events: readonly SoundEvent[]
  /** Sixteen numbers, each about 0 to 1: sounds that are near each other in them sound alike. */
  readonly likeness: readonly number[]
}

const SLOWEST_MS = 500
const FASTEST_MS = 2

/** Listens to mono or stereo sound at 48 kHz that arrives in pieces, and measures all qualities in one pass. */
export class Listener {
  private frames = 0
  private readonly loudness: LoudnessMeter
  private readonly truePeak: TruePeakMeter
  private readonly outline = new OutlineCollector()
  private readonly spectrum = new SpectrumMeter()

  constructor(private readonly channels: 1 | 2) {
    this.loudness = new LoudnessMeter(channels)
    this.truePeak = new TruePeakMeter(channels)
  }

  /** Takes the next frames of interleaved samples. */
  push(interleaved: Float32Array): void {
    this.frames += interleaved.length / this.channels
    this.loudness.push(interleaved)
    this.truePeak.push(interleaved)
    this.outline.push(interleaved, this.channels)
    this.spectrum.push(this.channels === 1 ? interleaved : middleOf(interleaved))
  }

  /** Ends the recording. */
  finish(): Heard {
    const { samplePeak, truePeak } = this.truePeak.finish()
    const outline = this.outline.finish()
    const events = findEvents(outline, this.frames)
    const { colour, ...spectral } = this.spectrum.finish()
    const measured = {
      length: this.frames,
      sync: firstOnset(outline),
      peak: decibels(samplePeak),
      truePeak: decibels(truePeak),
      loudness: this.loudness.finish(),
      bite: biteOf(outline),
      events,
      ...spectral,
    }
    return { ...measured, likeness: likenessOf(measured, colour) }
  }
}

const decibels = (value: number): number => (value > 0 ? Math.max(-144, 20 * Math.log10(value)) : -144)

function middleOf(stereo: Float32Array): Float32Array {
  const mono = new Float32Array(stereo.length / 2)
  for (let i = 0; i < mono.length; i++)
    mono[i] = 0.5 * ((stereo[2 * i] as number) + (stereo[2 * i + 1] as number))
  return mono
}

function biteOf(outline: Float32Array): number {
  const top = outline.reduce((best, value, index) => (value > (outline[best] as number) ? index : best), 0)
  const peak = outline[top] ?? 0
  if (peak === 0) return 0
  let high = top
  while (high > 0 && (outline[high - 1] as number) >= peak * 0.9) high--
  let low = high
  while (low > 0 && (outline[low] as number) > peak * 0.1) low--
  const riseMs = Math.max(FASTEST_MS, ((high - low) * OUTLINE_STEP) / SAMPLES_PER_MS)
  // A bed has no attack; its loudest moment is chance.
  return low === 0 && high > SLOWEST_MS
    ? 0
    : mapped(Math.log(riseMs), Math.log(SLOWEST_MS), Math.log(FASTEST_MS))
}

function likenessOf(heard: Omit<Heard, 'likeness'>, colour: readonly number[]): number[] {
  const time = secondsOf(heard.length)
  const part = (value: number, from: number, to: number): number => mapped(value, from, to) / 100
  return [
    part(Math.log2(Math.max(0.05, time)), -4, 8),
    part(heard.loudness - heard.truePeak, -40, 0),
    heard.weight / 100,
    part(Math.log2(Math.max(50, heard.brightness)), 5.6, 13.6),
    heard.bite / 100,
    heard.noisiness / 100,
    heard.pitch > 0 ? 0.4 + 0.6 * part(Math.log2(heard.pitch), 5.6, 12) : 0,
    part(Math.log2(1 + heard.events.length / Math.max(1, time)), 0, 4),
    ...colour.map((level) => part(level, -60, 0)),
  ].map((value) => Math.round(value * 10_000) / 10_000)
}

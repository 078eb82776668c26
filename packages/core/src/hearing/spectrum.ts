import { SAMPLE_RATE } from '../time/units.js'
import FFT from 'fft.js'
import { hannWindow, WindowCutter } from './windows.js'

const SIZE = 2048
const HOP = 2048
const BIN_HZ = SAMPLE_RATE / SIZE
/** Of every so many windows one is searched for a pitch. */
const PITCH_EVERY = 5
const LOWEST_PITCH_HZ = 50
const HIGHEST_PITCH_HZ = 4000
const CLEAR = 0.72
const LOW_HZ = 200
const FLAT_FROM = Math.round(100 / BIN_HZ)
const FLAT_TO = Math.round(12_000 / BIN_HZ)
/** Borders of the eight bands of a sound's colour, in Hz. */
const BANDS = [0, 100, 220, 480, 1050, 2300, 5000, 10_000, 24_000] as const

/** What the spectrum of a sound says of it. */
export interface SpectralQualities {
  /** Share of the power below 200 Hz in dB, mapped from -40..0 to 0..100. */
  readonly weight: number
  /** Middle of the power on a logarithmic scale of frequency, Hz. */
  readonly brightness: number
  /** Spectral flatness between 100 Hz and 12 kHz in dB, mapped from -30..-2.5 (what white noise has) to 0..100. */
  readonly noisiness: number
  /** Hz; 0 where less than a third of the power has a clear pitch. */
  readonly pitch: number
  /** Power of eight bands in dB below the whole, -60 to 0. */
  readonly colour: readonly number[]
}

/** Follows the spectrum of mono sound at 48 kHz in windows of 43 ms, each weighing as much as it has power. */
export class SpectrumMeter {
  private readonly fft = new FFT(SIZE)
  private readonly wide = new FFT(2 * SIZE)
  private readonly window = hannWindow(SIZE)
  private readonly input = new Array<number>(SIZE).fill(0)
  private readonly powers = new Array<number>(2 * SIZE).fill(0)
  private readonly padded = new Array<number>(2 * SIZE).fill(0)
  private readonly spectrum = this.fft.createComplexArray()
  private readonly wideSpectrum = this.wide.createComplexArray()
  private readonly cutter = new WindowCutter(SIZE, HOP, () => this.look())
  private readonly held = this.cutter.held
  private windows = 0
  private readonly power = new Float64Array(SIZE / 2)
  private flatness = 0
  private flatPower = 0
  private readonly pitches: { pitch: number; power: number }[] = []
  private searched = 0

  /** Takes the next mono samples. */
  push(mono: Float32Array): void {
    this.cutter.push(mono)
  }

  /** The qualities; what is left over is heard with silence after it. */
  finish(): SpectralQualities {
    if (this.cutter.filled > 0) {
      this.held.fill(0, this.cutter.filled)
      this.look()
    }
    const total = this.power.reduce((sum, value) => sum + value, 0)
    if (total <= 0)
      return { weight: 0, brightness: 0, noisiness: 0, pitch: 0, colour: BANDS.slice(1).map(() => -60) }
    let low = 0
    let middle = 0
    for (let bin = 1; bin < this.power.length; bin++) {
      const value = this.power[bin] as number
      if (bin * BIN_HZ < LOW_HZ) low += value
      middle += value * Math.log(bin * BIN_HZ)
    }
    const flat = this.flatPower > 0 ? 10 * Math.log10(this.flatness / this.flatPower) : -30
    return {
      weight: mapped(10 * Math.log10(low / total), -40, 0),
      brightness: Math.exp(middle / (total - (this.power[0] as number) || total)),
      noisiness: mapped(flat, -30, -2.5),
      pitch: this.pitch(),
      colour: this.colour(total),
    }
  }

  private look(): void {
    for (let i = 0; i < SIZE; i++) this.input[i] = (this.held[i] as number) * (this.window[i] as number)
    this.fft.realTransform(this.spectrum, this.input)
    let total = 0
    let sum = 0
    let logs = 0
    let product = 1
    for (let bin = 0; bin < SIZE / 2; bin++) {
      const re = this.spectrum[2 * bin] as number
      const im = this.spectrum[2 * bin + 1] as number
      const value = re * re + im * im
      this.power[bin] = (this.power[bin] as number) + value
      total += value
      if (bin < FLAT_FROM || bin >= FLAT_TO) continue
      sum += value
      // Eight values in one logarithm: it is what takes the time here.
      product *= value + 1e-18
      if (bin % 8 === 0) {
        logs += Math.log(product)
        product = 1
      }
    }
    logs += Math.log(product)
    const count = FLAT_TO - FLAT_FROM
    if (sum > 0) {
      this.flatness += (Math.exp(logs / count) / (sum / count)) * sum
      this.flatPower += sum
    }
    if (this.windows++ % PITCH_EVERY === 0 && total > 1e-6) {
      this.searched += total
      const pitch = this.pitchNow()
      if (pitch > 0) this.pitches.push({ pitch, power: total })
    }
  }

  /** Pitch of the held window by normalised autocorrelation; 0 where none is clear. */
  private pitchNow(): number {
    for (let i = 0; i < SIZE; i++) this.padded[i] = this.held[i] as number
    this.wide.realTransform(this.wideSpectrum, this.padded)
    const { powers } = this
    for (let bin = 0; bin <= SIZE; bin++) {
      const re = this.wideSpectrum[2 * bin] ?? 0
      const im = this.wideSpectrum[2 * bin + 1] ?? 0
      powers[bin] = re * re + im * im
      if (bin > 0 && bin < SIZE) powers[2 * SIZE - bin] = powers[bin] as number
    }
    // The transform of an even, real spectrum is the autocorrelation (real parts).
    this.wide.realTransform(this.wideSpectrum, powers)
    const auto = (lag: number): number => (this.wideSpectrum[2 * lag] as number) / (2 * SIZE)
    let before = 0
    for (let i = 0; i < SIZE; i++) before += (this.held[i] as number) ** 2
    let after = before
    const clarity = new Float64Array(Math.ceil(SAMPLE_RATE / LOWEST_PITCH_HZ) + 2)
    for (let lag = 1; lag < clarity.length; lag++) {
      before -= (this.held[SIZE - lag] as number) ** 2
      after -= (this.held[lag - 1] as number) ** 2
      clarity[lag] = (2 * auto(lag)) / Math.max(1e-12, before + after)
    }
    let best = 0
    const first = Math.floor(SAMPLE_RATE / HIGHEST_PITCH_HZ)
    for (let lag = first; lag < clarity.length - 1; lag++) {
      const value = clarity[lag] as number
      if (value <= (clarity[lag - 1] as number) || value < (clarity[lag + 1] as number)) continue
      // The first peak that is nearly the best is the pitch; later ones are its multiples.
      if (value > Math.max(CLEAR, (clarity[best] as number) * 1.08)) best = lag
    }
    if (best === 0) return 0
    const [a, b, c] = [clarity[best - 1] as number, clarity[best] as number, clarity[best + 1] as number]
    return SAMPLE_RATE / (best + (0.5 * (a - c)) / (a - 2 * b + c || 1))
  }

  private pitch(): number {
    const clear = this.pitches.reduce((sum, { power }) => sum + power, 0)
    if (this.searched === 0 || clear < this.searched / 3) return 0
    const sorted = [...this.pitches].sort((a, b) => a.pitch - b.pitch)
    let sum = 0
    return sorted.find(({ power }) => (sum += power) >= clear / 2)?.pitch ?? 0
  }

  private colour(total: number): number[] {
    return BANDS.slice(1).map((to, index) => {
      let sum = 0
      for (
        let bin = Math.ceil((BANDS[index] as number) / BIN_HZ);
        bin < Math.min(this.power.length, to / BIN_HZ);
        bin++
      )
        sum += this.power[bin] as number
      return Math.max(-60, 10 * Math.log10(sum / total + 1e-9))
    })
  }
}

/** A value between two ends as 0 to 100, held there. */
export function mapped(value: number, from: number, to: number): number {
  return Math.max(0, Math.min(100, (100 * (value - from)) / (to - from)))
}

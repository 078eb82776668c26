import { SAMPLE_RATE } from '../time/units.js'
import FFT from 'fft.js'
import { hannWindow } from './windows.js'

const SIZE = 2048
const LOWEST_HZ = 40
const HIGHEST_HZ = 20_000
const QUIET_DB = -90

/**
 * The spectrum of mono sound at 48 kHz over time, for drawing.
 *
 * @param columns - Places in time, evenly spread.
 * @param rows - Bands from 40 Hz to 20 kHz, evenly spread in pitch, the lowest first.
 * @returns `columns` times `rows` levels, column by column: 0 for -90 dBFS and below, 1 for full scale.
 */
export function spectrumColumns(mono: Float32Array, columns: number, rows: number): Float32Array {
  const fft = new FFT(SIZE)
  const spectrum = fft.createComplexArray()
  const input = new Array<number>(SIZE).fill(0)
  const window = hannWindow(SIZE)
  const out = new Float32Array(columns * rows)
  const edge = (row: number): number =>
    (LOWEST_HZ * (HIGHEST_HZ / LOWEST_HZ) ** (row / rows) * SIZE) / SAMPLE_RATE
  for (let column = 0; column < columns; column++) {
    const middle = Math.round(((column + 0.5) / columns) * mono.length)
    for (let i = 0; i < SIZE; i++) input[i] = (mono[middle - SIZE / 2 + i] ?? 0) * (window[i] as number)
    fft.realTransform(spectrum, input)
    for (let row = 0; row < rows; row++) {
      let most = 0
      // Low bands are narrower than a bin: the nearest bin stands for them.
      for (
        let bin = Math.round(edge(row));
        bin <= Math.max(Math.round(edge(row)), Math.floor(edge(row + 1)));
        bin++
      ) {
        most = Math.max(most, Math.hypot(spectrum[2 * bin] as number, spectrum[2 * bin + 1] as number))
      }
      // A full-scale sine has a magnitude of a quarter of the size in a Hann window.
      out[column * rows + row] = Math.max(0, 1 - (20 * Math.log10(most / (SIZE / 4) + 1e-9)) / QUIET_DB)
    }
  }
  return out
}

declare module 'fft.js' {
  /** FFT of a power-of-two size; complex arrays interleave real and imaginary parts. */
  export default class FFT {
    constructor(size: number)
    createComplexArray(): number[]
    /** Transforms real input; fills the first half of `out`. */
    realTransform(out: number[], input: ArrayLike<number>): void
    /** Fills the second half of a real signal's spectrum from the first. */
    completeSpectrum(spectrum: number[]): void
    /** Back to time, complex, already divided by the size. */
    inverseTransform(out: number[], input: number[]): void
  }
}

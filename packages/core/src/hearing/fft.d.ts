declare module 'fft.js' {
  /** FFT of a power-of-two size; complex arrays interleave real and imaginary parts. */
  export default class FFT {
    constructor(size: number)
    createComplexArray(): number[]
    /** Transforms real input; fills the first half of `out`. */
    realTransform(out: number[], input: ArrayLike<number>): void
  }
}

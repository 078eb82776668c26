import { samplesIn, toInt24 } from '@yodel/core'

/** Samples of stems that may be ahead of the mix. */
const AHEAD = samplesIn(2)

/** Adds the stems up as they are in their files, and compares them with the mix, which comes last of each moment. */
export class StemSum {
  /** Highest difference, in steps of 24 bits. */
  most = 0
  private readonly sums = new Int32Array(2 * AHEAD)

  /** Takes a piece, interleaved and at most a second long, of a stem or of the whole. @param at - Sample of the reel at which it begins */
  take(isWhole: boolean, samples: Float32Array, at: number): void {
    const { sums } = this
    let place = 2 * (((at % AHEAD) + AHEAD) % AHEAD)
    for (let i = 0; i < samples.length; i++) {
      const value = toInt24(samples[i] as number)
      if (isWhole) {
        const off = Math.abs((sums[place] as number) - value)
        if (off > this.most) this.most = off
        sums[place] = 0
      } else sums[place] = (sums[place] as number) + value
      if (++place === sums.length) place = 0
    }
  }
}

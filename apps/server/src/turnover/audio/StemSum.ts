import { samplesIn, toInt24 } from '@yodel/core'

/** Samples of stems that may be ahead of the mix. */
const AHEAD = samplesIn(2)

/** Adds the stems up as they are in their files, and compares them with the mix, which comes last of each moment. */
export class StemSum {
  /** Highest difference, in steps of 24 bits. */
  most = 0
  private readonly left = new Int32Array(AHEAD)
  private readonly right = new Int32Array(AHEAD)

  /** Takes a piece, shorter than a second, of a stem or of the whole. @param at - Sample of the reel at which it begins */
  take(isWhole: boolean, left: Float32Array, right: Float32Array, at: number): void {
    this.side(isWhole, this.left, left, at)
    this.side(isWhole, this.right, right, at)
  }

  private side(isWhole: boolean, sum: Int32Array, samples: Float32Array, at: number): void {
    let place = ((at % AHEAD) + AHEAD) % AHEAD
    for (let i = 0; i < samples.length; i++) {
      const value = toInt24(samples[i] as number)
      if (isWhole) {
        const off = Math.abs((sum[place] as number) - value)
        if (off > this.most) this.most = off
        sum[place] = 0
      } else sum[place] = (sum[place] as number) + value
      if (++place === AHEAD) place = 0
    }
  }
}

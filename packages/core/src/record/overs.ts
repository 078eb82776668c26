/** So many samples at full scale in a row count as one over (common practice: three). */
const IN_A_ROW = 3

/** How loud an input is, block by block: the peak since it was last asked for, and overs since the beginning. */
export class InputLevel {
  private highest = 0
  private atFull = 0
  private count = 0

  /** Hears a block of one channel. Allocates nothing. */
  hear(block: Float32Array): void {
    for (let i = 0; i < block.length; i++) {
      const size = Math.abs(block[i] as number)
      if (size > this.highest) this.highest = size
      if (size < 1) this.atFull = 0
      else if (++this.atFull === IN_A_ROW) this.count++
    }
  }

  /** Overs since the beginning. */
  get overs(): number {
    return this.count
  }

  /** The peak since this was last asked, 1 at full scale. */
  peak(): number {
    const { highest } = this
    this.highest = 0
    return highest
  }

  /** From now on nothing has been over. */
  clear(): void {
    this.count = this.atFull = 0
  }
}

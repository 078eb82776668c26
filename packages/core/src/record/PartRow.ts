/** Where a part lies in its row, how long it is, and how much later the clock says that it came in. */
interface Told {
  readonly at: number
  readonly length: number
  readonly off: number
}

/**
 * Parts of a recording in a row. Its samples follow each other without a hole, so that what the clock says about single parts are
 * guesses about one and the same thing: where the row lies.
 */
export class PartRow {
  private readonly told: Told[] = []
  private first: number | null = null
  private length = 0

  /**
   * Adds a part.
   *
   * @param frame - The audio clock's of its first sample, as the clock says
   * @param length - Samples of each channel
   * @returns The frame that its first sample has in the row, the first part being right
   */
  add(frame: number, length: number): number {
    this.first ??= frame
    const at = this.length
    this.told.push({ at, length, off: frame - this.first - at })
    this.length += length
    return this.first + at
  }

  /**
   * Where a stretch `[from, to)` of the row lies, in its samples; where there is none of it, all of it.
   *
   * @returns By how much later than its first part said, in frames: the middle of what its parts say; and how far a part of it lies
   *   off that at most
   */
  lies(from = 0, to = Infinity): { later: number; apart: number } {
    const within = this.told.filter(({ at, length }) => at + length > from && at < to)
    const offs = (within.length > 0 ? within : this.told).map(({ off }) => off).sort((a, b) => a - b)
    const later = offs[offs.length >> 1] ?? 0
    return { later, apart: Math.max(0, later - (offs[0] ?? 0), (offs.at(-1) ?? 0) - later) }
  }
}

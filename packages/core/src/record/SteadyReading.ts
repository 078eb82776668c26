/** So many of the newest readings decide that there is another level. */
const NEWEST = 9

const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0

/**
 * What a jittering reading is about: the middle of the last ones. Where the newest agree on a level that lies further away than
 * readings jitter, those before are forgotten: it has jumped.
 */
export class SteadyReading {
  private readings: number[] = []
  private steady: number | null = null

  /**
   * @param count - How many readings count at most
   * @param jump - How far apart is another level, in the readings' unit
   */
  constructor(
    private readonly count: number,
    private readonly jump: number,
  ) {}

  /** Takes a reading. */
  add(reading: number): void {
    this.readings.push(reading)
    if (this.readings.length > this.count) this.readings.shift()
    this.steady = null
    if (this.readings.length < 2 * NEWEST) return
    const newest = this.readings.slice(-NEWEST)
    if (Math.abs(middle(newest) - this.value) <= this.jump) return
    this.readings = newest
    this.steady = null
  }

  /** The middle of the readings; 0 before the first. */
  get value(): number {
    return (this.steady ??= middle(this.readings))
  }
}

/** Fills `length` samples of two channels at `into` from a running source, at speed 1. */
export type PullSamples = (left: Float32Array, right: Float32Array, into: number, length: number) => void

const PIECE = 128
/** One sample before the reading point and two after it are needed by the cubic. */
const BEFORE = 1
const AFTER = 2

/**
 * Plays a running stereo source slower (0 < rate < 1), pitch following, for listening at half and quarter speed.
 * Cubic (Catmull-Rom) interpolation; at rate 1 the source passes through untouched.
 * The first sample out is the first sample pulled after {@link reset}.
 */
export class Varispeed {
  private readonly left = new Float32Array(BEFORE + AFTER + 2 * PIECE)
  private readonly right = new Float32Array(BEFORE + AFTER + 2 * PIECE)
  private filled = BEFORE
  private reading = BEFORE

  constructor(private readonly pull: PullSamples) {}

  /** Forgets what was pulled, for a jump. */
  reset(): void {
    this.left.fill(0)
    this.right.fill(0)
    this.filled = BEFORE
    this.reading = BEFORE
  }

  /** Samples that were pulled and have not been heard yet. */
  get ahead(): number {
    return Math.max(0, this.filled - this.reading)
  }

  /** Renders `length` samples at a speed. */
  render(left: Float32Array, right: Float32Array, length: number, rate: number): void {
    if (rate === 1) {
      this.pull(left, right, 0, length)
      return
    }
    for (let i = 0; i < length; i++) {
      const whole = Math.floor(this.reading)
      if (whole + AFTER >= this.filled) {
        this.refill(whole)
        i--
        continue
      }
      const t = this.reading - whole
      left[i] = cubic(this.left, whole, t)
      right[i] = cubic(this.right, whole, t)
      this.reading += rate
    }
  }

  private refill(whole: number): void {
    const drop = whole - BEFORE
    this.left.copyWithin(0, drop, this.filled)
    this.right.copyWithin(0, drop, this.filled)
    this.filled -= drop
    this.reading -= drop
    this.pull(this.left, this.right, this.filled, PIECE)
    this.filled += PIECE
  }
}

function cubic(x: Float32Array, at: number, t: number): number {
  const a = x[at - 1] as number
  const b = x[at] as number
  const c = x[at + 1] as number
  const d = x[at + 2] as number
  return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)))
}

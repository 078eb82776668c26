/** Size of the grey thumbnails that movement is measured on. */
export const MOVEMENT_SIZE = { width: 64, height: 36 } as const

/** How much the picture changes from frame to frame, and where it is cut. */
export interface PictureMovement {
  /** Mean change of a point from the frame before, 0 to 1, one for each frame; 0 for the first. */
  readonly movement: Float32Array
  /** Frames that are the first of a shot; the first of the picture is none. */
  readonly cuts: readonly number[]
}

const NEIGHBOURS = 6
const LEAST = 0.03
const TIMES = 4
/** A picture that is back after so many frames was lit by a flash, not cut. */
const FLASH = 3
const SAME_AGAIN = 0.4

/**
 * Measures movement on grey thumbnails of {@link MOVEMENT_SIZE}, one after the other.
 * A cut is a frame that changes by at least 0.03 on average and at least four times as much as the median of the six
 * frames before and after it, and more than its neighbours: steady movement, however strong, is no cut.
 * Neither is a flash, after which the picture is what it was before.
 */
export class MovementMeter {
  /** The last frames, the newest first. */
  private readonly before: Uint8Array[] = []
  private readonly changes: number[] = []
  /** For each frame its difference from the one 2, 3 and 4 frames before. */
  private readonly lags: number[][] = []

  /** Takes the next frame, one byte a point. */
  push(grey: Uint8Array): void {
    const differences = this.before.map((other) => difference(grey, other))
    this.changes.push(differences[0] ?? 0)
    this.lags.push(differences.slice(1))
    this.before.unshift(Uint8Array.from(grey))
    if (this.before.length > FLASH + 1) this.before.pop()
  }

  /** The curve and the cuts of all frames taken. */
  finish(): PictureMovement {
    const cuts: number[] = []
    for (let frame = 1; frame < this.changes.length; frame++) {
      const change = this.changes[frame] as number
      if (change < LEAST) continue
      const around: number[] = []
      for (
        let at = Math.max(1, frame - NEIGHBOURS);
        at <= Math.min(this.changes.length - 1, frame + NEIGHBOURS);
        at++
      ) {
        if (at !== frame) around.push(this.changes[at] as number)
      }
      around.sort((a, b) => a - b)
      const median = around[around.length >> 1] ?? 0
      if (change >= TIMES * median && change >= (around.at(-1) ?? 0) && !this.isFlash(frame, change))
        cuts.push(frame)
    }
    return { movement: Float32Array.from(this.changes), cuts }
  }

  /** Says whether the picture before this frame is there again soon after, or this frame is one from before. */
  private isFlash(frame: number, change: number): boolean {
    const again = (difference: number | undefined): boolean =>
      difference !== undefined && difference < SAME_AGAIN * change
    if ((this.lags[frame] ?? []).some(again)) return true
    return Array.from({ length: FLASH }, (_, after) => this.lags[frame + 1 + after]?.[after]).some(again)
  }
}

function difference(a: Uint8Array, b: Uint8Array): number {
  let sum = 0
  for (let at = 0; at < a.length; at++) sum += Math.abs((a[at] as number) - (b[at] as number))
  return sum / a.length / 255
}

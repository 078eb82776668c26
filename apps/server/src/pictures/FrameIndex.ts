import { open } from 'node:fs/promises'

const PIECE = 1 << 20
/** Access unit delimiter of an Annex B stream: where a frame begins (ITU-T H.264, 7.3.2.4; type 9). */
const DELIMITER = Buffer.from([0, 0, 0, 1])
const UNIT_DELIMITER = 9

/** Finds where each frame of a bare H.264 stream begins, also while the file still grows. */
export class FrameIndex {
  /** Byte at which each frame begins that has been found. */
  private readonly starts: number[] = []
  private read = 0
  private carry = Buffer.alloc(0)
  private looking: Promise<void> | null = null

  constructor(readonly file: string) {}

  /** Frames that are whole: the one found last may still be written. */
  get whole(): number {
    return Math.max(0, this.starts.length - 1)
  }

  /** Where all whole frames begin, and where the last of them ends; empty while there is none. */
  entries(): Float64Array {
    return this.whole === 0 ? new Float64Array(0) : Float64Array.from(this.starts)
  }

  /** Looks at what the file has grown by; one look at a time. */
  async scan(): Promise<void> {
    this.looking ??= this.look().finally(() => (this.looking = null))
    return this.looking
  }

  private async look(): Promise<void> {
    const handle = await open(this.file, 'r').catch(() => null)
    if (!handle) return
    try {
      for (;;) {
        const piece = Buffer.alloc(PIECE)
        const { bytesRead } = await handle.read(piece, 0, PIECE, this.read)
        if (bytesRead === 0) return
        this.take(piece.subarray(0, bytesRead))
      }
    } finally {
      await handle.close()
    }
  }

  /** Ends with the file: its last frame is whole, too. @returns all beginnings, and the file's size */
  async finish(): Promise<Float64Array> {
    // One that is under way may have begun before the last bytes came.
    await this.looking
    await this.scan()
    this.starts.push(this.read)
    return Float64Array.from(this.starts)
  }

  private take(piece: Buffer): void {
    const base = this.read - this.carry.length
    const bytes = Buffer.concat([this.carry, piece])
    for (let at = bytes.indexOf(DELIMITER); at >= 0; at = bytes.indexOf(DELIMITER, at + 4))
      if (at + 4 < bytes.length && ((bytes[at + 4] as number) & 31) === UNIT_DELIMITER)
        this.starts.push(base + at)
    this.carry = bytes.subarray(Math.max(0, bytes.length - 4))
    this.read += piece.length
  }
}

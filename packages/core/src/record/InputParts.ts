import { InputLevel } from './overs.js'

/** Which of an input's channels are recorded. */
export type InputChannel = 'left' | 'right' | 'both'

/** Part of a recording while a device stands open. */
export interface InputPart {
  /** The audio clock's frame of its first sample. */
  readonly frame: number
  /** Channels interleaved. */
  readonly samples: Float32Array<ArrayBuffer>
}

/** How loud an input is. */
export interface InputLevels {
  /** The peak of each channel since this was told last, 1 at full scale. */
  readonly peaks: readonly number[]
  /** Overs since recording began. */
  readonly overs: number
}

/** Samples of each channel that are handed on at once (a twentieth of a second): what is lost when a page dies at once. */
const PART = 2400
/** Samples between two words about the level. */
const LEVEL_EVERY = 2048

/** Gathers what an input gives: into parts of a twentieth of a second while it is recorded, and how loud it is always. */
export class InputParts {
  private readonly levels = [new InputLevel(), new InputLevel()]
  private channel: InputChannel | null = null
  private part = new Float32Array(0)
  private filled = 0
  private first = 0
  private heard = 0

  constructor(
    /** Takes each part when it is full; the part's samples are its own. */
    private readonly hand: (part: InputPart) => void,
    private readonly tell: (levels: InputLevels) => void,
  ) {}

  /** Begins to record; what was over before does not count any more. */
  begin(channel: InputChannel): void {
    this.channel = channel
    this.filled = 0
    for (const level of this.levels) level.clear()
  }

  /** Ends recording, and hands on what is there. */
  end(): void {
    if (this.filled > 0) this.give()
    this.channel = null
  }

  /**
   * Hears a block.
   *
   * @param frame - The audio clock's, of the block's first sample
   * @param right - Of the same length; null where the input has one channel: every channel is that one then
   */
  hear(frame: number, left: Float32Array, right: Float32Array | null): void {
    this.levels[0]?.hear(left)
    if (right) this.levels[1]?.hear(right)
    const second = right ?? left
    if (this.channel === 'both') this.take(frame, left, second)
    else if (this.channel !== null) this.take(frame, this.channel === 'left' ? left : second)
    this.heard += left.length
    if (this.heard < LEVEL_EVERY) return
    this.heard = 0
    const peaks = this.levels.slice(0, right ? 2 : 1).map((level) => level.peak())
    this.tell({ peaks, overs: Math.max(...this.levels.map(({ overs }) => overs)) })
  }

  private take(frame: number, ...channels: Float32Array[]): void {
    const length = channels[0]?.length ?? 0
    for (let i = 0; i < length; i++) {
      if (this.filled === 0) {
        this.part = new Float32Array(PART * channels.length)
        this.first = frame + i
      }
      for (const channel of channels) this.part[this.filled++] = channel[i] as number
      if (this.filled === this.part.length) this.give()
    }
  }

  private give(): void {
    const samples = this.part.slice(0, this.filled)
    this.filled = 0
    this.hand({ frame: this.first, samples })
  }
}

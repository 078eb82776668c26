import type { InputChannel, InputLevels, InputPart } from '@yodel/core'

/** Reads what an open input gives, at 48 kHz. */
export interface InputReader {
  /** Told what comes in while it records. */
  onPart: ((part: InputPart) => void) | null
  readonly levels: InputLevels
  /** Begins to record. */
  record(channel: InputChannel): void
  /** Ends recording; resolves when the last samples have been handed on. */
  stop(): Promise<void>
  /** Ends reading for good. */
  close(): void
}

/** A thread or a device that is gone never answers: after so long, what came until then counts. */
export const ANSWER_WITHIN_MS = 1000

import type { FadeShape } from '../../reel/records.js'

/** A placed sound as a list of somebody else's tells of it. Samples are at 48 kHz. */
export interface ReadClip {
  /** Number of its track, from 0. */
  readonly track: number
  readonly name: string
  /** Path or name of its file, as the list has it. */
  readonly file: string
  /** SHA-256, or empty. */
  readonly sha256: string
  /** From the beginning of the list's programme. */
  readonly start: number
  readonly length: number
  /** Sample of the file that is heard first. */
  readonly offset: number
  /** Decibels. */
  readonly gain: number
  readonly fadeIn: number
  readonly fadeOut: number
  readonly fadeInShape: FadeShape
  readonly fadeOutShape: FadeShape
  readonly speed: number
  readonly reverse: boolean
  readonly mute: boolean
}

/** A marker of a list: samples from the beginning of its programme. */
export interface ReadMarker {
  readonly at: number
  readonly length: number
  readonly words: string
}

/** What a list holds, and what of it could not be taken over, in sentences. */
export interface ReadList {
  readonly title: string
  readonly tracks: readonly string[]
  readonly clips: readonly ReadClip[]
  readonly markers: readonly ReadMarker[]
  /** Timecode of its beginning in seconds; null where it says nothing. */
  readonly begins: number | null
  readonly left: readonly string[]
}

/** What a clip is when a list says nothing else of it. */
export const PLAIN_CLIP: Omit<ReadClip, 'track' | 'name' | 'file' | 'start' | 'length' | 'offset'> = {
  ...{ sha256: '', gain: 0, fadeIn: 0, fadeOut: 0, fadeInShape: 'linear', fadeOutShape: 'linear' },
  ...{ speed: 1, reverse: false, mute: false },
}

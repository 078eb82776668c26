import { prepareSound, UNPREPARED } from '../../sounds/prepared.js'
import type { ReadClip } from './readList.js'

/** A recording that a list plays. */
export interface ListedSound {
  readonly id: string
  readonly name: string
  /** Samples at 48 kHz. */
  readonly length: number
  /** Its own sync point, in samples. */
  readonly sync: number
  /** How many it has. */
  readonly channels: number
  /** Samples at 48 kHz since midnight of its first; 0 where it says nothing. */
  readonly timeReference: number
}

/** What of a recording a sound of a list plays, counted in the recording as played; `cut` samples are missing at its head. */
export interface PlayedPart {
  readonly recorded: number
  readonly offset: number
  readonly length: number
  readonly sync: number
  readonly cut: number
}

/**
 * The part of a recording that a sound of a list plays, no more than there is of it.
 *
 * @returns Null when nothing of it lies in the recording.
 */
export function playedFrom(clip: ReadClip, sound: ListedSound): PlayedPart | null {
  const { speed, reverse } = clip
  const { recorded, sync } = prepareSound(sound, { ...UNPREPARED, speed, reverse })
  const low = Math.round(fileOffset(clip, sound) / speed)
  const first = reverse ? recorded - low - clip.length : low
  const offset = Math.max(0, first)
  const length = Math.min(recorded, first + clip.length) - offset
  if (length < 1) return null
  const told = clip.sync === null ? sync : Math.round(clip.sync / speed)
  return { recorded, offset, length, sync: Math.min(recorded, Math.max(0, told)), cut: offset - first }
}

/** The lowest sample of the file: counted from midnight where the list counts so and the file begins later than that. */
function fileOffset({ clock, offset }: ReadClip, { timeReference, length }: ListedSound): number {
  const since = offset - timeReference
  return clock && timeReference > 0 && since >= 0 && since < length ? since : offset
}

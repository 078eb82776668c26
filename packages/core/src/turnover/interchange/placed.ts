import { clipsByTrack, reelOf, tracksAsPrinted, type ReelDocument } from '../../reel/document.js'
import type { Clip, Track } from '../../reel/records.js'

/** What a list that goes out says of the file of a recording. */
export interface SourceFile {
  /** Path in the package, or the file's name where it is not in one. */
  readonly path: string
  /** Samples at 48 kHz since midnight of the file's first sample; 0 where it says nothing. */
  readonly timeReference: number
  /** Sample of the recording with which the file begins; 0 for a whole file. */
  readonly from: number
  /** Length of the file in samples at 48 kHz. */
  readonly length: number
  /** SHA-256, or empty where it is not known. */
  readonly sha256: string
}

/** Finds the file that a clip plays. */
export type FileOf = (clip: Clip) => SourceFile

/** The tracks with sounds on them as they are printed, and what stands on each by time. */
export function placedTracks(
  doc: ReelDocument,
): { readonly track: Track; readonly clips: readonly Clip[] }[] {
  const byTrack = clipsByTrack(doc)
  return tracksAsPrinted(doc).flatMap((track) => {
    const clips = byTrack.get(track.id) ?? []
    return clips.length > 0 ? [{ track, clips }] : []
  })
}

/** First sample of the file that a clip plays. Played at another speed, lengths count what is heard; the file's samples are told here. */
export const sourceStart = (clip: Clip, file: SourceFile): number =>
  Math.round((clip.reverse ? clip.recorded - clip.offset - clip.length : clip.offset) * clip.speed) -
  file.from

/** Title of a list: show and reel. */
export const listTitle = (doc: ReelDocument): string => {
  const { show, name } = reelOf(doc)
  return `${show} ${name}`
}

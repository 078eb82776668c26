import {
  clipsByTrack,
  cuesInOrder,
  rateOf,
  reelOf,
  tracksAsPrinted,
  type ReelDocument,
} from '../../reel/document.js'
import type { Clip, Track } from '../../reel/records.js'
import { decibelText } from '../../signal/levels.js'
import { nearestFrame } from '../../time/convert.js'
import type { FrameRate } from '../../time/rates.js'
import { formatTimecode } from '../../time/timecode.js'
import type { Measure } from './drawn.js'
import { TYPE, wrap, type Line } from './setText.js'

/** Something that has a place in time and needs room for its words: a sound in its track's column, or a cue in the first. */
export interface SheetBox {
  readonly id: string
  /** 0 is the column of cues, 1 the first track's. */
  readonly column: number
  /** Frames of the reel, `[from, to)`; at least one. */
  readonly from: number
  readonly to: number
  /** Frame below which its words stand: its own first, or the end of a sound before that it is crossfaded with. */
  readonly wordsFrom: number
  /** Frames of its fades. */
  readonly fadeIn: number
  readonly fadeOut: number
  /** Its words: when it starts, what it is. */
  readonly lines: readonly Line[]
  /** When it ends; null for a cue. */
  readonly end: Line | null
}

/** Lines of a sound's name, and of a cue's words, at the most. */
const MOST_LINES = { name: 4, cue: 4 } as const
/** Frames of a cue's mark: it stands where it begins, however long it is. */
const CUE_FRAMES = 1

/** The boxes of a group of tracks, and of the cues that its sounds belong to, by time. @param widths - Of the words in the cues' column and in a track's, points */
export function sheetBoxes(
  doc: ReelDocument,
  tracks: readonly Track[],
  widths: { readonly cue: number; readonly sound: number },
  measure: Measure,
): SheetBox[] {
  const rate = rateOf(doc)
  const { firstFrame } = reelOf(doc)
  const byTrack = clipsByTrack(doc)
  const timecode = (frame: number): string => shortTimecode(firstFrame + frame, rate)
  const figures = (text: string): Line => ({ text, face: 'figures', size: TYPE.figures })
  const heard = new Set(tracks.flatMap((track) => (byTrack.get(track.id) ?? []).map((clip) => clip.cueId)))
  let after = 0
  const cues = cuesInOrder(doc)
    .filter((cue) => heard.has(cue.id))
    .map((cue): SheetBox => {
      // Those that begin at once stand below each other.
      const from = Math.max(cue.in, after)
      after = from + CUE_FRAMES
      const code = `${cue.category} ${String(cue.number).padStart(3, '0')}`
      const set = { face: 'plain', size: TYPE.name, width: widths.cue, most: MOST_LINES.cue } as const
      return {
        ...{ id: cue.id, column: 0, from, to: after, wordsFrom: from },
        ...{ fadeIn: 0, fadeOut: 0, end: null },
        lines: [figures(`${timecode(cue.in)} ${code}`), ...wrap(cue.words, set, measure)],
      }
    })
  const sounds = tracks.flatMap((track, index) => {
    let before = 0
    return (byTrack.get(track.id) ?? [])
      .filter((clip) => !clip.mute)
      .map((clip): SheetBox => {
        const from = nearestFrame(clip.start, rate)
        const to = Math.max(from + 1, nearestFrame(clip.start + clip.length, rate))
        const wordsFrom = Math.max(from, Math.min(before, to - 1))
        before = to
        return {
          id: clip.id,
          column: index + 1,
          from,
          to,
          wordsFrom,
          fadeIn: clip.fadeIn > 0 ? Math.max(1, nearestFrame(clip.fadeIn, rate)) : 0,
          fadeOut: clip.fadeOut > 0 ? Math.max(1, nearestFrame(clip.fadeOut, rate)) : 0,
          lines: [figures(timecode(from)), ...soundLines(clip, widths.sound, measure)],
          end: figures(timecode(to)),
        }
      })
  })
  return [...cues, ...sounds].sort((a, b) => a.from - b.from || a.column - b.column)
}

/** Name of a sound, and whatever a mixer has to know of it. */
function soundLines(clip: Clip, width: number, measure: Measure): Line[] {
  const marks = [
    ...(clip.gain === 0 ? [] : [decibelText(clip.gain)]),
    ...(clip.speed === 1 ? [] : [`× ${clip.speed}`]),
    ...(clip.reverse ? ['backwards'] : []),
    ...(clip.runUp > 0 ? ['runs up'] : []),
    ...(clip.runDown > 0 ? ['runs down'] : []),
    ...(clip.passSpeed === 0 ? [] : ['goes past']),
  ]
  return [
    ...wrap(clip.name, { face: 'plain', size: TYPE.name, width, most: MOST_LINES.name }, measure),
    ...(marks.length === 0
      ? []
      : wrap(marks.join(', '), { face: 'plain', size: TYPE.small, width, most: 1 }, measure)),
  ]
}

/** Timecode without its hour, which stands in the head of the page. */
export const shortTimecode = (frame: number, rate: FrameRate): string => formatTimecode(frame, rate).slice(3)

/** The tracks that sound, as they are printed, in groups of so many. */
export function trackGroups(doc: ReelDocument, most: number): Track[][] {
  const byTrack = clipsByTrack(doc)
  const sounding = tracksAsPrinted(doc).filter((track) => byTrack.get(track.id)?.some((clip) => !clip.mute))
  return Array.from({ length: Math.ceil(sounding.length / most) }, (_, index) =>
    sounding.slice(index * most, (index + 1) * most),
  )
}

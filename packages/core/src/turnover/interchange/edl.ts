import { rateOf, reelOf, type ReelDocument } from '../../reel/document.js'
import type { Clip, Track } from '../../reel/records.js'
import { frameToSample, nearestFrame } from '../../time/convert.js'
import { formatTimecode } from '../../time/timecode.js'
import { frames } from '../../time/units.js'
import { listTitle, placedTracks, sourceStart, type FileOf } from './placed.js'

/** Events that a list can hold: their numbers have three digits (CMX 3600). */
export const MOST_EVENTS = 999

/** An EDL of one track, or of a part of one that has too many sounds. */
export interface EdlFile {
  readonly track: Track
  /** Number of the part, from 1, and how many there are. */
  readonly part: number
  readonly parts: number
  readonly text: string
}

/** Writes an EDL for each track with sounds, in the CMX 3600 layout; a track of more than 999 sounds has several. Muted clips are left out. */
export function edlFiles(doc: ReelDocument, fileOf: FileOf): EdlFile[] {
  return placedTracks(doc).flatMap(({ track, clips }) => {
    const heard = clips.filter((clip) => !clip.mute)
    const parts = Math.ceil(heard.length / MOST_EVENTS)
    return Array.from({ length: parts }, (_, index): EdlFile => {
      const some = heard.slice(index * MOST_EVENTS, (index + 1) * MOST_EVENTS)
      const lines = [...head(doc, ` ${track.name}`), ...trackLines(doc, some, fileOf, 0)]
      return { track, part: index + 1, parts, text: asText(lines) }
    })
  })
}

/** Writes all placed sounds as one EDL, track after track, with a comment before each track; it may have more events than other readers take. */
export function clipsEdl(doc: ReelDocument, fileOf: FileOf): string {
  const lines = head(doc, '')
  let before = 0
  for (const [index, { track, clips }] of placedTracks(doc).entries()) {
    const heard = clips.filter((clip) => !clip.mute)
    if (heard.length === 0) continue
    lines.push('', `* TRACK ${index + 1}: ${track.category} ${oneLine(track.name)}`)
    lines.push(...trackLines(doc, heard, fileOf, before))
    before += heard.length
  }
  return asText(lines)
}

function head(doc: ReelDocument, more: string): string[] {
  return [
    `TITLE: ${oneLine(listTitle(doc) + more)
      .toUpperCase()
      .slice(0, 70)}`,
    `FCM: ${rateOf(doc).dropped > 0 ? 'DROP FRAME' : 'NON-DROP FRAME'}`,
  ]
}

/**
 * The events of some sounds. Source times count frames of the reel's rate: from midnight where a file says when it begins,
 * from its head where it doesn't. Edges go to the nearest frame; the samples stand in a comment under each event.
 */
function trackLines(doc: ReelDocument, clips: readonly Clip[], fileOf: FileOf, before: number): string[] {
  const rate = rateOf(doc)
  const { firstFrame } = reelOf(doc)
  return clips.flatMap((clip, index) => {
    const file = fileOf(clip)
    const recordIn = nearestFrame(clip.start, rate)
    const recordOut = Math.max(recordIn + 1, nearestFrame(clip.start + clip.length, rate))
    const sourceIn = nearestFrame(file.timeReference + sourceStart(clip, file), rate)
    const sourceOut = sourceIn + Math.max(1, Math.round((recordOut - recordIn) * clip.speed))
    const times = [sourceIn, sourceOut, firstFrame + recordIn, firstFrame + recordOut]
    const [number] = [String(before + index + 1).padStart(3, '0')]
    const timecodes = times.map((frame) => formatTimecode(frame, rate))
    // CMX 3600, M2: frames a second of the source that pass, and where in it that begins.
    const fps = ((rate.num / rate.den) * clip.speed * (clip.reverse ? -1 : 1)).toFixed(1).padStart(5, '0')
    const moved = clip.speed !== 1 || clip.reverse
    return [
      `${number}  AX       AA    C        ${timecodes.join(' ')}`,
      ...(moved ? [`M2   AX       ${fps}                ${timecodes[0] as string}`] : []),
      `* FROM CLIP NAME: ${oneLine(file.path)}`,
      samplesComment(clip, clip.start - frameToSample(frames(recordIn), rate), sourceStart(clip, file)),
      ...(clip.fadeIn > 0 || clip.fadeOut > 0
        ? [
            `* FADES: IN ${clip.fadeIn} ${clip.fadeInShape} OUT ${clip.fadeOut} ${clip.fadeOutShape}`.toUpperCase(),
          ]
        : []),
    ]
  })
}

/** The comment that holds what frames can't: samples from the event's record in, of its length and in the file. */
const samplesComment = (clip: Clip, into: number, offset: number): string =>
  `* SAMPLES: IN ${into} LENGTH ${clip.length} OFFSET ${offset} SPEED ${clip.speed} GAIN ${clip.gain.toFixed(2)} DB`

const asText = (lines: readonly string[]): string => `${lines.join('\r\n')}\r\n`
const oneLine = (text: string): string => text.replace(/\s+/g, ' ')

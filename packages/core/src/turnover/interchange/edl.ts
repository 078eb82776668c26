import { audibleTracks } from '../../audio/plan.js'
import { CATEGORIES, type Category } from '../../reel/categories.js'
import { rateOf, reelOf, type ReelDocument } from '../../reel/document.js'
import type { Clip, Track } from '../../reel/records.js'
import { frameToSample, nearestFrame } from '../../time/convert.js'
import { formatTimecode } from '../../time/timecode.js'
import { frames } from '../../time/units.js'
import { playedWords } from '../playedWords.js'
import { listTitle, placedTracks, sourceStart, type FileOf } from './placed.js'

/** Events that a list can hold: their numbers have three digits (CMX 3600). */
export const MOST_EVENTS = 999

/** An EDL of one track or one category, or of a part of it where that has too many sounds. */
export interface EdlFile {
  readonly category: Category
  /** Null where it holds all tracks of the category. */
  readonly track: Track | null
  /** Number of the part, from 1, and how many there are. */
  readonly part: number
  readonly parts: number
  readonly text: string
}

/** A track, and what is heard of it. */
interface Heard {
  readonly track: Track
  readonly clips: readonly Clip[]
}

/**
 * Writes EDLs in the CMX 3600 layout: one for each category of more than one track, track after track, and one for each
 * track; of more than 999 sounds there are several. Only what a mix would let hear is in them: nothing that is muted, or
 * not soloed while others are.
 */
export function edlFiles(doc: ReelDocument, fileOf: FileOf): EdlFile[] {
  return listedTogether(doc).flatMap(({ tracks, track }) => filesOf(doc, tracks, fileOf, track))
}

/** How many files {@link edlFiles} makes of a reel. */
export const edlCount = (doc: ReelDocument): number =>
  listedTogether(doc).reduce((sum, { tracks }) => {
    const events = tracks.reduce((all, { clips }) => all + clips.length, 0)
    return sum + Math.ceil(events / MOST_EVENTS)
  }, 0)

/** What stands in a list together: the tracks of a category where those are several, then each track. */
function listedTogether(doc: ReelDocument): { tracks: readonly Heard[]; track: Track | null }[] {
  const heard = heardTracks(doc)
  const byCategory = CATEGORIES.map((category) => heard.filter(({ track }) => track.category === category))
  return [
    ...byCategory.filter((own) => own.length > 1).map((tracks) => ({ tracks, track: null })),
    ...heard.map((one) => ({ tracks: [one], track: one.track })),
  ]
}

/** Writes all sounds that are heard as one EDL, track after track, with a comment before each track; it may have more events than other readers take. */
export function clipsEdl(doc: ReelDocument, fileOf: FileOf): string {
  return asText([...head(doc, ''), ...eventsOf(doc, heardTracks(doc), fileOf)])
}

function heardTracks(doc: ReelDocument): Heard[] {
  const audible = new Set(audibleTracks(doc).map(({ id }) => id))
  return placedTracks(doc).flatMap(({ track, clips }) => {
    const heard = audible.has(track.id) ? clips.filter((clip) => !clip.mute) : []
    return heard.length > 0 ? [{ track, clips: heard }] : []
  })
}

/** The tracks, none of which is empty, as one list or as several of {@link MOST_EVENTS}. */
function filesOf(
  doc: ReelDocument,
  tracks: readonly Heard[],
  fileOf: FileOf,
  track: Track | null,
): EdlFile[] {
  const { category } = (tracks[0] as Heard).track
  const lists: Heard[][] = [[]]
  let room = MOST_EVENTS
  for (const one of tracks)
    for (let from = 0; from < one.clips.length;) {
      if (room === 0) {
        lists.push([])
        room = MOST_EVENTS
      }
      const clips = one.clips.slice(from, from + room)
      lists.at(-1)?.push({ track: one.track, clips })
      from += clips.length
      room -= clips.length
    }
  return lists.map((some, index) => {
    const events = track ? trackLines(doc, some[0]?.clips ?? [], fileOf, 0) : eventsOf(doc, some, fileOf)
    const lines = [...head(doc, ` ${track?.name ?? category}`), ...events]
    return { category, track, part: index + 1, parts: lists.length, text: asText(lines) }
  })
}

/** Events of several tracks, each under a comment that names it. */
function eventsOf(doc: ReelDocument, tracks: readonly Heard[], fileOf: FileOf): string[] {
  let before = 0
  return tracks.flatMap(({ track, clips }, index) => {
    const lines = trackLines(doc, clips, fileOf, before)
    before += clips.length
    return ['', `* TRACK ${index + 1}: ${track.category} ${oneLine(track.name)}`, ...lines]
  })
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
    const number = String(before + index + 1).padStart(3, '0')
    const timecodes = times.map((frame) => formatTimecode(frame, rate))
    // CMX 3600, M2: frames a second of the source that pass, and where in it that begins.
    const fps = ((rate.num / rate.den) * clip.speed * (clip.reverse ? -1 : 1)).toFixed(1).padStart(5, '0')
    const words = playedWords(clip)
    const moved = clip.speed !== 1 || clip.reverse
    return [
      `${number}  AX       AA    C        ${timecodes.join(' ')}`,
      ...(moved ? [`M2   AX       ${fps}                ${timecodes[0] as string}`] : []),
      `* FROM CLIP NAME: ${oneLine(file.path)}`,
      ...(words.length > 0 ? [`* PLAYED: ${words.join(', ').toUpperCase()}`] : []),
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

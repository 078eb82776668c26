import { generateNKeysBetween } from 'fractional-indexing'
import { ok, refuse, type Result } from '../errors.js'
import type { Category } from '../reel/categories.js'
import { chain, type Change } from '../reel/change.js'
import { rateOf, tracksInOrder, type ReelDocument } from '../reel/document.js'
import { mayMeet } from '../reel/invariants.js'
import { SPEEDS, type Clip, type Track } from '../reel/records.js'
import { hasChannels } from '../sounds/channels.js'
import { marked } from '../reel/withTimes.js'
import { nearestFrame } from '../time/convert.js'
import { mediaKey } from '../turnover/listIn/matchMedia.js'
import { playedFrom, type ListedSound } from '../turnover/listIn/playedFrom.js'
import type { ReadClip, ReadList, ReadMarker } from '../turnover/listIn/readList.js'
import { addNote } from './editNotes.js'
import { spotCue } from './spotCue.js'

/** How a list is laid. */
export interface LayListArgs {
  readonly list: ReadList
  /** Recordings by {@link mediaKey}; sounds without one are left out. */
  readonly sounds: ReadonlyMap<string, ListedSound>
  /** Categories of the tracks that are taken, by their number in the list. */
  readonly tracks: ReadonlyMap<number, Category>
  /** Sample of the reel at which the list begins. */
  readonly shift: number
  readonly markers: 'cues' | 'notes' | 'none'
  /** What the list is called; its tracks stand in a folder of that name. */
  readonly from: string
  /** Who lays it, and when (ISO 8601). */
  readonly author: string
  readonly at: string
  readonly newId: () => string
}

/** A list as it would be laid, and what would be left out or cut, in sentences. */
export interface LaidList {
  readonly tracks: readonly Track[]
  readonly clips: readonly Clip[]
  readonly markers: readonly ReadMarker[]
  readonly told: readonly string[]
}

const LONGEST_NAME = 200

/**
 * Works out how a list is laid: a new set of tracks behind all others, in the list's order; sounds of one track that
 * meet as sounds of one track can't go to another one beside it. Nothing that is there is touched.
 */
export function planList(doc: ReelDocument, args: LayListArgs): LaidList {
  const planner = new ListPlanner(args)
  const lanes = args.list.tracks.flatMap((_, index) => {
    const category = args.tracks.get(index)
    return category === undefined
      ? []
      : planner.lanesOf(index).map((clips, lane) => ({ index, category, clips, lane }))
  })
  const last = tracksInOrder(doc).at(-1)?.order ?? null
  const orders = generateNKeysBetween(last, null, lanes.length)
  const folder = args.from.slice(0, LONGEST_NAME)
  const tracks: Track[] = []
  const clips: Clip[] = []
  for (const [at, lane] of lanes.entries()) {
    const { level, pan, mute, name } = args.list.tracks[lane.index] as ReadList['tracks'][number]
    const id = args.newId()
    tracks.push({
      ...{ kind: 'track', id, category: lane.category, order: orders[at] as string, folder, mute },
      name: `${name.slice(0, LONGEST_NAME) || `Track ${lane.index + 1}`}${lane.lane > 0 ? ` (${lane.lane + 1})` : ''}`,
      ...{ level: inDecibels(level), pan: Math.max(-1, Math.min(1, pan)), solo: false },
      ...{ ink: 'category', width: 'stereo', column: 0 },
    })
    clips.push(...lane.clips.map((clip) => ({ ...clip, trackId: id })))
  }
  return { tracks, clips, ...planner.markersOf(doc), told: planner.told() }
}

/** Lays a list as {@link planList} works it out, in one step. */
export function layList(doc: ReelDocument, args: LayListArgs): Result<Change> {
  const { tracks, clips, markers } = planList(doc, args)
  if (tracks.length + markers.length === 0) return refuse('CORE_NOTHING_TO_LAY', args.from)
  const rate = rateOf(doc)
  const mark = ({ at, length, words }: ReadMarker) => {
    const frame = nearestFrame(at, rate)
    const end = Math.max(frame + 1, nearestFrame(at + length, rate))
    return (now: ReelDocument): Result<Change> =>
      args.markers === 'cues'
        ? spotCue(now, { id: args.newId(), category: 'FX', in: frame, out: end, words })
        : addNote(now, {
            id: args.newId(),
            cueId: null,
            frame,
            words: words || 'Marker',
            author: args.author,
            at: args.at,
          })
  }
  const label =
    clips.length > 0 ? `Lay ${clips.length} sounds of ${args.from}` : `Take the markers of ${args.from}`
  return chain(doc, label, [
    () => ok({ label, added: [...tracks, ...clips], updated: [], removed: [] }),
    ...markers.map(mark),
  ])
}

const inDecibels = (level: number): number => Math.max(-96, Math.min(24, level))

/** Says whether a clip may stand behind those of a row, which are by time and end one after the other. */
function hasRoom(lane: readonly Clip[], clip: Clip): boolean {
  for (let at = lane.length - 1; at >= 0; at--) {
    const other = lane[at] as Clip
    if (other.start + other.length <= clip.start) return true
    if (!mayMeet(other, clip)) return false
  }
  return true
}

/** Lays out a list, and counts what it leaves out. */
class ListPlanner {
  private readonly counts = new Map<string, number>()

  constructor(private readonly args: LayListArgs) {}

  /** The sounds of a track in as many rows as they need to meet as they may. */
  lanesOf(track: number): Clip[][] {
    const lanes: Clip[][] = []
    const placed = this.args.list.clips
      .filter((clip) => clip.track === track)
      .flatMap((clip) => this.place(clip) ?? [])
      .toSorted((a, b) => a.start - b.start)
    for (const clip of placed) {
      const free = lanes.find((lane) => hasRoom(lane, clip))
      if (free) free.push(clip)
      else lanes.push([clip])
    }
    return lanes
  }

  /** The markers in the reel that are not there as cues or notes already. */
  markersOf(doc: ReelDocument): { markers: ReadMarker[] } {
    const { markers, shift, list } = this.args
    if (markers === 'none') return { markers: [] }
    const rate = rateOf(doc)
    const there = new Set(
      markers === 'cues'
        ? [...doc.cue.values()].map((cue) => `${cue.in} ${cue.words}`)
        : [...doc.note.values()].map((note) => `${note.frame} ${note.words}`),
    )
    return {
      markers: list.markers.flatMap((marker) => {
        const moved = { ...marker, at: marker.at + shift }
        if (moved.at < 0) return this.leave('marker', 'before the reel’s first frame')
        if (there.has(`${nearestFrame(moved.at, rate)} ${marker.words}`))
          return this.leave('marker', 'there already')
        return [moved]
      }),
    }
  }

  /** What was left out or cut, in sentences. */
  told(): string[] {
    return [...this.counts].map(
      ([what, count]) => `${count} ${count === 1 ? what : what.replace(/ /, 's ')}.`,
    )
  }

  private leave(what: 'sound' | 'marker', why: string): never[] {
    this.count(`${what} ${why}: left out`)
    return []
  }

  private count(what: string): void {
    this.counts.set(what, (this.counts.get(what) ?? 0) + 1)
  }

  private place(read: ReadClip): Clip | null {
    const sound = this.args.sounds.get(mediaKey(read))
    const leave = (why: string): null => (this.leave('sound', why), null)
    if (!sound) return leave('without a recording')
    if (read.speed < SPEEDS.slowest || read.speed > SPEEDS.fastest)
      return leave('faster or slower than can be played')
    const part = playedFrom(read, sound)
    if (!part) return leave('outside its recording')
    const start = read.start + part.cut + this.args.shift
    const before = Math.max(0, -start)
    const length = part.length - before
    if (length < 1) return leave('before the reel’s first frame')
    if (length < read.length) this.count('sound cut where a recording ends or the reel begins')
    const isThere = hasChannels(sound.channels, read.channels)
    if (!isThere) this.count('sound whose recording has fewer channels, heard whole')
    const fade = (samples: number): number => Math.max(0, Math.min(length, samples))
    return {
      ...{ kind: 'clip', id: this.args.newId(), trackId: '', cueId: null, soundId: sound.id },
      name: read.name.slice(0, LONGEST_NAME) || sound.name,
      ...marked({
        ...{ start: start + before, length, offset: part.offset + before, sync: part.sync },
        ...{ recorded: part.recorded, fadeIn: fade(read.fadeIn), fadeOut: fade(read.fadeOut) },
      }),
      ...{ gain: inDecibels(read.gain), fadeInShape: read.fadeInShape, fadeOutShape: read.fadeOutShape },
      ...{ speed: read.speed, keepPitch: read.keepPitch, reverse: read.reverse, sides: read.sides },
      ...{
        channels: isThere ? read.channels : '',
        mute: read.mute,
        scratch: read.scratch,
        treatment: read.treatment,
        group: '',
        locked: false,
      },
      ...{ runUp: read.runUp, runDown: read.runDown },
      ...{ passSpeed: read.passSpeed, passDistance: read.passDistance },
    }
  }
}

import { generateKeyBetween } from 'fractional-indexing'
import { ok, refuse, type Result } from '../errors.js'
import { squash, type Change } from '../reel/change.js'
import { rateOf, tracksInOrder, type ReelDocument } from '../reel/document.js'
import { checkClip, findCollision } from '../reel/invariants.js'
import { STILL, type Clip, type Track } from '../reel/records.js'
import { marked } from '../reel/withTimes.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import { CATEGORIES, CATEGORY_NAMES, type Category } from '../reel/categories.js'
import { frameToSample } from '../time/convert.js'
import { frames } from '../time/units.js'

/** Fade in of a freshly placed sound: long enough to hide a cut, short enough to stay before an attack (2 ms). */
export const DEFAULT_FADE_IN = 96
/** Fade out of a freshly placed sound (10 ms). */
export const DEFAULT_FADE_OUT = 480

/**
 * The clip that has a sound's sync point meet a frame.
 * What would begin before the reel's first frame is cut off at the head. The fade in never reaches past the sync point.
 */
export function clipAtFrame(
  doc: ReelDocument,
  args: { id: string; trackId: string; cueId: string | null; frame: number; sound: SoundToPlace },
): Clip {
  return clipAtSample({ ...args, at: frameToSample(frames(args.frame), rateOf(doc)) })
}

/** The clip that has a sound's sync point meet a sample of the reel; see {@link clipAtFrame}. */
export function clipAtSample(args: {
  id: string
  trackId: string
  cueId: string | null
  at: number
  sound: SoundToPlace
}): Clip {
  const { sound, at: meet } = args
  const wantedFrom = sound.from ?? 0
  const to = sound.to ?? sound.recorded
  const early = Math.max(0, sound.sync - wantedFrom - meet)
  const offset = wantedFrom + early
  const length = to - offset
  const times = {
    start: meet - sound.sync + offset,
    length,
    offset,
    sync: sound.sync,
    recorded: sound.recorded,
    fadeIn: Math.min(length, sound.fadeIn ?? Math.max(0, Math.min(DEFAULT_FADE_IN, sound.sync - offset))),
    fadeOut: Math.min(length, sound.fadeOut ?? DEFAULT_FADE_OUT),
  }
  return {
    kind: 'clip',
    id: args.id,
    trackId: args.trackId,
    cueId: args.cueId,
    soundId: sound.id,
    name: sound.name,
    ...marked(times),
    gain: sound.gain ?? 0,
    fadeInShape: 'linear',
    fadeOutShape: 'linear',
    mute: false,
    speed: sound.speed ?? 1,
    keepPitch: sound.keepPitch ?? false,
    reverse: sound.reverse ?? false,
    sides: sound.sides ?? 'kept',
    channels: sound.channels ?? '',
    ...STILL,
    scratch: sound.scratch ?? '',
    treatment: sound.treatment ?? '',
    group: '',
    locked: false,
  }
}

/** The first track of a category, from the left, on which the clip would sound over nothing; null if there is none. */
export function freeTrack(doc: ReelDocument, category: Category, clip: Clip): Track | null {
  return (
    tracksInOrder(doc).find(
      (track) => track.category === category && !findCollision(doc, { ...clip, trackId: track.id }),
    ) ?? null
  )
}

/** Adds a track after the last of its category, named by what it is for ("Hard effects 3"). */
export function addTrack(
  doc: ReelDocument,
  args: { id: string; category: Category; name?: string },
): Result<Change> {
  const all = tracksInOrder(doc)
  const rank = CATEGORIES.indexOf(args.category)
  const next = all.findIndex((track) => CATEGORIES.indexOf(track.category) > rank)
  const at = next < 0 ? all.length : next
  const siblings = all.filter((track) => track.category === args.category).length
  const track: Track = {
    kind: 'track',
    id: args.id,
    name: args.name ?? `${CATEGORY_NAMES[args.category]} ${siblings + 1}`,
    category: args.category,
    order: generateKeyBetween(all[at - 1]?.order ?? null, all[at]?.order ?? null),
    level: 0,
    pan: 0,
    mute: false,
    solo: false,
    ink: 'category',
    width: 'stereo',
    folder: '',
    column: 0,
  }
  return ok({ label: `Add track ${track.name}`, added: [track], updated: [], removed: [] })
}

/**
 * Places a sound with its sync point on a frame: on the track asked for, else on the first free one of the category,
 * else on a new one. It never sounds over another sound.
 *
 * @param args.frame - Frame from the reel's first frame.
 * @param args.newTrackId - Id for the track, should one have to be made.
 */
export function placeSound(
  doc: ReelDocument,
  args: {
    id: string
    newTrackId: string
    category: Category
    trackId?: string
    cueId: string | null
    frame: number
    sound: SoundToPlace
  },
): Result<Change> {
  const loose = clipAtFrame(doc, { ...args, trackId: args.trackId ?? '' })
  const alone = checkClip(loose)
  if (alone) return alone
  const label = `Keep ${args.sound.name}`
  if (args.trackId !== undefined) {
    const track = doc.track.get(args.trackId)
    if (!track) return refuse('CORE_NO_TRACK', label, args.trackId)
    const other = findCollision(doc, loose)
    if (other)
      return refuse(
        'CORE_OVERLAP',
        `${args.sound.name} on ${track.name}`,
        `it would sound over ${other.name}`,
      )
    return ok({ label, added: [loose], updated: [], removed: [] })
  }
  return layClip(doc, loose, { ...args, label })
}

/**
 * Lays a clip on the first free track of a category, or on a new one.
 *
 * @param args.newTrackId - Id for the track, should one have to be made.
 */
export function layClip(
  doc: ReelDocument,
  clip: Clip,
  args: { category: Category; newTrackId: string; label: string },
): Result<Change> {
  const { label, newTrackId } = args
  const alone = checkClip(clip)
  if (alone) return alone
  const free = freeTrack(doc, args.category, clip)
  if (free) return ok({ label, added: [{ ...clip, trackId: free.id }], updated: [], removed: [] })
  const made = addTrack(doc, { id: newTrackId, category: args.category })
  if (!made.ok) return made
  return ok(
    squash(made.value, { label, added: [{ ...clip, trackId: newTrackId }], updated: [], removed: [] }),
  )
}

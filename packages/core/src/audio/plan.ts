import { clipsByTrack, rideOf, soundingInserts, tracksInOrder, type ReelDocument } from '../reel/document.js'
import { stemPlace, WHOLE, type Insert } from '../reel/inserts.js'
import type { Clip, RidePoint, Track } from '../reel/records.js'
import { CATEGORIES } from '../reel/categories.js'
import { gainFromDb } from '../signal/levels.js'
import { treatedBy } from '../treatment/clipTreatment.js'
import { mediaOf, playedOf } from './played.js'
import { type PlanStrip, type PlanVoice, type RenderPlan } from './renderPlan.js'
import type { Ride } from './ride.js'
import { warpOf } from './warp.js'

/** Sounds that are heard beside the document: the guide, and what is being tried. */
export interface PlanExtras {
  readonly guide?: {
    readonly tracks: readonly { readonly mediaId: string; readonly length: number }[]
    readonly gain: number
    /** Sample of the reel at which all of them begin. */
    readonly start: number
  }
  readonly tries?: readonly Clip[]
  /** Linear gain of all that is heard; 1 when not given. */
  readonly gain?: number
}

/** Tracks that sound: when any has solo, only those; a mute silences in either case. */
export function audibleTracks(doc: Pick<ReelDocument, 'track'>): Track[] {
  const tracks = tracksInOrder(doc)
  const soloed = tracks.some((track) => track.solo)
  return tracks.filter((track) => !track.mute && (!soloed || track.solo))
}

const ridesKnown = new WeakMap<readonly RidePoint[], Ride>()

/** The ride of a track as it is played; the same one as long as its points are the same. Undefined without points. */
function playedRide(points: readonly RidePoint[]): Ride | undefined {
  if (points.length === 0) return undefined
  const ride = ridesKnown.get(points) ?? {
    at: points.map((point) => point.at),
    values: points.map((point) => point.value),
    bends: points.map((point) => point.bend),
  }
  ridesKnown.set(points, ride)
  return ride
}

/** The rides that a track has. */
export function ridesOf(doc: Pick<ReelDocument, 'ride'>, trackId: string): TrackRides {
  const levelRide = playedRide(rideOf(doc, trackId, 'level'))
  const panRide = playedRide(rideOf(doc, trackId, 'pan'))
  return { ...(levelRide ? { levelRide } : {}), ...(panRide ? { panRide } : {}) }
}

/** The rides of one track. */
export type TrackRides = Pick<PlanStrip, 'levelRide' | 'panRide'>

const voices = new WeakMap<Clip, PlanVoice>()

/** The voice of a clip; the same one as long as the clip is the same. */
export function voiceOf(clip: Clip): PlanVoice {
  const known = voices.get(clip)
  if (known) return known
  const played = playedOf(clip, warpOf(clip))
  const voice: PlanVoice = {
    ...(played ? { played } : {}),
    ...treatedBy(clip.treatment, clip.id),
    mediaId: mediaOf(clip),
    start: clip.start,
    end: clip.start + clip.length,
    offset: clip.offset,
    gain: gainFromDb(clip.gain),
    fadeIn: clip.fadeIn,
    fadeOut: clip.fadeOut,
    fadeInShape: clip.fadeInShape,
    fadeOutShape: clip.fadeOutShape,
  }
  voices.set(clip, voice)
  return voice
}

interface KnownStrip {
  readonly track: Track
  readonly rides: TrackRides
  readonly inserts: readonly Insert[]
  readonly strip: PlanStrip
}
const strips = new WeakMap<readonly Clip[], KnownStrip>()

/** The strip of a track; the same one as long as its clips, rides and treatment are the same, so that an edit plans one track anew. */
function stripOf(doc: ReelDocument, track: Track, clips: readonly Clip[]): PlanStrip {
  const rides = ridesOf(doc, track.id)
  const inserts = soundingInserts(doc, track.id)
  const known = strips.get(clips)
  if (
    known?.track === track &&
    known.inserts === inserts &&
    known.rides.levelRide === rides.levelRide &&
    known.rides.panRide === rides.panRide
  )
    return known.strip
  const strip: PlanStrip = {
    key: track.id,
    voices: clips.filter((clip) => !clip.mute).map(voiceOf),
    ...throughTrack(doc, track),
    ...rides,
    stem: track.category,
  }
  strips.set(clips, { track, rides, inserts, strip })
  return strip
}

/** What a track does to whatever is on it, its rides left out: they belong to times of the reel. */
export const throughTrack = (
  doc: Pick<ReelDocument, 'insert'>,
  track: Track,
): Pick<PlanStrip, 'inserts' | 'level' | 'pan' | 'mono'> => ({
  inserts: soundingInserts(doc, track.id),
  level: gainFromDb(track.level),
  pan: track.pan,
  mono: track.width === 'mono',
})

/**
 * Compiles a document into what is to be heard.
 * A bounce passes no extras, so guide and tries never reach a turnover.
 * A try sounds with the level, pan, rides and treatment of its track, which must be in the document, also where that is muted.
 */
export function planReel(doc: ReelDocument, extras: PlanExtras = {}): RenderPlan {
  const audible = new Map(audibleTracks(doc).map((track) => [track.id, track]))
  const planned = new Map<string, PlanStrip>()
  for (const [trackId, clips] of clipsByTrack(doc)) {
    const track = audible.get(trackId)
    if (track && clips.length > 0) planned.set(trackId, stripOf(doc, track, clips))
  }
  for (const clip of extras.tries ?? []) {
    const track = doc.track.get(clip.trackId)
    if (!track) continue
    const strip = planned.get(clip.trackId) ?? stripOf(doc, track, NO_CLIPS())
    planned.set(strip.key, {
      ...strip,
      voices: [...strip.voices, voiceOf(clip)].sort((a, b) => a.start - b.start),
    })
  }
  if (extras.guide && extras.guide.gain > 0) {
    const { tracks, gain, start } = extras.guide
    const voices = tracks.map(({ mediaId, length }): PlanVoice => ({
      mediaId,
      start,
      end: start + length,
      offset: 0,
      gain,
      fadeIn: 0,
      fadeOut: 0,
      fadeInShape: 'linear',
      fadeOutShape: 'linear',
    }))
    planned.set('guide', {
      key: 'guide',
      voices,
      inserts: [],
      level: 1,
      pan: 0,
      stem: null,
      mono: false,
    })
  }
  const stems = Object.fromEntries(
    CATEGORIES.map((category) => [category, soundingInserts(doc, stemPlace(category))] as const).filter(
      ([, inserts]) => inserts.length > 0,
    ),
  )
  return { strips: [...planned.values()], stems, whole: soundingInserts(doc, WHOLE), gain: extras.gain ?? 1 }
}

const NO_CLIPS = (): readonly Clip[] => []

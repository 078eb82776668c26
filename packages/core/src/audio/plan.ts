import { clipsByTrack, rideOf, tracksInOrder, type ReelDocument } from '../reel/document.js'
import type { Clip, FadeShape, RidePoint, Track } from '../reel/records.js'
import { gainFromDb } from './levels.js'
import { mediaOf, playedOf, type Played } from './played.js'
import type { Ride } from './ride.js'

/** One sounding thing of a render plan; positions and lengths in samples at 48 kHz. */
export interface PlanVoice {
  readonly mediaId: string
  /** `[start, end)` in the reel. */
  readonly start: number
  readonly end: number
  /** Sample of the recording that sounds at `start`. */
  readonly offset: number
  /** Linear, clip and track level together. */
  readonly gain: number
  /** -1 to 1. */
  readonly pan: number
  readonly fadeIn: number
  readonly fadeOut: number
  readonly fadeInShape: FadeShape
  readonly fadeOutShape: FadeShape
  /** Absent when the recording is played straight on. */
  readonly played?: Played
  /** Ride of the level, in dB on top of the gain. */
  readonly levelRide?: Ride
  /** Ride of the place, instead of the pan. */
  readonly panRide?: Ride
}

/** What is to be heard: voices by start. A plain value that crosses threads. */
export interface RenderPlan {
  readonly voices: readonly PlanVoice[]
}

/** Sounds that are heard beside the document: the guide, and what is being tried. */
export interface PlanExtras {
  readonly guide?: { mediaId: string; length: number; gain: number; start: number }
  readonly tries?: readonly Clip[]
}

/** Tracks that sound: when any has solo, only those; a mute silences in either case. */
export function audibleTracks(doc: ReelDocument): Track[] {
  const tracks = tracksInOrder(doc)
  const soloed = tracks.some((track) => track.solo)
  return tracks.filter((track) => !track.mute && (!soloed || track.solo))
}

const ridesKnown = new WeakMap<readonly RidePoint[], Ride>()

/** The ride of a track as it is played; the same one as long as its points are the same. Undefined without points. */
function playedRide(points: readonly RidePoint[]): Ride | undefined {
  if (points.length === 0) return undefined
  const ride = ridesKnown.get(points) ?? { at: points.map((point) => point.at), values: points.map((point) => point.value) }
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
export type TrackRides = Pick<PlanVoice, 'levelRide' | 'panRide'>

/** The voice of a clip on a track. */
export function voiceOf(clip: Clip, track: Pick<Track, 'level' | 'pan'>, rides: TrackRides = {}): PlanVoice {
  const played = playedOf(clip)
  return {
    ...(played ? { played } : {}),
    ...rides,
    mediaId: mediaOf(clip),
    start: clip.start,
    end: clip.start + clip.length,
    offset: clip.offset,
    gain: gainFromDb(clip.gain) * gainFromDb(track.level),
    pan: track.pan,
    fadeIn: clip.fadeIn,
    fadeOut: clip.fadeOut,
    fadeInShape: clip.fadeInShape,
    fadeOutShape: clip.fadeOutShape,
  }
}

interface KnownVoice {
  readonly track: Track
  readonly rides: TrackRides
  readonly voice: PlanVoice
}
const voices = new WeakMap<Clip, KnownVoice>()

/** The voice of a clip; the same one as long as clip, track and rides are the same, so that an edit of one sound plans one anew. */
function knownVoice(clip: Clip, track: Track, rides: TrackRides): PlanVoice {
  const known = voices.get(clip)
  if (known && known.track === track && known.rides.levelRide === rides.levelRide && known.rides.panRide === rides.panRide) return known.voice
  const voice = voiceOf(clip, track, rides)
  voices.set(clip, { track, rides, voice })
  return voice
}

/**
 * Compiles a document into what is to be heard.
 * A bounce passes no extras, so guide and tries never reach a turnover.
 * A try sounds with the level, pan and rides of its track, also where that is muted.
 */
export function planReel(doc: ReelDocument, extras: PlanExtras = {}): RenderPlan {
  const audible = new Map(audibleTracks(doc).map((track) => [track.id, track]))
  const planned: PlanVoice[] = []
  for (const [trackId, clips] of clipsByTrack(doc)) {
    const track = audible.get(trackId)
    if (!track) continue
    const rides = ridesOf(doc, trackId)
    for (const clip of clips) if (!clip.mute) planned.push(knownVoice(clip, track, rides))
  }
  for (const clip of extras.tries ?? []) planned.push(voiceOf(clip, doc.track.get(clip.trackId) ?? { level: 0, pan: 0 }, ridesOf(doc, clip.trackId)))
  if (extras.guide && extras.guide.gain > 0) {
    const { mediaId, length, gain, start } = extras.guide
    planned.push({ mediaId, start, end: start + length, offset: 0, gain, pan: 0, fadeIn: 0, fadeOut: 0, fadeInShape: 'linear', fadeOutShape: 'linear' })
  }
  planned.sort((a, b) => a.start - b.start || a.end - b.end)
  return { voices: planned }
}

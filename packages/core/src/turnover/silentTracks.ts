import { audibleTracks } from '../audio/plan.js'
import { clipsByTrack, tracksInOrder, type ReelDocument } from '../reel/document.js'
import type { Track } from '../reel/records.js'

/** A track whose sounds a mix would leave out: it is muted itself, or others are soloed and it is not. */
export interface SilentTrack {
  readonly track: Track
  readonly why: 'muted' | 'not soloed'
  /** Sounds on it that are not muted themselves. */
  readonly sounds: number
}

/** The tracks with sounds on them that nobody will hear in a mix, from left to right; those that hold nothing to hear are not named. */
export function silentTracks(doc: Pick<ReelDocument, 'track' | 'clip'>): SilentTrack[] {
  const audible = new Set(audibleTracks(doc).map((track) => track.id))
  return tracksInOrder(doc).flatMap((track): SilentTrack[] => {
    const sounds = (clipsByTrack(doc).get(track.id) ?? []).filter((clip) => !clip.mute).length
    return sounds === 0 || audible.has(track.id)
      ? []
      : [{ track, why: track.mute ? 'muted' : 'not soloed', sounds }]
  })
}

import {
  clipAtFrame,
  freeTrack,
  guessCategory,
  matchGain,
  prepareSound,
  tracksInOrder,
  type Category,
  type Clip,
  type ReelDocument,
  type Sound,
  type SoundToPlace,
} from '@yodel/core'
import type { TryState } from './trySlice.js'

/** The chosen sound as it is tried and kept: with its preparation, and at the matched loudness where that is wanted, so that what is kept is what was heard. */
export function soundToTry(sound: Sound, { prepared, matched }: Pick<TryState, 'prepared' | 'matched'>): SoundToPlace {
  const gain = prepared.gain + (matched ? Math.round(matchGain(sound) * 10) / 10 : 0)
  return prepareSound(sound, { ...prepared, gain: Math.max(-96, Math.min(24, gain)) })
}

/** The category that a try is for: its cue's, else what the sound's own words say. */
export function tryCategory(doc: ReelDocument, place: NonNullable<TryState['place']>, sound: Sound): Category {
  return (place.cueId ? doc.cue.get(place.cueId)?.category : undefined) ?? guessCategory(sound)
}

/**
 * The clip that is being tried, on the track on which it would be kept; null when nothing is tried.
 * It is computed from the pane's state each time and never enters the document.
 */
export function tryClip(doc: ReelDocument, trying: TryState): Clip | null {
  if (!trying.place || !trying.sound) return null
  const { cueId, frame } = trying.place
  const loose = clipAtFrame(doc, { id: 'try', trackId: '', cueId, frame, sound: soundToTry(trying.sound, trying) })
  const category = tryCategory(doc, trying.place, trying.sound)
  const track =
    freeTrack(doc, category, loose) ??
    tracksInOrder(doc)
      .filter((candidate) => candidate.category === category)
      .at(-1)
  return { ...loose, trackId: track?.id ?? '' }
}

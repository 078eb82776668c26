import { clipAtFrame, freeTrack, guessCategory, prepareSound, tracksInOrder, type Category, type Clip, type ReelDocument, type Sound } from '@yodel/core'
import type { TryState } from './trySlice.js'

/** The category that a try is for: its cue's, else what the sound's own words say. */
export function tryCategory(doc: ReelDocument, place: NonNullable<TryState['place']>, sound: Sound): Category {
  return (place.cueId ? doc.cue[place.cueId]?.category : undefined) ?? guessCategory(sound)
}

/**
 * The clip that is being tried, on the track on which it would be kept; null when nothing is tried.
 * It is computed from the pane's state each time and never enters the document.
 */
export function tryClip(doc: ReelDocument, trying: TryState): Clip | null {
  if (!trying.place || !trying.sound) return null
  const { cueId, frame } = trying.place
  const loose = clipAtFrame(doc, { id: 'try', trackId: '', cueId, frame, sound: prepareSound(trying.sound, trying.prepared) })
  const category = tryCategory(doc, trying.place, trying.sound)
  const track =
    freeTrack(doc, category, loose) ??
    tracksInOrder(doc)
      .filter((candidate) => candidate.category === category)
      .at(-1)
  return { ...loose, trackId: track?.id ?? '' }
}

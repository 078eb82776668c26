import type { SoundEvent } from '../contract/sounds.js'
import { refuse, type Result } from '../errors.js'
import { chain, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import type { Category } from '../reel/categories.js'
import { placeSound } from './placeSound.js'

/**
 * Cuts events out of one recording and lays each on a frame of its own, the first event on the first frame and so on:
 * the steps of a long take on the steps that somebody takes in the picture.
 *
 * @param args.sound - The recording as it is played; its own part and sync point don't count.
 * @param args.events - `[start, sync, end)` in samples of the recording.
 * @param args.places - Frames from the reel's first frame, with the cues they belong to; no more than events.
 * @param args.newId - Makes ids for clips and tracks.
 */
export function layEvents(
  doc: ReelDocument,
  args: {
    sound: SoundToPlace
    events: readonly SoundEvent[]
    places: readonly { readonly frame: number; readonly cueId: string | null }[]
    category: Category
    newId: () => string
  },
): Result<Change> {
  const { sound, events, places } = args
  if (places.length === 0 || places.length > events.length)
    return refuse('CORE_NOTHING_DONE', sound.name, `${events.length} events for ${places.length} places`)
  const lay = ({ frame, cueId }: { frame: number; cueId: string | null }, index: number) => {
    const [from, sync, to] = events[index] as SoundEvent
    return (now: ReelDocument): Result<Change> =>
      placeSound(now, {
        id: args.newId(),
        newTrackId: args.newId(),
        category: args.category,
        cueId,
        frame,
        sound: { ...sound, from, sync, to },
      })
  }
  return chain(doc, `Lay ${places.length} events of ${sound.name}`, places.map(lay))
}

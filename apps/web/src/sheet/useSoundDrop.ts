import { formatTimecode, guessCategory, placeSound, type FrameRate, type Track } from '@yodel/core'
import { useState, type DragEvent } from 'react'
import { useAppDispatch, useAppStore } from '../document/store.js'
import { edit } from '../document/edit.js'
import { viewActions } from '../document/viewSlice.js'
import { soundToTry } from '../document/tried.js'

/** What a dragged result is known by; the sound itself is the one chosen in the pane. */
export const SOUND_DRAG = 'application/x-yodel-sound'

/** Where on the Sheet a pointer is. */
export interface Place {
  readonly frame: number
  readonly trackId: string | null
}

/**
 * Takes results that are dropped on the Sheet: the sync point meets the frame under the pointer, on the track under it,
 * or on a free track of the sound's category beside the tracks.
 *
 * @param placeAt - The place under a point of the page; null outside of the reel.
 * @param start - Timecode of the reel's first frame, in frames.
 */
export function useSoundDrop(
  placeAt: (x: number, y: number) => Place | null,
  rate: FrameRate,
  start: number,
) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const [over, setOver] = useState<string | null>(null)
  const trackOf = (place: Place): Track | undefined =>
    store.getState().document.doc.track.get(place.trackId ?? '')
  return {
    /** What a drop would do, or null when nothing is dragged over the Sheet. */
    over,
    drop: {
      onDragOver: (event: DragEvent) => {
        const place = event.dataTransfer.types.includes(SOUND_DRAG)
          ? placeAt(event.clientX, event.clientY)
          : null
        if (place) event.preventDefault()
        setOver(
          place &&
            `${formatTimecode(start + place.frame, rate)} on ${trackOf(place)?.name ?? 'a free track'}`,
        )
      },
      onDragLeave: () => setOver(null),
      onDrop: (event: DragEvent) => {
        setOver(null)
        const { trying } = store.getState()
        const { sound } = trying
        const place = placeAt(event.clientX, event.clientY)
        if (!sound || !place || !event.dataTransfer.types.includes(SOUND_DRAG)) return
        event.preventDefault()
        const id = crypto.randomUUID()
        const track = trackOf(place)
        const args = {
          ...{
            id,
            newTrackId: crypto.randomUUID(),
            cueId: null,
            frame: place.frame,
            sound: soundToTry(sound, trying),
          },
          ...(track ? { category: track.category, trackId: track.id } : { category: guessCategory(sound) }),
        }
        if (dispatch(edit((doc) => placeSound(doc, args)))) dispatch(viewActions.select([id]))
      },
    },
  }
}

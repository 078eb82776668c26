import {
  formatTimecode,
  guessCategory,
  placeSound,
  type Change,
  type FrameRate,
  type ReelDocument,
  type Result,
  type Sound,
} from '@yodel/core'
import { useMemo, useState, type DragEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { edit } from '../document/edit.js'
import { soundToTry, TRIED, triedBy } from '../document/tried.js'
import type { TryState } from '../document/trySlice.js'
import { viewActions } from '../document/viewSlice.js'

/** What a dragged result is known by; the sound itself is the one chosen in the pane. */
export const SOUND_DRAG = 'application/x-yodel-sound'

/** Where on the Sheet a pointer is. */
export interface Place {
  readonly frame: number
  readonly trackId: string | null
}

/** Lays the chosen sound, as it is prepared, at a place. */
function lay(
  doc: ReelDocument,
  trying: TryState,
  sound: Sound,
  { frame, trackId }: Place,
  id: string,
  newTrackId: string,
): Result<Change> {
  const track = doc.track.get(trackId ?? '')
  const where = track ? { category: track.category, trackId: track.id } : { category: guessCategory(sound) }
  const as = { id, newTrackId, cueId: null, frame, sound: soundToTry(sound, trying) }
  return placeSound(doc, { ...as, ...where })
}

/**
 * Takes results that are dropped on the Sheet: the sync point meets the frame under the pointer, on the track under it,
 * or on a free track of the sound's category beside the tracks. Until then the sound is seen where it would lie.
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
  const doc = useAppSelector((state) => state.document.doc)
  const trying = useAppSelector((state) => state.trying)
  const [over, setOver] = useState<Place | null>(null)
  const change = useMemo(
    () => over && trying.sound && lay(doc, trying, trying.sound, over, `${TRIED}drop`, `${TRIED}track`),
    [over, doc, trying],
  )
  const after = useMemo(() => triedBy(doc, change), [doc, change])
  const trackName = doc.track.get(over?.trackId ?? '')?.name ?? 'a free track'
  return {
    /** What a drop would do, in words and as a document that nobody saves, or null when nothing is dragged over the Sheet. */
    over:
      over && change
        ? {
            doc: after?.doc ?? doc,
            refused: !change.ok,
            label: change.ok ? `${formatTimecode(start + over.frame, rate)} on ${trackName}` : change.message,
          }
        : null,
    drop: {
      onDragOver: (event: DragEvent) => {
        const place = event.dataTransfer.types.includes(SOUND_DRAG)
          ? placeAt(event.clientX, event.clientY)
          : null
        if (place) event.preventDefault()
        setOver((before) =>
          before?.frame === place?.frame && before?.trackId === place?.trackId ? before : place,
        )
      },
      onDragLeave: () => setOver(null),
      onDrop: (event: DragEvent) => {
        setOver(null)
        const place = placeAt(event.clientX, event.clientY)
        const { sound } = trying
        if (!sound || !place || !event.dataTransfer.types.includes(SOUND_DRAG)) return
        event.preventDefault()
        const [id, newTrackId] = [crypto.randomUUID(), crypto.randomUUID()]
        if (dispatch(edit((now) => lay(now, trying, sound, place, id, newTrackId))))
          dispatch(viewActions.select([id]))
      },
    },
  }
}

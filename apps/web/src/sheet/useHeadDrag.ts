import { followPointer } from '../ui/followPointer.js'
import { moveTrack, type Track } from '@yodel/core'
import { useState, type PointerEvent, type RefObject } from 'react'
import { useAppDispatch } from '../document/store.js'
import { edit } from '../document/edit.js'
import { widthOfColumns, type Column } from './columns.js'

const THRESHOLD = 6

/**
 * Moving a track by its head: it goes before the column whose middle lies right of the pointer.
 *
 * @returns Where it would go, in pixels from the left of the tracks, or null; and what a head calls when it is pressed.
 */
export function useHeadDrag(
  scroller: RefObject<HTMLElement | null>,
  columns: readonly Column[],
): { gap: number | null; onDrag: (down: PointerEvent, track: Track) => void } {
  const dispatch = useAppDispatch()
  const [gap, setGap] = useState<number | null>(null)
  const onDrag = (down: PointerEvent, track: Track): void => {
    if (down.button !== 0) return
    let next: Column | null = null
    followPointer(down, {
      threshold: THRESHOLD,
      onMove: (event) => {
        const box = scroller.current
        if (!box) return
        const x = event.clientX - box.getBoundingClientRect().left + box.scrollLeft
        next = columns.find((column) => x < column.left + column.width / 2) ?? null
        setGap(next ? next.left : widthOfColumns(columns))
      },
      onDrop: () => {
        setGap(null)
        dispatch(edit((doc) => moveTrack(doc, { id: track.id, before: next?.tracks[0]?.id ?? null })))
      },
      onCancel: () => setGap(null),
    })
  }
  return { gap, onDrag }
}

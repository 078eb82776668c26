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
    let next: Column | null | undefined
    const onMove = (event: globalThis.PointerEvent): void => {
      const box = scroller.current
      if (!box || (next === undefined && Math.abs(event.clientX - down.clientX) < THRESHOLD)) return
      const x = event.clientX - box.getBoundingClientRect().left + box.scrollLeft
      next = columns.find((column) => x < column.left + column.width / 2) ?? null
      setGap(next ? next.left : widthOfColumns(columns))
    }
    const end = (): void => {
      removeEventListener('pointermove', onMove)
      removeEventListener('pointerup', onUp)
      removeEventListener('keydown', onKey, true)
      setGap(null)
    }
    const onUp = (): void => {
      end()
      if (next !== undefined)
        dispatch(edit((doc) => moveTrack(doc, { id: track.id, before: next?.tracks[0]?.id ?? null })))
    }
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape') return
      event.stopPropagation()
      end()
    }
    addEventListener('pointermove', onMove)
    addEventListener('pointerup', onUp)
    addEventListener('keydown', onKey, true)
  }
  return { gap, onDrag }
}

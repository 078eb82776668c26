import { withGroups } from '@yodel/core'
import { useState, type PointerEvent, type RefObject } from 'react'
import { useAppDispatch, useAppStore } from '../document/store.js'
import { isTried } from '../document/tried.js'
import { viewActions } from '../document/viewSlice.js'
import { followPointer } from '../ui/followPointer.js'

/** A rectangle in pixels of the Sheet. */
export interface Band {
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
}

/** Choosing every sound that a rectangle touches, by Shift and a drag over the paper. What was chosen before stays chosen. */
export function useRubberBand(sheet: RefObject<HTMLElement | null>): {
  band: Band | null
  beginBand: (down: PointerEvent) => void
} {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const [band, setBand] = useState<Band | null>(null)
  const beginBand = (down: PointerEvent): void => {
    const { selected } = store.getState().view
    const onMove = (event: globalThis.PointerEvent): void => {
      const box = sheet.current?.getBoundingClientRect()
      if (!box) return
      const [left, right] = [down.clientX, event.clientX].sort((a, b) => a - b) as [number, number]
      const [top, bottom] = [down.clientY, event.clientY].sort((a, b) => a - b) as [number, number]
      setBand({ left: left - box.left, top: top - box.top, width: right - left, height: bottom - top })
      const touched = clipsTouched(sheet.current, { left, right, top, bottom })
      const { document, view } = store.getState()
      const all = withGroups(document.doc, touched, view.openStacks)
      dispatch(viewActions.select([...new Set([...selected, ...all])]))
    }
    const end = (): void => setBand(null)
    followPointer(down, { threshold: 0, onMove, onDrop: end, onCancel: end })
  }
  return { band, beginBand }
}

/** Ids of the sounds whose boxes a rectangle of the screen touches. */
function clipsTouched(
  sheet: HTMLElement | null,
  { left, right, top, bottom }: { left: number; right: number; top: number; bottom: number },
): string[] {
  return [...(sheet?.querySelectorAll<HTMLElement>('[data-clip]') ?? [])].flatMap((element) => {
    const box = element.getBoundingClientRect()
    const id = element.dataset['clip']
    const touches = box.left < right && box.right > left && box.top < bottom && box.bottom > top
    return id && !isTried(id) && touches ? [id] : []
  })
}

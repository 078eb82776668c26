import { FRAME_RATES, samplesPerFrame } from '@yodel/core'
import { useEffect, type PointerEvent, type RefObject, type WheelEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { viewActions } from '../document/viewSlice.js'
import { useReel, useSession } from '../session/session.js'
import { followPointer } from '../ui/followPointer.js'

/**
 * Moving the paper through the gate: by dragging it, or by the wheel, which zooms with Ctrl. A click on it deselects.
 *
 * @param beginBand - Called instead when the paper is pressed with Shift.
 */
export function usePaper(
  sheet: RefObject<HTMLElement | null>,
  beginBand: (down: PointerEvent) => void,
): { onWheel: (event: WheelEvent) => void; onPointerDown: (down: PointerEvent) => void } {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const rate = FRAME_RATES[useReel().rate]
  const zoom = useAppSelector((state) => state.view.zoom)
  const perPixel = samplesPerFrame(rate) / zoom

  useEffect(() => {
    // React's wheel listener is passive; without this Ctrl and wheel would zoom the page.
    const element = sheet.current
    const holdZoom = (event: globalThis.WheelEvent): void => {
      if (event.ctrlKey || event.metaKey) event.preventDefault()
    }
    element?.addEventListener('wheel', holdZoom, { passive: false })
    return () => element?.removeEventListener('wheel', holdZoom)
  }, [sheet])

  return {
    onWheel: (event) => {
      if (event.ctrlKey || event.metaKey)
        return void dispatch(viewActions.zoomTo(zoom * Math.exp(-event.deltaY / 300)))
      if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) return
      transport.goToSample(transport.sample + event.deltaY * perPixel)
    },
    onPointerDown: (down) => {
      if (down.button !== 0 || (down.target as HTMLElement).closest('button, input, [data-clip]')) return
      if (down.shiftKey) return beginBand(down)
      const from = transport.sample
      followPointer(down, {
        onMove: (event) => transport.goToSample(from - (event.clientY - down.clientY) * perPixel),
        onClick: () => dispatch(viewActions.select([])),
        onCancel: () => transport.goToSample(from),
      })
    },
  }
}

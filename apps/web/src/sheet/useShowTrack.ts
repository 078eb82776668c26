import { useEffect, useEffectEvent, type RefObject } from 'react'
import { useAppSelector } from '../document/store.js'
import type { Column } from './columns.js'

/**
 * Scrolls sideways to the track of what is tried, or of the one sound that is selected. Only when another track is
 * wanted: scrolling by hand is left alone.
 *
 * @param triedOn - Id of the track that something is tried on.
 */
export function useShowTrack(
  scroller: RefObject<HTMLElement | null>,
  columns: readonly Column[],
  triedOn: string | undefined,
): void {
  const selectedOn = useAppSelector((state) =>
    state.view.selected.length === 1
      ? state.document.doc.clip.get(state.view.selected[0] ?? '')?.trackId
      : undefined,
  )
  const wanted = triedOn ?? selectedOn
  const show = useEffectEvent(() => {
    const box = scroller.current
    const column = columns.find((one) => one.tracks.some((track) => track.id === wanted))
    if (!box || !column) return
    const right = column.left + column.width
    if (column.left < box.scrollLeft) box.scrollLeft = column.left
    else if (right > box.scrollLeft + box.clientWidth) box.scrollLeft = right - box.clientWidth
  })
  useEffect(() => show(), [wanted])
}

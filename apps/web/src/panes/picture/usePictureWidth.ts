import { useSyncExternalStore } from 'react'
import { heldWidth, widestWithPane } from '../../document/pictureWidth.js'
import { useAppSelector } from '../../document/store.js'

const onResize = (tell: () => void): (() => void) => {
  addEventListener('resize', tell)
  return () => removeEventListener('resize', tell)
}

/** Width of the column of the picture as the page has room for it, the width of the page, and whether a pane has room at the right. */
export function usePictureWidth(): { width: number; page: number; hasPane: boolean } {
  const page = useSyncExternalStore(onResize, () => innerWidth)
  const width = heldWidth(
    useAppSelector((state) => state.view.pictureWidth),
    page,
  )
  return { width, page, hasPane: width <= widestWithPane(page) }
}

import { useCallback, useEffect, useMemo, useState, type RefObject } from 'react'
import type { Column } from './columns.js'

/** Columns drawn beyond either edge. */
const BEYOND = 80
/** Sideways scrolling is looked at in steps, so that not every pixel draws anew. */
const STEP = 40

/**
 * The columns that can be seen while the tracks are scrolled sideways, and one or so on either side.
 *
 * @param width - Pixels that can be seen.
 * @returns The columns, and the handler for the scroller.
 */
export function useVisibleColumns(
  scroller: RefObject<HTMLElement | null>,
  columns: readonly Column[],
  width: number,
): { seen: readonly Column[]; onScroll: () => void } {
  const [step, setStep] = useState(0)
  const onScroll = useCallback(
    () => setStep(Math.floor((scroller.current?.scrollLeft ?? 0) / STEP)),
    [scroller],
  )
  useEffect(onScroll, [onScroll, columns, width])
  const seen = useMemo(() => {
    const left = step * STEP
    return columns.filter(
      (column) => column.left + column.width > left - BEYOND && column.left < left + STEP + width + BEYOND,
    )
  }, [columns, step, width])
  return { seen, onScroll }
}

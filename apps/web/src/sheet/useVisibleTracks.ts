import { useCallback, useEffect, useState, type RefObject } from 'react'

/**
 * Which tracks can be seen while they are scrolled sideways, one more on either side.
 *
 * @returns First and end index, and the handler for the scroller.
 */
export function useVisibleTracks(scroller: RefObject<HTMLElement | null>, trackWidth: number, count: number, width: number): { first: number; end: number; onScroll: () => void } {
  const [range, setRange] = useState({ first: 0, end: 12 })
  const onScroll = useCallback(() => {
    const left = scroller.current?.scrollLeft ?? 0
    const first = Math.max(0, Math.floor(left / trackWidth) - 1)
    const end = Math.min(count, Math.ceil((left + width) / trackWidth) + 1)
    setRange((before) => (before.first === first && before.end === end ? before : { first, end }))
  }, [scroller, trackWidth, count, width])
  useEffect(onScroll, [onScroll])
  return { ...range, onScroll }
}

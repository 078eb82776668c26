import { useEffect, useState, type RefObject } from 'react'

/** The size of an element in whole pixels, as it changes. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 800, height: 700 })
  useEffect(() => {
    if (!element.current) return
    const observer = new ResizeObserver(([entry]) => {
      if (entry)
        setSize({ width: Math.round(entry.contentRect.width), height: Math.round(entry.contentRect.height) })
    })
    observer.observe(element.current)
    return () => observer.disconnect()
  }, [element])
  return size
}

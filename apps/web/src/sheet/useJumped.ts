import { useEffect, useState } from 'react'
import type { Stretch } from './geometry.js'

/** So long a stretch that came at once has to stay until what can wait is loaded. */
const STILL_MS = 150

/** Says whether the paper has just been moved to somewhere else altogether: what is large had better wait until it stays there. */
export function useJumped({ from, to }: Stretch): boolean {
  const [seen, setSeen] = useState({ from, to })
  const hasJumped = from >= seen.to || to <= seen.from
  // What rolls or scrolls by never jumps: each stretch overlaps the one before it.
  if (!hasJumped && (from !== seen.from || to !== seen.to)) setSeen({ from, to })
  useEffect(() => {
    if (!hasJumped) return
    const timer = setTimeout(() => setSeen({ from, to }), STILL_MS)
    return () => clearTimeout(timer)
  }, [hasJumped, from, to])
  return hasJumped
}

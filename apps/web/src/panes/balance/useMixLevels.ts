import { useEffect, useState } from 'react'
import type { MixLevels } from '../../engine/messages.js'
import { useSession } from '../../session/session.js'

const EVERY_MS = 200

/** How loud the parts of the mix are; kept when playing stops, until it starts again. */
export function useMixLevels(): MixLevels {
  const { engine } = useSession()
  const [levels, setLevels] = useState<MixLevels>(engine.levels)
  useEffect(() => {
    // Digits that change more often can't be read.
    const timer = setInterval(() => setLevels(engine.levels), EVERY_MS)
    return () => clearInterval(timer)
  }, [engine])
  return levels
}

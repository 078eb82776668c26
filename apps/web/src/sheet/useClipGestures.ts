import { FRAME_RATES } from '@yodel/core'
import { useMemo, useState } from 'react'
import { useAppStore } from '../document/store.js'
import { useReel, useSession } from '../session/session.js'
import { makeClipHands, type ClipHands } from './clipHands.js'
import type { Dragging } from './startDrag.js'

/** The handlers, and what goes on. */
export interface ClipGesture {
  readonly hands: ClipHands
  readonly dragging: Dragging | null
  /** Clip whose wish was refused just now. */
  readonly refused: string | null
}

/**
 * Moving, trimming and shaping clips by pointer. Positions are whole frames, or the marks near them; any place with Ctrl held.
 *
 * @param trackAt - Id of the track under a horizontal place on the page, or null.
 */
export function useClipGestures(trackAt: (x: number) => string | null): ClipGesture {
  const store = useAppStore()
  const { transport, marks } = useSession()
  const { rate, firstFrame } = useReel()
  const [dragging, setDragging] = useState<Dragging | null>(null)
  const [refused, setRefused] = useState<string | null>(null)
  const hands = useMemo(() => {
    const show = (next: Dragging | null, id: string | null): void => {
      setDragging(next)
      setRefused(id)
    }
    const place = { rate: FRAME_RATES[rate], firstFrame }
    return makeClipHands({ store, transport, ...place, marks: () => marks.current, trackAt, show })
  }, [store, transport, marks, rate, firstFrame, trackAt])
  return { hands, dragging, refused }
}

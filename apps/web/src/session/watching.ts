import { FRAME_RATES, mergeSpans, type Category, type Span } from '@yodel/core'
import { useEffect, useMemo } from 'react'
import { api } from '../api/api.js'
import { useAppSelector } from '../document/store.js'
import { useReel, useSession } from './session.js'

const NONE: readonly Span[] = []
/** What is being watched is told to the server at least so often while rolling. */
const TELL_MS = 5000
/** Frames beyond what time accounts for that make a jump. */
const JUMP = 12

/** What anybody has watched of the open reel for a category, joined. */
export function useWatchedSpans(category: Category | null): readonly Span[] {
  const { id } = useReel()
  const { data } = api.useWatchedQuery(id)
  return useMemo(
    () =>
      category === null
        ? NONE
        : mergeSpans((data ?? []).filter((row) => row.category === category).flatMap((row) => row.spans)),
    [data, category],
  )
}

/** While a pass is on, remembers which stretches have rolled through the gate. */
export function useWatching(): void {
  const { transport } = useSession()
  const { id, rate } = useReel()
  const pass = useAppSelector((state) => state.view.pass)
  const [tell] = api.useAddWatchedMutation()
  useEffect(() => {
    if (pass === null) return
    const second = FRAME_RATES[rate].nominal
    let from: number | null = null
    let last = 0
    let lastAt = 0
    let told = 0
    const flush = (): void => {
      if (from !== null && last > from) void tell({ reelId: id, watch: { category: pass, from, to: last } })
      from = null
    }
    const unsubscribe = transport.subscribe(() => {
      const frame = transport.frame
      if (!transport.rolling) return flush()
      const now = performance.now()
      // A jump ends one stretch and begins another; what was leapt over has not been watched. A slow refresh is no jump.
      const rolled = ((now - lastAt) / 1000) * second * transport.speed
      if (from !== null && (frame < last - 1 || frame > last + rolled + JUMP)) flush()
      if (from === null) {
        from = frame
        told = now
      }
      last = Math.max(from, frame + 1)
      lastAt = now
      if (now - told > TELL_MS) {
        flush()
        from = frame
        told = now
      }
    })
    return () => {
      unsubscribe()
      flush()
    }
  }, [pass, transport, id, rate, tell])
}

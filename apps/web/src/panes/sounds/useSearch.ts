import type { FoundSound, SoundPage } from '@yodel/core'
import { skipToken } from '@reduxjs/toolkit/query'
import { useCallback, useEffect, useEffectEvent, useMemo, useState } from 'react'
import { api, type SoundParams } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { searchParams } from '../../document/searchSlice.js'

/** A search as it stands: what was found so far, and how to get more. */
export interface Search {
  readonly sounds: readonly FoundSound[]
  readonly first: SoundPage | undefined
  readonly params: SoundParams | null
  readonly error: unknown
  readonly searching: boolean
  /** The text whose results these are; null while they are still those of the text before. */
  readonly shown: string | null
  readonly more: (() => void) | null
}

const SETTLE_MS = 60

/** The results of the search of the pane, asked for as soon as typing pauses; the old ones stay until the new ones are there. */
export function useSearch(): Search {
  const dispatch = useAppDispatch()
  const params = useSettled(useParams(), SETTLE_MS)
  const { data, currentData, error, isFetching, fetchNextPage, hasNextPage } = api.useSoundsInfiniteQuery(
    params ?? skipToken,
  )
  useEffect(() => {
    // What is typed over is not waited for: the server drops it before it begins.
    if (params) return () => dispatch(api.util.getRunningQueryThunk('sounds', params))?.abort()
    return undefined
  }, [params, dispatch])
  const sounds = useMemo(() => {
    const seen = new Set<string>()
    // A shelf that is being indexed while one scrolls may hand a sound out twice.
    return (data?.pages.flatMap((page) => page.sounds) ?? []).filter(
      (sound) => !seen.has(sound.id) && seen.add(sound.id),
    )
  }, [data])
  const fetchMore = useCallback(() => void fetchNextPage(), [fetchNextPage])
  const first = data?.pages[0]
  const searching = isFetching && currentData === undefined
  const shown = currentData === undefined ? null : (params?.q ?? null)
  const more = hasNextPage && !isFetching ? fetchMore : null
  return useMemo(
    () => ({ sounds, first, params, error, searching, shown, more }),
    [sounds, first, params, error, searching, shown, more],
  )
}

function useParams(): SoundParams | null {
  const search = useAppSelector((state) => state.search)
  const showId = useShowId()
  const { data: shelves } = api.useShelvesQuery()
  return useMemo(
    () =>
      shelves || search.off.length === 0
        ? searchParams(search, shelves?.map((shelf) => shelf.id) ?? [], showId)
        : null,
    [search, shelves, showId],
  )
}

/** The show of the open reel; undefined where none is open. */
function useShowId(): string | undefined {
  const reelId = useAppSelector((state) => state.document.reelId)
  const { data: shows } = api.useShowsQuery(undefined, { skip: !reelId })
  return shows?.find((show) => show.reels.some((reel) => reel.id === reelId))?.id
}

/** A value that changes at once after a pause, and while it changes quickly only when it stands still; compared by content. */
export function useSettled<T>(value: T, delayMs: number, atOnce = true): T {
  const key = JSON.stringify(value)
  const [settled, settle] = useState({ key, value })
  const [latest, setLatest] = useState({ key, at: -Infinity })
  if (latest.key !== key) {
    // While it is drawn: an effect would cost a drawing more before anything is asked for.
    const now = performance.now()
    setLatest({ key, at: now })
    if (atOnce && now - latest.at > delayMs) settle({ key, value })
  }
  // The key stands for the value.
  const settleNow = useEffectEvent(() => settle({ key, value }))
  useEffect(() => {
    if (settled.key === key) return
    const timer = setTimeout(() => settleNow(), delayMs)
    return () => clearTimeout(timer)
  }, [key, settled.key, delayMs])
  return settled.value
}

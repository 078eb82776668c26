import { skipToken } from '@reduxjs/toolkit/query'
import { withFound, type Pool } from '@yodel/core'
import { useEffect, useMemo, useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { poolsApi } from '../../api/poolsApi.js'
import { performActions } from '../../document/performSlice.js'
import { viewActions } from '../../document/viewSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import type { HitPlayer } from '../../session/HitPlayer.js'

/**
 * Asks for the pools of a reel's show and for what is known of their recordings, and has everything that they play lie ready.
 *
 * @param reelId - Null while they are not wanted
 */
export function usePools(reelId: string | null, player: HitPlayer | null): void {
  const dispatch = useAppDispatch()
  const takes = useAppSelector((state) => state.perform.takes)
  // Somebody else, or another tab, may have changed them.
  const { currentData: kept, error } = poolsApi.usePoolsQuery(reelId ?? skipToken, {
    refetchOnFocus: true,
  })
  const pools = useFound(kept)
  const ids = useMemo(
    () =>
      [
        ...new Set(
          [...(pools ?? []).flatMap(({ members }) => members), ...takes.flatMap(({ hits }) => hits)].map(
            ({ soundId }) => soundId,
          ),
        ),
      ].sort(),
    [pools, takes],
  )
  const { currentData: found } = api.useSoundsByIdsQuery(ids.length > 0 ? ids : skipToken)
  useEffect(() => {
    if (pools) dispatch(performActions.setPools(pools))
  }, [pools, dispatch])
  useEffect(() => {
    if (!found) return
    const there = found.filter(({ missing }) => !missing)
    dispatch(
      performActions.setSounds({
        asked: ids,
        found: there.map(({ id, name, length, sync }) => ({ id, name, length, sync })),
      }),
    )
    void player?.load(pools ?? [], (id) => there.find((sound) => sound.id === id)?.length)
  }, [pools, found, ids, player, dispatch])
  useEffect(() => {
    const text = `The pools can’t be had: ${messageOf(error)}`
    if (error) dispatch(viewActions.notify({ tone: 'problem', text }))
  }, [error, dispatch])
}

/** Pools with what their own searches find by now: as they are kept at once, with the finds as soon as those are known. */
function useFound(kept: readonly Pool[] | undefined): readonly Pool[] | undefined {
  const [find] = poolsApi.useLazyFirstSoundsQuery()
  const [grown, setGrown] = useState<{ from: readonly Pool[]; pools: readonly Pool[] } | null>(null)
  useEffect(() => {
    if (!kept?.some(({ live }) => live !== '')) return
    let isOld = false
    const grow = async (pool: Pool): Promise<Pool> =>
      pool.live === '' ? pool : withFound(pool, (await find({ q: pool.live })).data?.sounds ?? [])
    void Promise.all(kept.map(grow)).then((pools) => isOld || setGrown({ from: kept, pools }))
    return () => {
      isOld = true
    }
  }, [kept, find])
  return grown && grown.from === kept ? grown.pools : kept
}

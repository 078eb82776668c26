import type { PoolSound } from '@yodel/core'
import { skipToken } from '@reduxjs/toolkit/query'
import { useEffect, useMemo } from 'react'
import { api } from '../../api/api.js'
import { performActions } from '../../document/performSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useSession } from '../../session/session.js'

/** Asks for the pools of the show and for what is known of their recordings, and has everything that they play lie ready. */
export function usePools(): void {
  const dispatch = useAppDispatch()
  const { hits } = useSession()
  const reelId = useAppSelector((state) => state.document.reelId)
  const used = useAppSelector(({ perform }) => perform.on || perform.takes.length > 0)
  const { data: pools } = api.usePoolsQuery(used && reelId ? reelId : skipToken)
  const ids = useMemo(
    () => [...new Set((pools ?? []).flatMap(({ members }) => members.map(({ soundId }) => soundId)))].sort(),
    [pools],
  )
  const { data: found } = api.useSoundsByIdsQuery(ids.length > 0 ? ids : skipToken)
  useEffect(() => {
    if (!pools || (ids.length > 0 && !found)) return
    const sounds = Object.fromEntries(
      (found ?? [])
        .filter(({ missing }) => !missing)
        .map(({ id, name, length, sync }) => [id, { id, name, length, sync } satisfies PoolSound]),
    )
    dispatch(performActions.setPools({ pools, sounds }))
    void hits.load(pools, (id) => sounds[id]?.length)
  }, [pools, found, ids, hits, dispatch])
}

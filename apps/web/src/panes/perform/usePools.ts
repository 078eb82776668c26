import { skipToken } from '@reduxjs/toolkit/query'
import { useEffect, useMemo } from 'react'
import { api, messageOf } from '../../api/api.js'
import { poolsApi } from '../../api/poolsApi.js'
import { performActions } from '../../document/performSlice.js'
import { viewActions } from '../../document/viewSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useSession } from '../../session/session.js'

/** Asks for the pools of the show and for what is known of their recordings, and has everything that they play lie ready. */
export function usePools(): void {
  const dispatch = useAppDispatch()
  const { hits: player } = useSession()
  const reelId = useAppSelector((state) => state.document.reelId)
  const { on, takes } = useAppSelector((state) => state.perform)
  // Somebody else, or another tab, may have changed them.
  const { data: pools, error } = poolsApi.usePoolsQuery(on && reelId ? reelId : skipToken, {
    refetchOnFocus: true,
  })
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
    void player.load(pools ?? [], (id) => there.find((sound) => sound.id === id)?.length)
  }, [pools, found, ids, player, dispatch])
  useEffect(() => {
    const text = `The pools can’t be had: ${messageOf(error)}`
    if (error) dispatch(viewActions.notify({ tone: 'problem', text }))
  }, [error, dispatch])
}

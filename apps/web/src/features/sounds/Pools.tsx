import { POOL_KEYS } from '@yodel/core'
import { memo, useEffect, useState } from 'react'
import { PAD_KEYS } from '../../actions/usePads.js'
import { useKeyboard } from '../../actions/useKeys.js'
import { api } from '../../api/api.js'
import { performActions } from '../../document/performSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { PoolDialog } from '../../panes/perform/PoolDialog.js'
import { usePools } from '../../panes/perform/usePools.js'
import { HitPlayer } from '../../session/HitPlayer.js'
import { lastPlace } from '../../session/lastPlace.js'
import { Choice } from '../../ui/Choice.js'
import { Kbd } from '../../ui/Button.js'

/** The pools of a show, to be filled without opening a reel; at first those of the show that one was in last. */
export const Pools = memo(function Pools() {
  const { data = [], isSuccess } = api.useShowsQuery()
  const [chosen, choose] = useState('')
  const shows = data.filter(({ reels }) => reels.length > 0)
  const last = lastPlace()?.reelId
  const show =
    shows.find(({ id }) => id === chosen) ??
    shows.find(({ reels }) => reels.some(({ id }) => id === last)) ??
    shows[0]
  const reelId = show?.reels[0]?.id
  return (
    <section className="mb-4" data-pools>
      <div className="mb-1 flex items-center justify-between gap-2">
        <h2 className="text-[13px] font-bold">Pools</h2>
        {shows.length > 1 && (
          <Choice
            label="Pools of the show"
            value={show?.id ?? ''}
            options={shows.map(({ id, name }) => [id, name] as const)}
            onChange={choose}
            className="min-w-0 max-w-[180px]"
          />
        )}
      </div>
      {isSuccess && !reelId && (
        <p className="text-[12px] text-ink-2">
          Pools are performed with, from ten keys. They belong to a show: make one first.
        </p>
      )}
      {reelId && <Keys key={reelId} reelId={reelId} />}
    </section>
  )
})

/** The ten keys of a show: what stands on each, and which are free. */
function Keys({ reelId }: { reelId: string }) {
  const dispatch = useAppDispatch()
  const { keys } = useKeyboard()
  const pools = useAppSelector((state) => state.perform.pools)
  const [editing, setEditing] = useState<number | null>(null)
  const [player, setPlayer] = useState<HitPlayer | null>(null)
  useEffect(() => {
    // Those of another show may be there still.
    dispatch(performActions.setPools([]))
    const fresh = new HitPlayer((text) => void dispatch(viewActions.notify({ tone: 'problem', text })))
    setPlayer(fresh)
    return () => fresh.dispose()
  }, [dispatch])
  usePools(reelId, player)
  const letterOf = (key: number) => keys.get(PAD_KEYS[key] ?? '')?.toUpperCase() ?? ''
  const filled = pools.toSorted((a, b) => a.key - b.key)
  const free = Array.from({ length: POOL_KEYS }, (_, key) => key).filter((key) =>
    pools.every((pool) => pool.key !== key),
  )
  return (
    <>
      <ul className="text-[12px]">
        {filled.map((pool) => (
          <li key={pool.key}>
            <button
              type="button"
              title="Change"
              onClick={() => setEditing(pool.key)}
              className="flex min-h-6 w-full items-center gap-1.5 rounded-[3px] px-1 text-left hover:bg-paper-2"
            >
              <Kbd>{letterOf(pool.key)}</Kbd> <span className="min-w-0 flex-1 truncate">{pool.name}</span>{' '}
              <span className="font-mono">{pool.members.length}</span>
            </button>
          </li>
        ))}
      </ul>
      {free.length > 0 && (
        <p className="flex flex-wrap items-center gap-0.5 px-1 text-[12px] text-ink-2">
          {filled.length > 0 ? 'Free' : 'Ten keys to perform with. Fill'}
          {free.map((key) => (
            <button
              key={key}
              type="button"
              aria-label={`Fill ${letterOf(key)}`}
              title="Fill this key"
              onClick={() => setEditing(key)}
              className="min-h-6 rounded-[3px] px-0.5 hover:bg-paper-2"
            >
              <Kbd>{letterOf(key)}</Kbd>
            </button>
          ))}
        </p>
      )}
      {editing !== null && player && (
        <PoolDialog at={editing} reelId={reelId} player={player} onClose={() => setEditing(null)} />
      )}
    </>
  )
}

import { DialogTitle } from '@headlessui/react'
import {
  CATEGORIES,
  CATEGORY_NAMES,
  guessCategory,
  MOST_MEMBERS,
  PICKS,
  withFound,
  type Pool,
  type PoolMember,
  type PoolPick,
  type Sound,
} from '@yodel/core'
import { skipToken } from '@reduxjs/toolkit/query'
import { useState } from 'react'
import { poolsApi } from '../../api/poolsApi.js'
import { useKept } from '../../api/useKept.js'
import { useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { Tick } from '../../ui/Menu.js'
import { Overlay } from '../../ui/Overlay.js'
import { LimitsField } from '../../ui/LimitsField.js'
import { Refusal } from '../../ui/Refusal.js'
import { TextField } from '../../ui/TextField.js'
import type { HitPlayer } from '../../session/HitPlayer.js'
import { FillPool } from './FillPool.js'
import { PoolMembers } from './PoolMembers.js'
import { usePoolKeeper } from './usePoolKeeper.js'

const PICK_NAMES: Readonly<Record<PoolPick, string>> = {
  once: 'each once before any again',
  other: 'never the same twice running',
  order: 'one after the other',
}

const UNNAMED = 'New pool'

/** A pool with nothing in it, for what is being looked at. */
const emptyPool = (key: number, sound: Sound | null): Pool => ({
  ...{
    id: crypto.randomUUID(),
    version: 0,
    key,
    name: sound?.name.replace(/[\s\d]+$/, '').slice(0, 80) || UNNAMED,
  },
  ...{ category: sound ? guessCategory(sound) : 'FOL', pick: 'once', held: false },
  ...{ gain: [-2, 0], pitch: [-0.5, 0.5], members: [], live: '' },
})

/** What stands on a key: which sounds, and how they are picked and played. Each change is kept with the show at once. */
export function PoolDialog(props: {
  at: number
  /** A reel of the show. */
  reelId: string
  player: HitPlayer
  onClose: () => void
}) {
  const { at, reelId, player, onClose } = props
  const sound = useAppSelector((state) => state.trying.sound)
  const kept = useAppSelector((state) => state.perform.pools.find(({ key }) => key === at))
  const [pool, setPool] = useState<Pool>(() => kept ?? emptyPool(at, sound))
  const { change, drop, isDropped, refused } = useKept(
    pool,
    setPool,
    kept !== undefined,
    usePoolKeeper(reelId),
  )
  const { data } = poolsApi.useFirstSoundsQuery(pool.live === '' ? skipToken : { q: pool.live })
  const found = pool.live === '' ? [] : (data?.sounds ?? [])
  const fill = (members: readonly PoolMember[], first: { called: string; sound: Sound }): void => {
    const known = new Set(pool.members.map(keyOf))
    const all = [...pool.members, ...members.filter((one) => !known.has(keyOf(one)))].slice(0, MOST_MEMBERS)
    const called = { name: first.called.slice(0, 80), category: guessCategory(first.sound) }
    change({ members: all, ...(pool.name === UNNAMED ? called : {}) })
  }
  return (
    <Overlay open onClose={onClose} className="flex max-h-[86vh] w-[640px] flex-col p-5">
      <DialogTitle className="text-[16px] font-bold">{pool.name}</DialogTitle>
      <div className="mt-2 grid grid-cols-[auto_1fr_auto_1fr] items-center gap-x-3 gap-y-1.5 text-[12px]">
        <span className="text-ink-2">Name</span>
        <TextField
          label="Name of the pool"
          value={pool.name}
          className="!mx-0 border-line! bg-paper"
          onCommit={(name) => {
            if (name.trim() === '') return false
            change({ name: name.trim().slice(0, 80) })
          }}
        />
        <span className="text-ink-2">For</span>
        <Choice
          label="Category of the pool"
          value={pool.category}
          options={CATEGORIES.map((one) => [one, CATEGORY_NAMES[one]] as const)}
          onChange={(category) => change({ category })}
        />
        <span className="text-ink-2">Picks</span>
        <Choice
          label="How it picks"
          value={pool.pick}
          options={PICKS.map((pick) => [pick, PICK_NAMES[pick]] as const)}
          onChange={(pick) => change({ pick })}
        />
        <span className="text-ink-2">Plays</span>
        <Tick on={pool.held} onChange={() => change({ held: !pool.held })}>
          only while held
        </Tick>
        <LimitsField
          label="Gain, dB"
          value={pool.gain}
          least={-48}
          most={12}
          onChange={(gain) => change({ gain })}
        />
        <LimitsField
          label="Pitch, semitones"
          value={pool.pitch}
          least={-24}
          most={24}
          onChange={(pitch) => change({ pitch })}
        />
        <span className="text-ink-2">Goes on finding</span>
        <TextField
          label="Words of a search whose finds join by themselves"
          value={pool.live}
          placeholder="words of a search"
          className="!mx-0 border-line! bg-paper"
          onCommit={(live) => change({ live: live.trim().slice(0, 400) })}
        />
      </div>
      <FillPool onFill={fill} />
      <PoolMembers
        player={player}
        members={withFound(pool, found).members}
        onChange={(members) => change({ members: [...members] })}
      />
      <Refusal text={refused} className="mt-2 text-[12px]" />
      <div className="mt-3 flex gap-2">
        <Button look="strong" onClick={onClose}>
          Done
        </Button>
        {isDropped ? (
          <Button onClick={() => change({})}>Put it back on its key</Button>
        ) : (
          kept && (
            <Button look="bare" onClick={drop}>
              Take it off its key
            </Button>
          )
        )}
      </div>
    </Overlay>
  )
}

const keyOf = ({ soundId, part }: PoolMember): string => `${soundId} ${part?.from ?? ''} ${part?.to ?? ''}`

import { POOL_KEYS, type Pool } from '@yodel/core'
import { Pencil, Plus } from 'lucide-react'
import { useRef, useState, type PointerEvent } from 'react'
import { PAD_KEYS, usePads } from '../../actions/usePads.js'
import { useKeyboard } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { useAppSelector } from '../../document/store.js'
import { Kbd } from '../../ui/Button.js'
import { useSession } from '../../session/session.js'
import { PoolDialog } from './PoolDialog.js'
import { TakeTools } from './TakeTools.js'
import { useMidi } from './useMidi.js'
import { usePools } from './usePools.js'

/** The row of pools under the Sheet: ten keys, ten pads, and what was performed with them. */
export function PadRow() {
  const on = useAppSelector((state) => state.perform.on)
  const reelId = useAppSelector((state) => state.document.reelId)
  const { hits } = useSession()
  usePools(on ? reelId : null, hits)
  usePads()
  return on && reelId !== null ? <Row reelId={reelId} /> : null
}

function Row({ reelId }: { reelId: string }) {
  const { hits } = useSession()
  const pools = useAppSelector((state) => state.perform.pools)
  const [editing, setEditing] = useState<number | null>(null)
  const midi = useMidi()
  return (
    <section
      className="flex shrink-0 flex-col gap-1.5 border-t-2 border-ink bg-paper-2 px-2.5 py-2"
      aria-label="Perform"
      data-perform
    >
      <TakeTools midi={midi} />
      {/* At the very bottom: pads must not move under the hand when the tools need another line. */}
      <div className="grid grid-cols-10 gap-1.5">
        {Array.from({ length: POOL_KEYS }, (_, key) => (
          <Pad
            key={key}
            at={key}
            pool={pools.find((one) => one.key === key)}
            onEdit={() => setEditing(key)}
          />
        ))}
      </div>
      {editing !== null && (
        <PoolDialog at={editing} reelId={reelId} player={hits} onClose={() => setEditing(null)} />
      )}
    </section>
  )
}

function Pad({ at, pool, onEdit }: { at: number; pool: Pool | undefined; onEdit: () => void }) {
  const { perform } = useCommands()
  const { keys } = useKeyboard()
  const known = useAppSelector((state) => state.perform.gone)
  const release = useRef<(() => void) | undefined>(undefined)
  const letter = keys.get(PAD_KEYS[at] ?? '')?.toUpperCase() ?? ''
  if (!pool)
    return (
      <button
        type="button"
        aria-label={`Fill key ${letter}`}
        title="Fill this key"
        onClick={onEdit}
        className="flex h-[52px] flex-col items-center justify-center rounded-[5px] border border-dashed border-line text-ink-3 hover:border-ink-3 hover:text-ink"
      >
        <Kbd>{letter}</Kbd>
        <Plus size={13} aria-hidden />
      </button>
    )
  const gone = pool.members.filter(({ soundId }) => known.includes(soundId)).length
  const told = gone > 0 ? `${gone} gone` : String(pool.members.filter(({ weight }) => weight > 0).length)
  const onPointerDown = (event: PointerEvent): void => {
    if (event.button !== 0) return
    const box = event.currentTarget.getBoundingClientRect()
    // The lower on the pad, the harder.
    const part = Math.max(0, Math.min(1, (event.clientY - box.top) / box.height))
    release.current = perform.hit(at, Math.max(1, Math.round(127 * part)))
  }
  const letGo = (): void => {
    release.current?.()
    release.current = undefined
  }
  return (
    <div className={`ink-${pool.category} relative h-[52px]`} data-pad={at}>
      <button
        type="button"
        title="Hit: the lower, the harder"
        // By keyboard and by a screen reader: a press without a place.
        onClick={(event) => event.detail === 0 && perform.hit(at)?.()}
        onPointerDown={onPointerDown}
        onPointerUp={letGo}
        onPointerLeave={letGo}
        className="flex size-full touch-none flex-col rounded-[5px] border border-line border-t-[4px] border-t-(--cat) bg-card px-1.5 pt-0.5 text-left hover:border-ink-3 hover:border-t-(--cat) active:bg-paper-3"
      >
        <span className="line-clamp-2 text-[11px] leading-[13px] font-semibold wrap-anywhere">
          {pool.name}{' '}
        </span>
        <span
          className={`mt-auto flex w-full items-center gap-1 pb-0.5 text-[10.5px] ${gone > 0 ? 'text-gate' : 'text-ink-2'}`}
        >
          <Kbd>{letter}</Kbd> {told}
        </span>
      </button>
      <button
        type="button"
        aria-label={`Change ${pool.name}`}
        title="Change"
        onClick={onEdit}
        className="absolute right-0 bottom-0 grid size-6 place-items-center text-ink-3 hover:text-ink"
      >
        <Pencil size={11} />
      </button>
    </div>
  )
}

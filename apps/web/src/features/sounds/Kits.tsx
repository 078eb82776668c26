import type { Kit } from '@yodel/core'
import { memo, useState } from 'react'
import { KeyOf } from '../../actions/useKeys.js'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { viewActions } from '../../document/viewSlice.js'
import { searchActions } from '../../document/searchSlice.js'

/** A person's kits, which may lie in each other. One of them is the current one, which a key fills. */
export const Kits = memo(function Kits() {
  const dispatch = useAppDispatch()
  const { data: kits } = api.useKitsQuery()
  const [make] = api.useNewKitMutation()
  const [within, setWithin] = useState<string | null>(null)
  const add = (name: string): void => {
    if (name.trim() === '') return
    make({ name: name.trim(), parentId: within })
      .unwrap()
      .then(
        (kit) => dispatch(searchActions.currentKit(kit.id)),
        (error: unknown) => dispatch(viewActions.notify({ tone: 'problem', text: messageOf(error) })),
      )
    setWithin(null)
  }
  const inside = kits?.find((kit) => kit.id === within)
  return (
    <section className="mb-4" data-kits>
      <h2 className="mb-1 text-[13px] font-bold">Kits</h2>
      {kits?.length === 0 && (
        <p className="text-[12px] text-ink-2">
          A kit gathers sounds for next time. The current one is filled by <KeyOf action="put-in-kit" />.
        </p>
      )}
      {tree(kits ?? [], null).map((kit) => (
        <KitLine key={kit.id} kit={kit} within={kits ?? []} onAdd={() => setWithin(kit.id)} />
      ))}
      {tree(kits ?? [], null).length < (kits?.length ?? 0) &&
        kits
          ?.filter((kit) => !isReached(kits, kit))
          .map((kit) => <KitLine key={kit.id} kit={kit} within={[]} onAdd={() => setWithin(kit.id)} />)}
      <TextField
        label="Name of a new kit"
        value=""
        placeholder={inside ? `New kit in ${inside.name}, then Enter` : 'New kit, then Enter'}
        autoFocusKey={within}
        className="!mx-0 mt-1 border-line! bg-card text-[12px]"
        onCommit={(name) => {
          add(name)
          return false
        }}
      />
    </section>
  )
})

const tree = (kits: readonly Kit[], parent: string | null): Kit[] =>
  kits.filter((kit) => kit.parentId === parent)
/** A shared kit may lie in one that is not shared: it stands at the end then. */
const isReached = (kits: readonly Kit[], kit: Kit): boolean =>
  kit.parentId === null || kits.some((other) => other.id === kit.parentId)

function KitLine({ kit, within, onAdd }: { kit: Kit; within: readonly Kit[]; onAdd: () => void }) {
  const dispatch = useAppDispatch()
  const shown = useAppSelector((state) => state.search.kit?.id === kit.id)
  const current = useAppSelector((state) => state.search.currentKit === kit.id)
  const [edit] = api.useEditKitMutation()
  const [remove] = api.useDeleteKitMutation()
  return (
    <div>
      <div
        className={`flex min-h-6 items-center gap-1.5 rounded-[3px] px-1 text-[12px] ${shown ? 'bg-ink text-paper' : 'hover:bg-paper-2'}`}
      >
        <button
          type="button"
          className="min-w-0 flex-1 truncate text-left"
          aria-pressed={shown}
          onClick={() => dispatch(searchActions.kit(shown ? null : { id: kit.id, name: kit.name }))}
        >
          {kit.name}
          {current ? ' ·' : ''} {current && <span className="text-[11px]">current</span>}
        </button>
        {kit.shared && <span className="text-[11px]">shared</span>}
        <span className="font-mono">{kit.sounds}</span>
      </div>
      {shown && (
        <div className="flex flex-wrap gap-1 py-1">
          {!current && (
            <Button onClick={() => dispatch(searchActions.currentKit(kit.id))}>Make current</Button>
          )}
          <Button onClick={onAdd}>Kit in it</Button>
          <Button onClick={() => void edit({ id: kit.id, shared: !kit.shared })}>
            {kit.shared ? 'Keep to myself' : 'Share'}
          </Button>
          <Button
            onClick={() => {
              dispatch(searchActions.kit(null))
              void remove(kit.id)
            }}
          >
            Delete
          </Button>
        </div>
      )}
      <div className="pl-3">
        {tree(within, kit.id).map((child) => (
          <KitLine key={child.id} kit={child} within={within} onAdd={onAdd} />
        ))}
      </div>
    </div>
  )
}

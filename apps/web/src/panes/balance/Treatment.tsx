import {
  addInsert,
  deleteRecords,
  editInsert,
  EFFECT_NAMES,
  EFFECTS,
  insertsOn,
  moveInsert,
  PRESETS,
  type Effect,
  type Insert,
} from '@yodel/core'
import { ArrowDown, ArrowUp, ChevronDown, ChevronRight, X } from 'lucide-react'
import { useState } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Choice } from '../../ui/Choice.js'
import { edit } from '../../document/edit.js'
import { viewActions } from '../../document/viewSlice.js'
import { InsertSettings } from './InsertSettings.js'

const KINDS = Object.keys(EFFECTS) as Effect[]
const SMALL =
  'grid size-6 shrink-0 place-items-center rounded-[3px] text-ink-2 hover:text-ink disabled:opacity-35'

/** How the treatment of one place is changed. */
export interface TreatmentHands<E extends Effect = Effect> {
  /** Kinds that can be added. */
  readonly kinds: readonly E[]
  /** @returns The id of the piece, or null where it can't be added */
  readonly add: (effect: E) => string | null
  readonly set: (insert: Insert, fields: Readonly<Record<string, number | string | boolean>>) => unknown
  /** Puts a piece before another one; null puts it last. */
  readonly move: (insert: Insert, before: string | null) => unknown
  readonly remove: (insert: Insert) => unknown
  /** Lets a piece be heard as it is being pulled; null ends that. */
  readonly pull: (insert: Insert, pulled: Insert | null) => void
  /** A piece as it is being pulled, or as it is. */
  readonly shown: (insert: Insert) => Insert
}

/** The treatment of a track, a stem or the whole: its pieces from first to last, and one more. */
export function Treatment({ on }: { on: string }) {
  const dispatch = useAppDispatch()
  const inserts = useAppSelector((state) => insertsOn(state.document.doc, on))
  const pulled = useAppSelector((state) => state.view.pulled)
  const hands: TreatmentHands = {
    kinds: KINDS,
    add: (effect) => {
      const id = crypto.randomUUID()
      return dispatch(edit((doc) => addInsert(doc, { id, on, effect }))) ? id : null
    },
    set: ({ id }, fields) => dispatch(edit((doc) => editInsert(doc, { id, fields }))),
    move: ({ id }, before) => dispatch(edit((doc) => moveInsert(doc, { id, before }))),
    remove: ({ id }) => dispatch(edit((doc) => deleteRecords(doc, { ids: [id] }))),
    pull: (_, next) => void dispatch(viewActions.pull(next)),
    shown: (insert) => (pulled?.kind === 'insert' && pulled.id === insert.id ? pulled : insert),
  }
  return <Pieces place={on} inserts={inserts} hands={hands} />
}

/** Pieces of treatment from first to last, and one more. */
export function Pieces<E extends Effect>(props: {
  place: string
  inserts: readonly Insert[]
  hands: TreatmentHands<E>
}) {
  const { place, inserts, hands } = props
  const [open, setOpen] = useState<string | null>(null)
  return (
    <section className="mt-3" aria-label="Treatment" data-treatment={place}>
      <h3 className="flex items-center gap-2 text-[11px] font-bold tracking-wide text-ink-2">
        <span className="flex-1">Treatment</span>
        <Choice<E | ''>
          label="Add treatment"
          value=""
          options={[['', 'Add …'], ...hands.kinds.map((effect) => [effect, EFFECT_NAMES[effect]] as const)]}
          onChange={(effect) => {
            const id = effect === '' ? null : hands.add(effect)
            if (id !== null) setOpen(id)
          }}
          givesBack
        />
      </h3>
      {inserts.length === 0 && <p className="text-[11.5px] text-ink-3">None: sound goes through as it is.</p>}
      <ol>
        {inserts.map((insert, index) => (
          <Piece
            key={insert.id}
            insert={insert}
            index={index}
            all={inserts}
            hands={hands as unknown as TreatmentHands}
            open={open === insert.id}
            onOpen={(wanted) => setOpen(wanted ? insert.id : null)}
          />
        ))}
      </ol>
    </section>
  )
}

function Piece(props: {
  insert: Insert
  index: number
  all: readonly Insert[]
  hands: TreatmentHands
  open: boolean
  onOpen: (open: boolean) => void
}) {
  const { insert, index, all, hands, open } = props
  const { effect, bypass } = insert
  const name = EFFECT_NAMES[effect]
  const presets = PRESETS[effect] as readonly {
    name: string
    settings: Readonly<Record<string, number | string>>
  }[]
  const values = insert as unknown as Readonly<Record<string, unknown>>
  const preset = presets.find(({ settings }) =>
    Object.entries(settings).every(([field, value]) => values[field] === value),
  )
  const set = (fields: Readonly<Record<string, number | string | boolean>>): unknown =>
    hands.set(insert, fields)
  const move = (before: string | null): unknown => hands.move(insert, before)
  return (
    <li className="border-t border-hair" data-insert={effect}>
      <div className="flex items-center gap-0.5">
        <button
          type="button"
          className={SMALL}
          aria-expanded={open}
          aria-label={`Settings of ${name}`}
          onClick={() => props.onOpen(!open)}
        >
          {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
        </button>
        <span
          className={`min-w-0 flex-1 truncate text-[12.5px] font-semibold ${bypass ? 'text-ink-3 line-through' : ''}`}
        >
          {name}
        </span>
        <button
          type="button"
          className={`${SMALL} text-[10.5px] font-bold ${bypass ? 'text-gate' : ''}`}
          aria-pressed={bypass}
          title="Pass it by"
          aria-label={`Pass ${name} by`}
          onClick={() => set({ bypass: !bypass })}
        >
          {bypass ? 'off' : 'on'}
        </button>
        <button
          type="button"
          className={SMALL}
          aria-label={`${name} earlier`}
          disabled={index === 0}
          onClick={() => move(all[index - 1]?.id ?? null)}
        >
          <ArrowUp size={13} />
        </button>
        <button
          type="button"
          className={SMALL}
          aria-label={`${name} later`}
          disabled={index === all.length - 1}
          onClick={() => move(all[index + 2]?.id ?? null)}
        >
          <ArrowDown size={13} />
        </button>
        <button
          type="button"
          className={SMALL}
          aria-label={`Remove ${name}`}
          onClick={() => hands.remove(insert)}
        >
          <X size={13} />
        </button>
      </div>
      {open && (
        <div className="pb-2 pl-1">
          {/* The presets of a place are the places. */}
          {effect !== 'place' && (
            <Choice
              label={`Preset of ${name}`}
              value={preset?.name ?? ''}
              options={[
                ...(preset ? [] : [['', 'Own settings'] as const]),
                ...presets.map((one) => [one.name, one.name] as const),
              ]}
              onChange={(wanted) => set(presets.find((one) => one.name === wanted)?.settings ?? {})}
              className="mb-1 w-full"
            />
          )}
          <InsertSettings
            insert={insert}
            pulled={hands.shown(insert)}
            onPull={(next) => hands.pull(insert, next)}
            onSet={set}
          />
        </div>
      )}
    </li>
  )
}

import { MOST_VARIATIONS, usableFor, type StackPlan } from '@yodel/core'
import { useState } from 'react'
import { KeyOf } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { messageOf } from '../../api/api.js'
import { stackActions } from '../../document/stackSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { Refusal } from '../../ui/Refusal.js'
import { TextField } from '../../ui/TextField.js'
import { ChosenVariation } from './ChosenVariation.js'
import { PlanDialog } from './PlanDialog.js'
import { usePlans } from './usePlans.js'
import { VariationList } from './VariationList.js'
import { WriteStacks } from './WriteStacks.js'

/** Stacks made by rule: a plan, any number of variations of it, tried on the cue like sounds, kept as one thing. */
export function StacksPane() {
  const { stacks } = useCommands()
  const { plans, error } = usePlans()
  const { planId, plan, found } = useAppSelector((state) => state.stacking)
  const [editing, setEditing] = useState<StackPlan | null>(null)
  if (!plans)
    return (
      <p className="p-3 text-ink-2">
        {error ? '' : 'Asking for the plans of the show …'}
        <Refusal text={error ? messageOf(error) : null} />
      </p>
    )
  const begin = (): void => setEditing(newPlan())
  return (
    <div className="flex min-h-0 flex-1 flex-col" data-stacks>
      <div className="flex shrink-0 items-center gap-1.5 px-3 py-2">
        {plans.length > 0 && (
          <>
            <Choice
              label="Plan"
              className="min-w-0 flex-1"
              value={planId ?? ''}
              options={plans.map(({ id, name }) => [id, name] as const)}
              onChange={stacks.choosePlan}
              givesBack
            />
            <Button disabled={!plan} onClick={() => setEditing(plan)}>
              Edit …
            </Button>
          </>
        )}
        <Button onClick={begin}>New plan …</Button>
      </div>
      <Refusal text={error ? messageOf(error) : null} className="px-3 text-[12px]" />
      {plans.length === 0 && (
        <p className="px-3 text-[12px] text-ink-2">
          A plan says, layer by layer, what a stack is made of: a thud from one search, a whoosh that ends on
          it from another. It gives as many different stacks as you like, to try on a cue and to keep.
          Selected sounds become a stack with <KeyOf action="stack" />.
        </p>
      )}
      {plan && found && (
        <>
          <Numbers />
          <Missing plan={plan} />
          <VariationList plan={plan} found={found} />
          <ChosenVariation plan={plan} found={found} />
          <WriteStacks key={plan.id} plan={plan} />
        </>
      )}
      {plan && !found && !error && <p className="px-3 text-[12px] text-ink-2">Looking for its sounds …</p>}
      {editing && (
        <PlanDialog
          plan={editing}
          onClose={() => setEditing(null)}
          onKept={(id) => id !== planId && stacks.choosePlan(id)}
        />
      )}
    </div>
  )
}

const newPlan = (): StackPlan => ({
  ...{ id: crypto.randomUUID(), version: 0, name: 'New plan', layers: [] },
})

/** How many variations are listed, and from which seed on. */
function Numbers() {
  const dispatch = useAppDispatch()
  const { from, count } = useAppSelector((state) => state.stacking)
  const number = (text: string): number => (/^\d{1,10}$/.test(text.trim()) ? Number(text) : NaN)
  return (
    <div className="flex shrink-0 items-center gap-1.5 px-3 pb-1.5 text-[12px] text-ink-2">
      <TextField
        label="How many variations"
        value={String(count)}
        className="!mx-0 w-12! border-line! bg-card text-right font-mono"
        onCommit={(text) => {
          const wanted = number(text)
          if (!(wanted >= 1)) return false
          dispatch(stackActions.list({ count: Math.min(MOST_VARIATIONS, wanted) }))
        }}
      />
      from seed
      <TextField
        label="First seed"
        value={String(from)}
        className="!mx-0 w-16! border-line! bg-card text-right font-mono"
        onCommit={(text) => {
          const wanted = number(text)
          if (!(wanted < 2 ** 32)) return false
          dispatch(stackActions.list({ from: wanted }))
        }}
      />
      <Button className="ml-auto" onClick={() => dispatch(stackActions.shake())} title="Fresh variations">
        Shake
      </Button>
    </div>
  )
}

/** Layers for which nothing is found: stacks are made without them. */
function Missing({ plan }: { plan: StackPlan }) {
  const found = useAppSelector((state) => state.stacking.found)
  const none = plan.layers.filter((layer) => usableFor(layer, found?.[layer.id] ?? []).length === 0)
  const names = new Set(none.map(({ name }) => name))
  if (plan.layers.length === 0)
    return <p className="px-3 pb-1.5 text-[12px] text-ink-2">This plan has no layers yet. Edit it.</p>
  return none.length === 0 ? null : (
    <p className="px-3 pb-1.5 text-[12px] text-gate" role="status">
      Nothing is found for {[...names].join(', ')}: the stacks are made without.
    </p>
  )
}

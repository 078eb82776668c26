import { DialogTitle } from '@headlessui/react'
import { MOST_LAYERS, type StackLayer, type StackPlan } from '@yodel/core'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { useKept } from '../../api/useKept.js'
import { useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'
import { Refusal } from '../../ui/Refusal.js'
import { TextField } from '../../ui/TextField.js'
import { PlanLayer, sourceWords } from './PlanLayer.js'
import { usePlanKeeper } from './usePlanKeeper.js'

/** A layer that nothing is said of yet, with an id that no other layer of the plan has or had. */
const newLayer = (): StackLayer => ({
  ...{ id: crypto.randomUUID().replaceAll('-', '').slice(0, 12), name: 'Layer', category: 'FX' },
  ...{ source: { of: 'search', what: '', called: '' }, seconds: [0, 60], lies: 'sync', later: [0, 0] },
  ...{ gain: [-3, 0], pitch: [-1, 1], tempo: [1, 1], fadeIn: null, fadeOut: null, reverse: 0, there: 1 },
})

/** What stacks are made of, layer by layer. Each change is kept with the show at once. */
export function PlanDialog(props: { plan: StackPlan; onClose: () => void; onKept: (id: string) => void }) {
  const [plan, setPlan] = useState(props.plan)
  const { change, drop, isDropped, refused } = useKept(
    ...([plan, setPlan, props.plan.version > 0, usePlanKeeper(props.onKept)] as const),
  )
  const [open, setOpen] = useState(plan.layers[0]?.id ?? null)
  const found = useAppSelector(({ stacking }) => (stacking.plan?.id === plan.id ? stacking.found : null))
  const setLayers = (layers: StackLayer[]): void => change({ layers })
  const setLayer = (id: string, fields: Partial<StackLayer>): void =>
    setLayers(plan.layers.map((one) => (one.id === id ? { ...one, ...fields } : one)))
  const move = (at: number, by: 1 | -1): void => {
    const layers = [...plan.layers]
    const [one] = layers.splice(at, 1)
    if (one) setLayers(layers.toSpliced(at + by, 0, one))
  }
  const add = (): void => {
    const fresh = newLayer()
    setLayers([...plan.layers, fresh])
    setOpen(fresh.id)
  }
  return (
    <Overlay open onClose={props.onClose} className="flex max-h-[88vh] w-[660px] flex-col p-5">
      <DialogTitle className="text-[16px] font-bold">{plan.name}</DialogTitle>
      <TextField
        label="Name of the plan"
        value={plan.name}
        className="!mx-0 mt-2 w-64! border-line! bg-paper"
        onCommit={(name) => {
          if (name.trim() === '') return false
          change({ name: name.trim().slice(0, 80) })
        }}
      />
      <div className="mt-3 min-h-0 flex-1 overflow-y-auto border-t border-line">
        {plan.layers.length === 0 && (
          <p className="py-3 text-[12px] text-ink-2">
            No layers yet. Each layer says where one of the sounds of a stack comes from, and how it lies.
          </p>
        )}
        {plan.layers.map((layer, at) => (
          <section
            key={layer.id}
            className={`ink-${layer.category} border-b border-line`}
            data-layer={layer.name}
          >
            <div className="flex items-center gap-2 py-1 text-[12.5px]">
              <button
                type="button"
                aria-expanded={open === layer.id}
                className="flex min-h-6 min-w-0 flex-1 items-baseline gap-2 text-left hover:underline"
                onClick={() => setOpen(open === layer.id ? null : layer.id)}
              >
                <b className="text-(--cat)">{layer.name}</b>
                <span className="truncate text-[12px] text-ink-2">{sourceWords(layer)}</span>
              </button>
              {found?.[layer.id] && (
                <span
                  className={`font-mono text-[11px] ${found[layer.id]?.length === 0 ? 'text-gate' : 'text-ink-2'}`}
                >
                  {found[layer.id]?.length} found
                </span>
              )}
              <Small label={`${layer.name} up`} disabled={at === 0} onClick={() => move(at, -1)}>
                <ArrowUp size={13} />
              </Small>
              <Small
                label={`${layer.name} down`}
                disabled={at === plan.layers.length - 1}
                onClick={() => move(at, 1)}
              >
                <ArrowDown size={13} />
              </Small>
              <Small
                label={`Take ${layer.name} out`}
                onClick={() => setLayers(plan.layers.filter(({ id }) => id !== layer.id))}
              >
                <Trash2 size={13} />
              </Small>
            </div>
            {open === layer.id && (
              <PlanLayer layer={layer} onChange={(fields) => setLayer(layer.id, fields)} />
            )}
          </section>
        ))}
      </div>
      <Refusal text={refused} className="mt-2 text-[12px]" />
      <div className="mt-3 flex gap-2">
        <Button look="strong" onClick={props.onClose}>
          Done
        </Button>
        <Button disabled={plan.layers.length >= MOST_LAYERS} onClick={add}>
          Add a layer
        </Button>
        {isDropped ? (
          <Button onClick={() => change({})}>Put the plan back</Button>
        ) : (
          plan.layers.length > 0 && (
            <Button look="bare" onClick={drop}>
              Throw the plan away
            </Button>
          )
        )}
      </div>
    </Overlay>
  )
}

function Small(props: { label: string; disabled?: boolean; onClick: () => void; children: React.ReactNode }) {
  return (
    <Button
      look="bare"
      className="px-1.5!"
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      onClick={props.onClick}
    >
      {props.children}
    </Button>
  )
}

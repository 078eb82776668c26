import {
  shakeStack,
  stackSpan,
  variationText,
  type FoundLayers,
  type ShakenLayer,
  type StackPlan,
  type Variation,
} from '@yodel/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react'
import { actionOf } from '../../actions/action.js'
import { CANDIDATE_ACTIONS } from '../../actions/resultActions.js'
import { useKeyboard, useOwnKeys } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { variationsListed } from '../../document/stackSlice.js'
import { useAppSelector } from '../../document/store.js'
import { useSession } from '../../session/session.js'
import { lengthOf } from '../sounds/describe.js'

const ROW = 30

/** Variations of a plan: chosen, heard, tried and kept by the keys of the results of a search. */
export function VariationList({ plan, found }: { plan: StackPlan; found: FoundLayers }) {
  const { stacks } = useCommands()
  const { listening } = useSession()
  const stacking = useAppSelector((state) => state.stacking)
  const keyboard = useKeyboard()
  const actions = useOwnKeys(CANDIDATE_ACTIONS)
  const { from, count, basis } = stacking
  const listed = useMemo(() => variationsListed({ from, count, basis }), [from, count, basis])
  const shaken = useMemo(() => listed.map((one) => shakeStack(plan, one, found)), [plan, listed, found])
  const range = useMemo(() => rangeOf(shaken), [shaken])
  const chosen = stacking.chosen && variationText(stacking.chosen)
  const at = listed.findIndex((one) => variationText(one) === chosen)
  const list = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    ...{ count: listed.length, estimateSize: () => ROW, overscan: 6 },
    getScrollElement: () => list.current,
  })
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at)
  }, [at, rows])
  const isTrying = stacking.place !== null
  const hands = {
    step: stacks.step,
    enter: () => {
      if (isTrying) {
        // The keyboard goes back to the Sheet: the next press is for the next cue.
        list.current?.blur()
        return stacks.keep()
      }
      if (at < 0 && listed[0]) stacks.choose(listed[0])
      stacks.here()
    },
    escape: () => {
      if (isTrying) return stacks.putBack()
      listening.stop()
      list.current?.blur()
    },
    shuffle: () => {
      const any = listed[Math.floor(Math.random() * listed.length)]
      if (any) stacks.choose(any)
    },
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    const action = event.ctrlKey || event.metaKey ? null : actionOf(actions, event, keyboard)
    if (!action) return
    event.preventDefault()
    event.stopPropagation()
    action.run(hands)
  }
  return (
    <div
      ref={list}
      className="min-h-24 flex-1 overflow-y-auto border-y border-line outline-none focus-visible:bg-paper-2"
      tabIndex={0}
      role="listbox"
      aria-label="Variations"
      onKeyDown={onKeyDown}
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((row) => {
          const variation = listed[row.index]
          return variation ? (
            <div
              key={row.key}
              role="option"
              aria-selected={row.index === at}
              className={`absolute inset-x-0 flex cursor-pointer items-center gap-2 border-l-[3px] px-2.5 ${row.index === at ? 'border-ink bg-card' : 'border-transparent hover:bg-paper-2'}`}
              style={{ top: row.start, height: ROW }}
              onClick={() => stacks.choose(variation)}
            >
              <Drawn {...{ plan, variation, range }} layers={shaken[row.index] ?? []} />
            </div>
          ) : null
        })}
      </div>
    </div>
  )
}

/** The samples around the moment that all of them take together. */
function rangeOf(shaken: readonly (readonly ShakenLayer[])[]): readonly [number, number] {
  const spans = shaken.flatMap((layers) => [stackSpan(layers) ?? [0, 1]])
  return [Math.min(0, ...spans.map(([from]) => from)), Math.max(1, ...spans.map(([, to]) => to))]
}

/** Its number, its layers as bars in time around the moment, and how long it is. @param range - Samples around the moment that all rows show */
function Drawn(props: {
  plan: StackPlan
  layers: readonly ShakenLayer[]
  variation: Variation
  range: readonly [number, number]
}) {
  const { plan, layers, variation, range } = props
  const span = stackSpan(layers)
  const tall = 22 / Math.max(1, plan.layers.length)
  return (
    <>
      <span className="w-10 shrink-0 truncate font-mono text-[11.5px]">{variation.seed}</span>
      {span ? (
        <svg
          className="h-[22px] min-w-0 flex-1"
          viewBox={`${range[0]} 0 ${range[1] - range[0]} 22`}
          preserveAspectRatio="none"
          aria-hidden
        >
          {layers.map(({ layer, category, sound, at }) => {
            const from = sound.from ?? 0
            const row = plan.layers.findIndex(({ id }) => id === layer)
            return (
              <rect
                key={layer}
                className={`ink-${category}`}
                fill="var(--cat)"
                {...{ x: at - sound.sync + from, width: (sound.to ?? sound.recorded) - from }}
                {...{ y: row * tall, height: Math.max(1, Math.min(3.5, tall - 0.5)) }}
              />
            )
          })}
          <line x1={0} x2={0} y1={0} y2={22} stroke="var(--ink)" vectorEffect="non-scaling-stroke" />
        </svg>
      ) : (
        <span className="flex-1 text-[11.5px] text-ink-3">no layer</span>
      )}
      <span className="w-12 shrink-0 text-right font-mono text-[11.5px] text-ink-2">
        {span ? lengthOf(span[1] - span[0]) : ''}
      </span>
    </>
  )
}

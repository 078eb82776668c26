import { RotateCcw, X } from 'lucide-react'
import { useState, type KeyboardEvent } from 'react'
import type { Action } from '../../../actions/action.js'
import { isReserved } from '../../../actions/keyboard/reserved.js'
import { isReachable, strokesOf, writtenStroke, type Stroke } from '../../../actions/keyboard/stroke.js'
import { useKeyboard } from '../../../actions/useKeys.js'
import type { Commands } from '../../../commands/commands.js'
import { keysActions } from '../../../document/keysSlice.js'
import { useAppDispatch, useAppSelector } from '../../../document/store.js'
import { Button, Kbd } from '../../../ui/Button.js'

const HELD = new Set(['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'CapsLock', 'Fn', 'Dead'])

type Clashes = ReadonlyMap<Stroke, readonly Action<Commands>[]>

/** An action with its keys; while they are being changed, the key is a button that waits for another one. */
export function KeyRow(props: { action: Action<Commands>; clashes: Clashes; changing: boolean }) {
  const { action, clashes, changing } = props
  const keyboard = useKeyboard()
  const written = action.strokes.map((stroke) => writtenStroke(stroke, keyboard))
  if (!changing && written.length === 0) return null
  const wrong = action.strokes.map((stroke) => wrongWith(stroke, action, clashes))
  const unreachable = action.strokes.filter((stroke) => !isReachable(stroke, keyboard))
  return (
    <div
      className="grid break-inside-avoid grid-cols-[104px_1fr] items-baseline gap-x-3 py-[3px]"
      data-action={action.id}
    >
      <span className="flex flex-wrap justify-end gap-1">
        {changing ? (
          <KeyButton action={action} written={written} />
        ) : (
          written.map((key) => <Kbd key={key}>{key}</Kbd>)
        )}
      </span>
      <span>
        {action.what}
        {changing && <Resets action={action} />}
        {[...wrong, ...unreachable.map(() => 'This keyboard does not have that key.')].map(
          (text, index) =>
            text && (
              <span key={index} className="block text-gate" role="status">
                {text}
              </span>
            ),
        )}
      </span>
    </div>
  )
}

function wrongWith(stroke: Stroke, action: Action<Commands>, clashes: Clashes): string | null {
  const others = (clashes.get(stroke) ?? []).filter(({ id }) => id !== action.id)
  if (others.length > 0) return `The same key as: ${others.map(({ what }) => what).join('; ')}`
  return isReserved(stroke) ? 'Some browsers keep this key for themselves.' : null
}

function KeyButton({ action, written }: { action: Action<Commands>; written: readonly string[] }) {
  const dispatch = useAppDispatch()
  const keyboard = useKeyboard()
  const [waiting, setWaiting] = useState(false)
  const label = waiting ? 'press a key' : written.join(' · ') || 'none'
  const onKeyDown = (event: KeyboardEvent): void => {
    if (!waiting || event.key === 'Tab') return
    event.preventDefault()
    event.stopPropagation()
    if (HELD.has(event.key)) return
    const [stroke] = strokesOf(event, keyboard)
    if (stroke !== undefined && event.key !== 'Escape')
      dispatch(keysActions.choose({ id: action.id, strokes: [stroke] }))
    setWaiting(false)
  }
  return (
    <Button
      className="max-w-full px-1.5 py-0 font-mono text-[10.5px]"
      aria-label={`${label}, key for: ${action.what}`}
      look={waiting ? 'gate' : 'plain'}
      onClick={() => setWaiting(true)}
      onBlur={() => setWaiting(false)}
      onKeyDown={onKeyDown}
    >
      {label}
    </Button>
  )
}

function Resets({ action }: { action: Action<Commands> }) {
  const dispatch = useAppDispatch()
  const isOwn = useAppSelector((state) => action.id in state.keys.own)
  const choose = (strokes: string[] | null) => () =>
    void dispatch(keysActions.choose({ id: action.id, strokes }))
  return (
    <span className="ml-1 inline-flex gap-0.5 align-middle">
      {action.strokes.length > 0 && (
        <Button
          look="bare"
          className="px-1"
          aria-label={`No key for: ${action.what}`}
          title="No key"
          onClick={choose([])}
        >
          <X size={12} />
        </Button>
      )}
      {isOwn && (
        <Button
          look="bare"
          className="px-1"
          aria-label={`Put back the key for: ${action.what}`}
          title="Put back"
          onClick={choose(null)}
        >
          <RotateCcw size={12} />
        </Button>
      )}
    </span>
  )
}

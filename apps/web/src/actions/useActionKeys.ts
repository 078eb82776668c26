import { useEffect } from 'react'
import { useCommands } from '../commands/CommandsProvider.js'
import type { Commands } from '../commands/commands.js'
import { isDialogOpen } from '../ui/openDialogs.js'
import { useAppStore, type AppStore } from '../document/store.js'
import { actionOf, type Action } from './action.js'
import { keyboardOf } from './keyboard/watchKeyboard.js'
import { TypingGuard } from './TypingGuard.js'
import { useOwnKeys } from './useKeys.js'

const FIELDS = 'input, textarea, select, [contenteditable]'
const NOT_TYPED_INTO = '[type=checkbox], [type=file], [type=range]'
const CONTROLS = 'button, a, [role="radio"]'
/** Controls of the Sheet's own, on which Space and Enter are keys of the Sheet. */
const OF_THE_SHEET = '[data-clip], [data-cue], [data-timecode]'

/** One for the page, however many tables are listened to: what one of them has swallowed, none may run. */
const guard = new TypingGuard()

const within = (target: EventTarget | null, selector: string): Element | null =>
  target instanceof Element ? target.closest(selector) : null

/** The field that is typed into, or null. */
function fieldOf(target: EventTarget | null): Element | null {
  const field = within(target, FIELDS)
  return field?.matches(NOT_TYPED_INTO) ? null : field
}

/**
 * Listens to the keys of actions while the page is shown. Keys never act while somebody types in a field, nor while
 * a dialog is open, nor when the field that they were typed into has gone away by itself.
 */
export function useActionKeys(actions: readonly Action<Commands>[]): void {
  const commands = useCommands()
  const store = useAppStore()
  const chosen = useOwnKeys(actions)
  useEffect(() => listen(chosen, commands, store), [chosen, commands, store])
}

function listen(actions: readonly Action<Commands>[], commands: Commands, store: AppStore): () => void {
  /** What is to be done when a key is released, by the key. */
  const held = new Map<string, () => void>()
  const onDown = (event: KeyboardEvent): void => {
    if (event.defaultPrevented || isDialogOpen()) return
    if (fieldOf(event.target)) return
    if (guard.swallows(event.key)) return event.preventDefault()
    const action = actionOf(actions, event, keyboardOf(store.getState()))
    if (!action) return
    const onControl = within(event.target, CONTROLS) && !within(event.target, OF_THE_SHEET)
    if (onControl && (event.key === ' ' || event.key === 'Enter')) return
    event.preventDefault()
    if (held.has(event.code)) return
    const release = action.run(commands)
    if (release) held.set(event.code, release)
  }
  // Seen on its way down: fields keep their keys to themselves.
  const onTyped = (event: KeyboardEvent): void => {
    if (fieldOf(event.target)) guard.typed(event.key)
  }
  const onUp = (event: KeyboardEvent): void => {
    const release = held.get(event.code)
    held.delete(event.code)
    release?.()
  }
  const onFocus = (event: FocusEvent): void => {
    const field = fieldOf(event.target)
    if (field) guard.entered(field)
  }
  const onPress = (): void => guard.left()
  const ended = new AbortController()
  const { signal } = ended
  window.addEventListener('keydown', onDown, { signal })
  window.addEventListener('keydown', onTyped, { signal, capture: true })
  window.addEventListener('keyup', onUp, { signal })
  window.addEventListener('focusin', onFocus, { signal })
  window.addEventListener('pointerdown', onPress, { signal, capture: true })
  return () => ended.abort()
}

/** A button that was clicked gives the keyboard back to the page: mute, then Space, is to play and not to unmute. */
export function useKeyboardBack(): void {
  useEffect(() => {
    const onClick = (event: MouseEvent): void => {
      const byPointer = event.detail > 0
      const button = within(event.target, 'button:not([aria-expanded], [data-cue])')
      if (byPointer && button instanceof HTMLElement) button.blur()
    }
    window.addEventListener('click', onClick)
    return () => window.removeEventListener('click', onClick)
  }, [])
}

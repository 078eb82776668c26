import { useEffect } from 'react'
import { useCommands } from '../commands/CommandsProvider.js'
import { useAppSelector, useAppStore } from '../document/store.js'
import { isDialogOpen } from '../ui/openDialogs.js'

/** The ten keys of the bottom row of letters, from the left, by their places. */
export const PAD_KEYS = ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM', 'Comma', 'Period', 'Slash']

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('input:not([type=checkbox]), textarea, select') !== null

/** While the row of pools is open, the keys on which pools stand hit; with Ctrl, Alt or Shift they mean what they always do. */
export function usePads(): void {
  const { perform } = useCommands()
  const store = useAppStore()
  const on = useAppSelector((state) => state.perform.on)
  useEffect(() => {
    if (!on) return
    const held = new Map<string, () => void>()
    const onDown = (event: KeyboardEvent): void => {
      const key = PAD_KEYS.indexOf(event.code)
      const { pools, exercise } = store.getState().perform
      // A key on which nothing stands means what it always does, but where a hand is measured.
      const isMeasured = key >= 0 && exercise?.state === 'running'
      if (!isMeasured && !pools.some((pool) => pool.key === key)) return
      if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return
      if (isDialogOpen() || isTyping(event.target)) return
      event.preventDefault()
      event.stopImmediatePropagation()
      if (event.repeat || held.has(event.code)) return
      const release = perform.hit(key)
      if (release) held.set(event.code, release)
    }
    const onUp = (event: KeyboardEvent): void => {
      held.get(event.code)?.()
      held.delete(event.code)
    }
    const letAllGo = (): void => {
      for (const release of held.values()) release()
      held.clear()
    }
    // On its way down, before the keys of the Sheet.
    window.addEventListener('keydown', onDown, { capture: true })
    window.addEventListener('keyup', onUp, { capture: true })
    window.addEventListener('blur', letAllGo)
    return () => {
      letAllGo()
      window.removeEventListener('keydown', onDown, { capture: true })
      window.removeEventListener('keyup', onUp, { capture: true })
      window.removeEventListener('blur', letAllGo)
    }
  }, [on, perform, store])
}

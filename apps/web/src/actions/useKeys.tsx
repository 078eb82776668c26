import { useMemo } from 'react'
import { useAppSelector } from '../document/store.js'
import { Kbd } from '../ui/Button.js'
import { withOwnKeys, type Action } from './action.js'
import { writtenHeld, writtenStroke, type Keyboard } from './keyboard/stroke.js'
import { keyboardOf } from './keyboard/watchKeyboard.js'
import { SHEET_BY_ID } from './sheetActions.js'

/** The keyboard in front of the person. */
export const useKeyboard = (): Keyboard => useAppSelector(keyboardOf)

/** A table of actions with the keys that the person has chosen. */
export function useOwnKeys<Hands>(actions: readonly Action<Hands>[]): readonly Action<Hands>[] {
  const own = useAppSelector((state) => state.keys.own)
  return useMemo(() => withOwnKeys(actions, own), [actions, own])
}

/** The key of an action as it is written on the person's keyboard, or '' if it has none. @param id - Its name in the table of the Sheet */
export function useKeyOf(id: string): string {
  const keyboard = useKeyboard()
  const own = useAppSelector((state) => state.keys.own[id])
  const [stroke] = own ?? SHEET_BY_ID.get(id)?.strokes ?? []
  return stroke === undefined ? '' : writtenStroke(stroke, keyboard)
}

/** A tooltip that ends with the key of an action: `Guide on or off (G)`. */
export function useTipWithKey(text: string, id: string): string {
  const key = useKeyOf(id)
  return key ? `${text} (${key})` : text
}

/** The key of an action, drawn as a key; nothing if it has none. */
export function KeyOf({ action, onDark = false }: { action: string; onDark?: boolean }) {
  const key = useKeyOf(action)
  return key ? <Kbd onDark={onDark}>{key}</Kbd> : null
}

/** What Ctrl and Alt are called on this machine. */
export function useHeldNames(): { readonly ctrl: string; readonly alt: string } {
  const { mac } = useKeyboard()
  return { ctrl: writtenHeld('Ctrl', mac), alt: writtenHeld('Alt', mac) }
}

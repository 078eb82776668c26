import { CATEGORIES } from '@yodel/core'
import { useEffect } from 'react'
import { useCommands } from '../commands/commands.js'
import type { SheetAction } from './sheetActions.js'

/** Keys that mean the same as another one. */
const SAME: Readonly<Record<string, string>> = { 'Backspace': 'Delete', '=': '+', '_': '-' }

/** Says whether a key press belongs to something else than the page: a field that is typed into, or an open dialog. */
export function isTaken(event: KeyboardEvent): boolean {
  if (event.defaultPrevented || document.querySelector('[role="dialog"]')) return true
  const field =
    event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [contenteditable]')
  return Boolean(field) && !(field as HTMLElement).matches('[type=checkbox], [type=file], [type=range]')
}

/** The action that a key press means, or null. Signs such as `?` need Shift on some keyboards, so it counts only where an action asks for it. */
export function actionOf(
  actions: readonly SheetAction[],
  event: Pick<KeyboardEvent, 'key' | 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>,
): SheetAction | null {
  const lower = event.key.length === 1 ? event.key.toLowerCase() : event.key
  const key = SAME[lower] ?? lower
  const held = [(event.ctrlKey || event.metaKey) && 'ctrl', event.altKey && 'alt', event.shiftKey && 'shift']
    .filter(Boolean)
    .join(' ')
  const found = actions.find((action) => action.press === key && (action.with ?? '') === held)
  if (found || held !== 'shift') return found ?? null
  return actions.find((action) => action.press === key && action.with === undefined) ?? null
}

/** Listens to the keys of the Sheet while it is shown. Keys never act while somebody types in a field. */
export function useSheetKeys(actions: readonly SheetAction[]): void {
  const commands = useCommands()
  useEffect(() => {
    const held = new Map<string, string>()
    const onDown = (event: KeyboardEvent): void => {
      if (isTaken(event)) return
      const category =
        event.ctrlKey || event.metaKey || event.altKey ? undefined : CATEGORIES[Number(event.key) - 1]
      if (category) {
        event.preventDefault()
        if (event.repeat || held.has(event.code)) return
        // The cue is there while the key is still down; its words are typed and its end is known at release.
        const id = commands.spot(category)
        if (id !== null) held.set(event.code, id)
        return
      }
      const action = actionOf(actions, event)
      // Undo and redo have a listener of their own on every page of the reel.
      if (!action || action.press === 'z') return
      const onControl =
        event.target instanceof HTMLElement &&
        event.target.closest('button, a, [role="radio"]') !== null &&
        !event.target.closest('[data-clip], [data-cue], [data-timecode]')
      if (onControl && (action.press === ' ' || action.press === 'Enter')) return
      event.preventDefault()
      action.run()
    }
    const onUp = (event: KeyboardEvent): void => {
      const id = held.get(event.code)
      if (id === undefined) return
      held.delete(event.code)
      commands.endSpot(id)
    }
    // A button that was clicked gives the keyboard back: mute, then Space, is to play and not to unmute.
    const onClick = (event: MouseEvent): void => {
      const byPointer = event.detail > 0
      if (byPointer && event.target instanceof HTMLElement)
        event.target.closest<HTMLElement>('button:not([aria-expanded], [data-cue])')?.blur()
    }
    window.addEventListener('keydown', onDown)
    window.addEventListener('keyup', onUp)
    window.addEventListener('click', onClick)
    return () => {
      window.removeEventListener('click', onClick)
      window.removeEventListener('keydown', onDown)
      window.removeEventListener('keyup', onUp)
    }
  }, [actions, commands])
}

/** Keys held with another one, in this order. */
export type Held = 'shift' | 'alt' | 'alt shift' | 'ctrl' | 'ctrl shift'

/** Something that can be done by a key, from the list of keys, and from the palette. */
export interface Action<Hands> {
  /** `event.key`, letters in lower case. */
  readonly press: string
  readonly held?: Held
  readonly what: string
  /** Does it. What comes back, if anything, is to be called when the key is released. */
  readonly run: (hands: Hands) => (() => void) | void
}

/** One line of a table of actions: what is pressed (`Alt Shift e`), what it does in words, and by what hand. */
export type Line<Hands> = readonly [press: string, what: string, run: Action<Hands>['run']]

const MODIFIERS = ['ctrl', 'alt', 'shift']

/** Reads a table of actions. @param lines - The key of each as {@link Line} has it; a sign stands for itself. */
export function readTable<Hands>(lines: readonly Line<Hands>[]): readonly Action<Hands>[] {
  return lines.map(([pressed, what, run]) => {
    const words = pressed.split(' ')
    const held = words.filter((word) => MODIFIERS.includes(word.toLowerCase()))
    const [press = ''] = words.slice(held.length)
    const action = { press: press === 'Space' ? ' ' : press, what, run }
    return held.length === 0 ? action : { ...action, held: held.join(' ').toLowerCase() as Held }
  })
}

const WRITTEN: Readonly<Record<string, string>> = {
  ' ': 'Space',
  'ArrowDown': '↓',
  'ArrowUp': '↑',
  'ArrowLeft': '←',
  'ArrowRight': '→',
  'Escape': 'Esc',
  '-': '−',
}

/** A key as it is written on the keyboard: `Alt Shift E`. */
export function writtenKey({ press, held }: Pick<Action<never>, 'press' | 'held'>): string {
  const modifiers = (held ?? '').split(' ').filter(Boolean)
  const key = WRITTEN[press] ?? (press.length === 1 ? press.toUpperCase() : press)
  return [...modifiers.map((word) => word[0]?.toUpperCase() + word.slice(1)), key].join(' ')
}

/** Keys that mean the same as another one. */
const SAME: Readonly<Record<string, string>> = { 'Backspace': 'Delete', '=': '+', '_': '-' }

/** A key press as far as it says what is meant. */
export type Press = Pick<KeyboardEvent, 'key' | 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>

/** The action that a key press means, or null. Signs such as `?` need Shift on some keyboards, so it counts only where an action asks for it. */
export function actionOf<Hands>(actions: readonly Action<Hands>[], event: Press): Action<Hands> | null {
  const lower = event.key.length === 1 ? event.key.toLowerCase() : event.key
  const key = SAME[lower] ?? lower
  const held = [(event.ctrlKey || event.metaKey) && 'ctrl', event.altKey && 'alt', event.shiftKey && 'shift']
    .filter(Boolean)
    .join(' ')
  const found = actions.find((action) => action.press === key && (action.held ?? '') === held)
  if (found || held !== 'shift') return found ?? null
  return actions.find((action) => action.press === key && action.held === undefined) ?? null
}

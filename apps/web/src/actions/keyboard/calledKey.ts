import type { OwnKeys } from '../action.js'
import { SHEET_BY_ID } from '../sheetActions.js'
import { LAYOUTS } from './layouts.js'
import { writtenHeld, writtenStroke, type Keyboard } from './stroke.js'

/** The keyboard for which texts are written. */
const OF_TEXTS: Keyboard = { keys: LAYOUTS.us.keys, mac: false }
const BY_WRITTEN = new Map(
  [...SHEET_BY_ID.values()].flatMap(({ id, strokes }) =>
    strokes.map((stroke) => [writtenStroke(stroke, OF_TEXTS), id] as const),
  ),
)
const KEY = /^((Ctrl|Alt|Shift) )*(\S|Tab|Enter|Esc|Del|Space|PageUp|PageDown|Home|End|F\d)$/

/**
 * Calls a key that a text names as on a US keyboard (`Alt X`) as it is written on this one, and by the person's own
 * choice where it is the key of an action.
 *
 * @returns The key, or null where the text is no key
 */
export function calledKey(text: string, keyboard: Keyboard, own: OwnKeys): string | null {
  const written = text.replace(/-$/, '−')
  if (!KEY.test(written)) return null
  const id = BY_WRITTEN.get(written)
  const strokes = id === undefined ? [] : (own[id] ?? SHEET_BY_ID.get(id)?.strokes ?? [])
  if (id !== undefined) return strokes[0] === undefined ? 'no key' : writtenStroke(strokes[0], keyboard)
  return written.replace(/\b(Ctrl|Alt)\b/g, (held) => writtenHeld(held, keyboard.mac))
}

import { LAYOUTS, PLACES, type Written } from './layouts.js'

/** The keyboard in front of the person: what is written on it, and whether it is a Mac's. */
export interface Keyboard {
  readonly keys: Written
  readonly mac: boolean
}

/**
 * A key with those that are held with it, as `Ctrl Alt Shift c`. A letter means the key that writes it, wherever that
 * is; a digit or a sign (`[`) means the place where a US keyboard has it, whatever is written there; `Enter` and its
 * like are called as `KeyboardEvent.key` calls them. Decision 033.
 */
export type Stroke = string

/** A key press as far as it says what is meant. */
export interface Press extends Pick<
  KeyboardEvent,
  'key' | 'code' | 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'
> {
  getModifierState?(name: 'AltGraph'): boolean
}

const US = LAYOUTS.us.keys
const LETTER = /^[a-z]$/
/** Keys that mean the same as another one, and values of `key` that say nothing. */
const SAME: Readonly<Record<string, string>> = { 'Backspace': 'Delete', ' ': 'Space', '+': '=' }
const UNSAID = new Set(['Dead', 'Unidentified', 'Process'])

const isOtherScript = (key: string): boolean => /^\p{L}$/u.test(key) && !/^\p{Script=Latin}$/u.test(key)

/** The letter that is meant, or null. With Alt a Mac writes something else (å), so the place is looked up there. */
function letterOf(press: Press, keyboard: Keyboard): string | null {
  const there = keyboard.keys.get(press.code)
  const written = (press.altKey ? there : press.key)?.toLowerCase()
  if (written !== undefined && LETTER.test(written)) return written
  // Who writes Cyrillic or Greek has Latin letters where a US keyboard has them.
  const atUs = US.get(press.code) ?? ''
  return LETTER.test(atUs) && isOtherScript(press.altKey ? (there ?? '') : press.key) ? atUs : null
}

/** The name of the key itself: a letter, the sign of its place, or as the browser calls it; null if it has none. */
function nameOf(press: Press, keyboard: Keyboard): string | null {
  const { key, code } = press
  if (SAME[key] !== undefined && key !== '+') return SAME[key]
  if (key.length > 1 && !UNSAID.has(key)) return key
  if (code.startsWith('Numpad')) return SAME[key] ?? (key === ',' ? '.' : key)
  const letter = letterOf(press, keyboard)
  if (letter) return letter
  const sign = US.get(code)
  return sign === undefined || LETTER.test(sign) ? null : sign
}

/**
 * What a key press can mean, the likeliest first: by letter or place with what is held, and then by the sign that it
 * writes (`?`, `/`), since signs need Shift on some keyboards and AltGr on others. AltGr itself never counts as Alt.
 */
export function strokesOf(press: Press, keyboard: Keyboard): readonly Stroke[] {
  const { key, ctrlKey, metaKey, altKey, shiftKey } = press
  // A Mac has no AltGr, but some browsers call Option so there as well.
  const altGraph = !keyboard.mac && press.getModifierState?.('AltGraph') === true
  const sign = key.length === 1 && !LETTER.test(key.toLowerCase()) && key !== ' ' ? [SAME[key] ?? key] : []
  if (altGraph) return sign
  const held = [(ctrlKey || metaKey) && 'Ctrl', altKey && 'Alt', shiftKey && 'Shift'].filter(Boolean)
  const name = nameOf(press, keyboard)
  const stroke = name === null ? [] : [[...held, name].join(' ')]
  return ctrlKey || metaKey || altKey ? stroke : [...stroke, ...sign]
}

const ON_KEYS: Readonly<Record<string, string>> = {
  'ArrowDown': '↓',
  'ArrowUp': '↑',
  'ArrowLeft': '←',
  'ArrowRight': '→',
  'Escape': 'Esc',
  'Delete': 'Del',
  '-': '−',
  '=': '+',
}

const placeOf = (sign: string): string | undefined => PLACES.find((place) => US.get(place) === sign)

/** A held key as the machine calls it. @param held - `Ctrl`, `Alt` or `Shift` */
export function writtenHeld(held: string, mac: boolean): string {
  return mac ? (({ Ctrl: 'Cmd', Alt: 'Option' } as Record<string, string>)[held] ?? held) : held
}

/** A stroke as it is written on this keyboard: `Alt Ü` for `Alt [` on a German one. */
export function writtenStroke(stroke: Stroke, { keys, mac }: Keyboard): string {
  const held = stroke.split(' ')
  const name = held.pop() as string
  const place = LETTER.test(name) || /\d/.test(name) ? undefined : placeOf(name)
  const written = (place && keys.get(place)) ?? name
  const key = ON_KEYS[written] ?? (written.length === 1 && written !== 'ß' ? written.toUpperCase() : written)
  return [...held.map((word) => writtenHeld(word, mac)), key].join(' ')
}

/** Whether a stroke can be made on this keyboard without AltGr. */
export function isReachable(stroke: Stroke, { keys }: Keyboard): boolean {
  const name = stroke.split(' ').at(-1) as string
  if (LETTER.test(name)) return [...keys.values()].includes(name) || ![...keys.values()].includes('a')
  const place = placeOf(name)
  return place === undefined || !LETTER.test(keys.get(place) ?? '')
}

import { strokesOf, type Keyboard, type Press, type Stroke } from './keyboard/stroke.js'

/** Something that can be done by a key, from the list of keys, and from the palette. */
export interface Action<Hands> {
  /** What it is called in keys of one's own that are kept: `shape.split`. */
  readonly id: string
  /** The keys that do it; none where the palette is enough. */
  readonly strokes: readonly Stroke[]
  readonly what: string
  /** Does it. What comes back, if anything, is to be called when the key is released. */
  readonly run: (hands: Hands) => (() => void) | void
}

/** One line of a table of actions: its name, what is pressed (`Alt Shift c`; several with `or`; none), what it does in words, and by what hand. */
export type Line<Hands> = readonly [id: string, pressed: string, what: string, run: Action<Hands>['run']]

/** Reads a table of actions. */
export function readTable<Hands>(lines: readonly Line<Hands>[]): readonly Action<Hands>[] {
  return lines.map(([id, pressed, what, run]) => ({
    id,
    strokes: pressed === '' ? [] : pressed.split(' or '),
    what,
    run,
  }))
}

/** Keys that somebody has chosen instead of those of the tables, by the names of actions. */
export type OwnKeys = Readonly<Record<string, readonly Stroke[]>>

/** A table with the keys that somebody has chosen. */
export function withOwnKeys<Hands>(
  actions: readonly Action<Hands>[],
  own: OwnKeys,
): readonly Action<Hands>[] {
  return actions.map((action) => ({ ...action, strokes: own[action.id] ?? action.strokes }))
}

/** The action that a key press means on this keyboard, or null. */
export function actionOf<Hands>(
  actions: readonly Action<Hands>[],
  press: Press,
  keyboard: Keyboard,
): Action<Hands> | null {
  for (const stroke of strokesOf(press, keyboard)) {
    const found = actions.find((action) => action.strokes.includes(stroke))
    if (found) return found
  }
  return null
}

/** Strokes that more than one action of a table has, with those actions. */
export function clashesOf<Hands>(
  actions: readonly Action<Hands>[],
): ReadonlyMap<Stroke, readonly Action<Hands>[]> {
  const by = new Map<Stroke, Action<Hands>[]>()
  for (const action of actions)
    for (const stroke of action.strokes) by.set(stroke, [...(by.get(stroke) ?? []), action])
  return new Map([...by].filter(([, those]) => those.length > 1))
}

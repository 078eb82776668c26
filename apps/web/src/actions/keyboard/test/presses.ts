import { PLACES, LAYOUTS, type LayoutName } from '../layouts.js'
import type { Keyboard, Press } from '../stroke.js'
import { XKB } from './xkb.js'

/** A system as far as it changes what a browser says of a key. */
export type System = 'windows' | 'linux' | 'mac'

/** The keyboard as it is known where the browser does not say what is written on it. */
export const keyboardFor = (layout: LayoutName, system: System): Keyboard => ({
  keys: LAYOUTS[layout].keys,
  mac: system === 'mac',
})

const LEVELS = { plain: 0, shift: 1, altGraph: 2 } as const
const signAt = (layout: LayoutName, code: string, level: keyof typeof LEVELS): string | null => {
  const row: string = XKB[layout][LEVELS[level]]
  const sign = [...row][PLACES.indexOf(code)]
  return sign === undefined || sign === ' ' ? null : sign === '†' ? 'Dead' : sign
}

/** What is held with a key. */
export interface Holding {
  readonly shift?: boolean
  readonly alt?: boolean
  readonly ctrl?: boolean
  readonly altGraph?: boolean
}

/**
 * What a browser says of a key that is pressed (UI Events: `code` is the place, `key` what it writes with what is
 * held). With Option a Mac writes other signs: which ones, must not matter, so the most misleading stands here.
 * AltGr counts as Ctrl and Alt on Windows, as neither on Linux; a Mac has none.
 */
export function pressAt(layout: LayoutName, system: System, code: string, held: Holding = {}): Press {
  const { shift = false, alt = false, ctrl = false, altGraph = false } = held
  const mac = system === 'mac'
  const written = signAt(layout, code, altGraph ? 'altGraph' : shift ? 'shift' : 'plain')
  const named = PLACES.includes(code) ? (written ?? 'Unidentified') : code === 'Space' ? ' ' : code
  const onWindows = altGraph && system === 'windows'
  return {
    code,
    key: mac && alt && PLACES.includes(code) ? 'å' : named,
    shiftKey: shift,
    altKey: alt || onWindows,
    ctrlKey: (ctrl && !mac) || onWindows,
    metaKey: ctrl && mac,
    getModifierState: () => altGraph,
  }
}

const NAMED = ['Space', 'Enter', 'Escape', 'Delete', 'Backspace', 'Tab', 'Home', 'End', 'PageUp', 'PageDown']
const ARROWS = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight']

/** Every press that a hand can make without AltGr. */
export function allPresses(layout: LayoutName, system: System): readonly Press[] {
  const on = [false, true]
  const holdings = on.flatMap((shift) => on.flatMap((alt) => on.map((ctrl) => ({ shift, alt, ctrl }))))
  return [...PLACES, ...NAMED, ...ARROWS, 'F2'].flatMap((code) =>
    holdings.map((held) => pressAt(layout, system, code, held)),
  )
}

/** A press on a US keyboard, by the code of its key. */
export const usPress = (code: string, held?: Holding): Press => pressAt('us', 'linux', code, held)
/** The US keyboard. */
export const US_KEYBOARD: Keyboard = keyboardFor('us', 'linux')

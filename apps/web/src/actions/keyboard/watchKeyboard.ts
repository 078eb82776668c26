import { keysActions } from '../../document/keysSlice.js'
import type { AppStore, RootState } from '../../document/store.js'
import { guessLayout, LAYOUTS, layoutThatWrites, type LayoutName } from './layouts.js'
import type { Keyboard } from './stroke.js'

/** What Chromium has on secure pages: what is written on each key, by its place (W3C Keyboard Map). */
interface WithKeyboard {
  readonly keyboard?: { getLayoutMap(): Promise<ReadonlyMap<string, string>> }
}

const isName = (name: string | null): name is LayoutName => name !== null && name in LAYOUTS

/** Whether this is a Mac, whose keys have other names. */
const isMac = (): boolean => /Mac/.test(globalThis.navigator?.platform ?? '')

const guessed = (): LayoutName => guessLayout(globalThis.navigator?.language ?? '')

let last: { keys: RootState['keys']; keyboard: Keyboard } | null = null

/** The keyboard in front of the person: as chosen, else as the browser says, else as what was typed says, else as their language has it. */
export function keyboardOf({ keys }: Pick<RootState, 'keys'>): Keyboard {
  if (last?.keys === keys) return last.keyboard
  const name = [keys.layout, keys.told ? null : keys.learnt].find(isName)
  const written = name
    ? LAYOUTS[name].keys
    : keys.told
      ? new Map(Object.entries(keys.told))
      : LAYOUTS[guessed()].keys
  last = { keys, keyboard: { keys: written, mac: isMac() } }
  return last.keyboard
}

/** Finds out which keyboard this is, and goes on learning from what is typed where the browser doesn't say. */
export function watchKeyboard(store: AppStore): void {
  const ask = async (): Promise<void> => {
    const told = await (navigator as WithKeyboard).keyboard?.getLayoutMap()
    if (told?.size) store.dispatch(keysActions.setTold(Object.fromEntries(told)))
  }
  const askAgain = (): void => void ask().catch(() => undefined)
  askAgain()
  // Another keyboard may have been chosen in the system while the page was not looked at.
  window.addEventListener('focus', askAgain)
  window.addEventListener('keydown', (event) => {
    const { told, learnt } = store.getState().keys
    const letter = event.key.toLowerCase()
    if (told || event.altKey || event.ctrlKey || event.metaKey || !/^[a-z]$/.test(letter)) return
    const present = isName(learnt) ? learnt : guessed()
    const name = layoutThatWrites(event.code, letter, present)
    if (name && name !== present) store.dispatch(keysActions.setLearnt(name))
  })
}

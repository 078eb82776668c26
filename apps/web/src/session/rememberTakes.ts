import { rememberTakes } from '../document/performSlice.js'
import type { AppStore } from '../document/store.js'

/** Writes what is performed into the browser's store with each hit, so that a killed tab loses none. @returns The way to end it */
export function rememberTakesOf(store: AppStore, reelId: string): () => void {
  let { takes, current } = store.getState().perform
  return store.subscribe(() => {
    const { perform } = store.getState()
    if (perform.takes === takes && perform.current === current) return
    ;({ takes, current } = perform)
    rememberTakes(reelId, perform)
  })
}

import { documentActions } from './documentSlice.js'
import type { AppStore } from './store.js'
import { startSync } from './sync/startSync.js'
import { WaitingStore } from './sync/WaitingStore.js'
import { viewActions } from './viewSlice.js'

/** Keeps the open reel in step with the server for as long as the page lives, and warns who leaves before what waits is kept. */
export function connectSync(store: AppStore): void {
  startSync({
    state: () => store.getState().document,
    subscribe: store.subscribe,
    dispatch: store.dispatch,
    actions: documentActions,
    tell: (news) => void store.dispatch(viewActions.notify(news)),
    disk: new WaitingStore(),
  })
  window.addEventListener('beforeunload', (event) => {
    const { pending, disk } = store.getState().document
    if (pending.length > 0 && disk !== 'kept') event.preventDefault()
  })
}

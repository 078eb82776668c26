import { setupListeners } from '@reduxjs/toolkit/query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Provider } from 'react-redux'
import { RouterProvider } from 'react-router'
import { router } from './router.js'
import { makeStore } from './document/store.js'
import { followSystem } from './ui/theme.js'
import { watchKeyboard } from './actions/keyboard/watchKeyboard.js'
import { connectSync } from './document/connectSync.js'
import './index.css'

followSystem()
const store = makeStore()
connectSync(store)
watchKeyboard(store)
// Questions that ask for it are asked again when one comes back to the page.
setupListeners(store.dispatch)
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
)

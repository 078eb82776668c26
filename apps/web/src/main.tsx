import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Provider } from 'react-redux'
import { RouterProvider } from 'react-router'
import { router } from './app/router.js'
import { makeStore } from './app/store.js'
import { followSystem } from './app/theme.js'
import { startSending } from './features/reel/sendChanges.js'
import './index.css'

followSystem()
startSending()
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <Provider store={makeStore()}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
)

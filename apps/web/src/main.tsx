import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Provider } from 'react-redux'
import { RouterProvider } from 'react-router'
import { router } from './router.js'
import { makeStore } from './document/store.js'
import { followSystem } from './ui/theme.js'
import { connectSync } from './document/connectSync.js'
import './index.css'

followSystem()
const store = makeStore()
connectSync(store)
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
)

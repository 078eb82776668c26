import { createBrowserRouter } from 'react-router'
import { ReelGate } from '../features/reel/ReelGate.js'
import { SheetPage } from '../features/reel/SheetPage.js'
import { ShelvesPage } from '../features/shelves/ShelvesPage.js'
import { ShowsPage } from '../features/shows/ShowsPage.js'
import { TurnoverPage } from '../features/turnover/TurnoverPage.js'
import { Problem } from '../ui/Problem.js'

/** The pages. */
export const router = createBrowserRouter([
  { path: '/', element: <ShowsPage />, errorElement: <Problem /> },
  { path: '/sounds', element: <ShelvesPage /> },
  {
    path: '/reels/:id',
    element: <ReelGate />,
    errorElement: <Problem />,
    children: [
      { index: true, element: <SheetPage /> },
      { path: 'turnover', element: <TurnoverPage /> },
    ],
  },
  { path: '*', element: <Problem text="There is no such page." /> },
])

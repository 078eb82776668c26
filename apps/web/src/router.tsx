import { createBrowserRouter } from 'react-router'
import { ComparePage } from './features/compare/ComparePage.js'
import { FactsPage } from './features/facts/FactsPage.js'
import { ImportPage } from './features/import/ImportPage.js'
import { ListPage } from './features/list/ListPage.js'
import { ReelGate } from './features/reelGate/ReelGate.js'
import { SheetPage } from './features/sheetPage/SheetPage.js'
import { ShowsPage } from './features/shows/ShowsPage.js'
import { PictureWindow } from './panes/picture/PictureWindow.js'
import { SoundsPage } from './features/sounds/SoundsPage.js'
import { TurnoverPage } from './features/turnover/TurnoverPage.js'
import { Problem } from './ui/Problem.js'

/** The pages. */
export const router = createBrowserRouter([
  { path: '/', element: <ShowsPage />, errorElement: <Problem /> },
  { path: '/sounds', element: <SoundsPage /> },
  {
    path: '/guide/:chapter?',
    lazy: async () => ({ Component: (await import('./features/guide/GuidePage.js')).GuidePage }),
    errorElement: <Problem />,
  },
  { path: '/picture', element: <PictureWindow /> },
  {
    path: '/reels/:id',
    element: <ReelGate />,
    errorElement: <Problem />,
    children: [
      { index: true, element: <SheetPage /> },
      { path: 'list', element: <ListPage /> },
      { path: 'compare', element: <ComparePage /> },
      { path: 'import', element: <ImportPage /> },
      { path: 'facts', element: <FactsPage /> },
      { path: 'turnover', element: <TurnoverPage /> },
    ],
  },
  { path: '*', element: <Problem text="There is no such page." /> },
])

import { useEffect } from 'react'
import { Outlet, useParams } from 'react-router'
import { REEL_ACTIONS } from '../../actions/sheetActions.js'
import { useActionKeys } from '../../actions/useActionKeys.js'
import { CommandsProvider } from '../../commands/CommandsProvider.js'
import { compareActions } from '../../document/compareSlice.js'
import { documentActions } from '../../document/documentSlice.js'
import { searchActions } from '../../document/searchSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { tryActions } from '../../document/trySlice.js'
import { viewActions } from '../../document/viewSlice.js'
import { PageNotices } from '../../panes/shell/PageNotices.js'
import { lastPlace } from '../../session/lastPlace.js'
import { SessionProvider } from '../../session/session.js'
import { Problem } from '../../ui/Problem.js'
import { LeavingUnkept } from './LeavingUnkept.js'

/** Opens the reel of the address before any of its pages is shown. */
export function ReelGate() {
  const { id = '' } = useParams()
  const dispatch = useAppDispatch()
  const { reelId, phase, problem } = useAppSelector((state) => state.document)
  useEffect(() => {
    dispatch(viewActions.reset())
    const last = lastPlace()
    if (last?.reelId === id) dispatch(viewActions.setPass({ pass: last.pass, page: innerWidth }))
    dispatch(tryActions.reset())
    dispatch(searchActions.reset())
    dispatch(compareActions.putAway())
    dispatch(documentActions.open({ reelId: id }))
    return () => void dispatch(documentActions.close())
  }, [id, dispatch])
  const isOpen = reelId === id && (phase === 'open' || phase === 'missing')
  if (!isOpen && problem !== null) {
    return <Problem text={problem} onRetry={() => dispatch(documentActions.open({ reelId: id }))} />
  }
  if (!isOpen) return <main className="grid h-full place-items-center text-ink-2">Opening the reel …</main>
  return (
    <SessionProvider>
      <CommandsProvider>
        <ReelKeys />
        <Outlet />
        <PageNotices />
        <LeavingUnkept reelId={id} />
      </CommandsProvider>
    </SessionProvider>
  )
}

/** Keys that every page of a reel has. */
function ReelKeys() {
  useActionKeys(REEL_ACTIONS)
  return null
}

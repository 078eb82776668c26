import { useCallback, useEffect, useState } from 'react'
import { Outlet, useParams } from 'react-router'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { Problem } from '../../ui/Problem.js'
import { compareActions } from '../compare/compareSlice.js'
import { searchActions } from '../sounds/searchSlice.js'
import { tryActions } from '../sounds/trySlice.js'
import { documentActions } from './documentSlice.js'
import { Notices } from './Notices.js'
import { openReel } from './sendChanges.js'
import { SessionProvider } from './session.js'
import { UndoKeys } from './UndoKeys.js'
import { viewActions } from './viewSlice.js'

/** Opens the reel of the address before any of its pages is shown. */
export function ReelGate() {
  const { id = '' } = useParams()
  const dispatch = useAppDispatch()
  const opened = useAppSelector((state) => state.document.reelId === id)
  const [problem, setProblem] = useState<string | null>(null)
  const open = useCallback(() => {
    setProblem(null)
    dispatch(viewActions.reset())
    dispatch(tryActions.reset())
    dispatch(searchActions.reset())
    dispatch(compareActions.putAway())
    openReel(id, dispatch).catch((error: unknown) =>
      setProblem(error instanceof Error ? error.message : String(error)),
    )
  }, [id, dispatch])
  useEffect(() => {
    open()
    return () => void dispatch(documentActions.closed())
  }, [open, dispatch])
  if (problem) return <Problem text={problem} onRetry={open} />
  if (!opened) return <main className="grid h-full place-items-center text-ink-2">Opening the reel …</main>
  return (
    <SessionProvider>
      <UndoKeys />
      <Outlet />
      <Notices />
    </SessionProvider>
  )
}

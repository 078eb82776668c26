import { DialogTitle } from '@headlessui/react'
import { documentOf, goBack, type ReelRecord, type ReelState } from '@yodel/core'
import { useEffect, useState } from 'react'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { Button } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'
import { saveStateOf } from './documentSlice.js'
import { edit } from './edits.js'
import { viewActions } from './viewSlice.js'

const ROLES = { do: '', undo: 'undone: ', redo: 'done again: ' } as const

/** What was done to the reel, by whom and when, the last first; any moment can be gone back to, as a new edit. */
export function History() {
  const dispatch = useAppDispatch()
  const open = useAppSelector((state) => state.view.history)
  const saved = useAppSelector((state) => saveStateOf(state.document) === 'saved')
  const reelId = useAppSelector((state) => state.document.reelId)
  const seq = useAppSelector((state) => state.document.seq)
  const [log, setLog] = useState<ReelState['log'] | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    if (!open || !saved || !reelId) return
    let current = true
    const load = async (): Promise<void> => {
      const response = await fetch(`/api/reels/${reelId}`)
      const state = (await response.json()) as ReelState & { message: string }
      if (!current) return
      if (response.ok) setLog(state.log.toReversed())
      setProblem(response.ok ? null : state.message)
    }
    load().catch(() => current && setProblem('The server does not answer. Try again when it is back.'))
    return () => {
      current = false
    }
  }, [open, saved, reelId, seq])
  const close = (): void => void dispatch(viewActions.setHistory(false))
  const back = async (entry: ReelState['log'][number]): Promise<void> => {
    const response = await fetch(`/api/reels/${reelId}/at/${entry.seq}`).catch(() => null)
    if (!response?.ok) return setProblem('The server does not answer. Try again when it is back.')
    const { records } = (await response.json()) as { records: ReelRecord[] }
    if (dispatch(edit((doc) => goBack(doc, { then: documentOf(records), what: entry.label })))) close()
  }
  return (
    <Overlay open={open} onClose={close} className="flex max-h-[80vh] w-[640px] flex-col p-5">
      <DialogTitle className="text-[16px] font-bold">History</DialogTitle>
      {problem && <p className="mt-2 text-gate">{problem}</p>}
      {!log && !problem && <p className="mt-2 text-ink-2">Asking the server …</p>}
      <ol className="mt-3 min-h-0 flex-1 overflow-y-auto text-[12px]" data-history>
        {log?.map((entry) => (
          <li key={entry.seq} className="grid grid-cols-[44px_1fr_110px_110px_124px] items-center gap-2 border-t border-hair py-1">
            <span className="font-mono text-ink-3">{entry.seq}</span>
            <span className="truncate">
              {ROLES[entry.role]}
              {entry.label}
            </span>
            <span className="truncate text-ink-2">{entry.author}</span>
            <span className="text-ink-2">{new Date(entry.at).toLocaleString([], { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false })}</span>
            {entry.seq === seq ? <span className="text-right text-ink-3">now</span> : <Button onClick={() => void back(entry)}>Go back to here</Button>}
          </li>
        ))}
      </ol>
      <Button look="strong" className="mt-4 self-start" onClick={close}>
        Close
      </Button>
    </Overlay>
  )
}

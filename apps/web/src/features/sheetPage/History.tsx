import { DialogTitle } from '@headlessui/react'
import { documentOf, goBack, textsOf, type LogLine } from '@yodel/core'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'
import { when } from '../../ui/when.js'
import { documentActions } from '../../document/documentSlice.js'
import { saveStateOf } from '../../document/sync/syncState.js'
import { edit } from '../../document/edit.js'
import { viewActions } from '../../document/viewSlice.js'

const ROLES = { do: '', undo: 'undone: ', redo: 'done again: ' } as const

/** What was done to the reel, by whom and when, the last first; any moment can be gone back to, as a new edit. */
export function History() {
  const dispatch = useAppDispatch()
  const open = useAppSelector((state) => state.view.history)
  const saved = useAppSelector((state) => saveStateOf(state.document) === 'saved')
  const reelId = useAppSelector((state) => state.document.reelId)
  const seq = useAppSelector((state) => state.document.settled.seq)
  // Asked again for each number that the reel gets while this is open.
  const { data, error } = api.useLogQuery({ reelId: reelId ?? '', seq }, { skip: !open || !saved || !reelId })
  const [reelAt, { error: backError }] = api.useLazyReelAtQuery()
  const problem = error ?? backError
  const close = (): void => void dispatch(viewActions.setHistory(false))
  const back = async (entry: LogLine): Promise<void> => {
    const { data: then } = await reelAt({ reelId: reelId ?? '', seq: entry.seq })
    if (then && dispatch(edit((doc) => goBack(doc, { then: documentOf(then.records), what: entry.label }))))
      close()
  }
  return (
    <Overlay open={open} onClose={close} className="flex max-h-[80vh] w-[640px] flex-col p-5">
      <DialogTitle className="text-[16px] font-bold">History</DialogTitle>
      <SetAside />
      {problem && <p className="mt-2 text-gate">{messageOf(problem)}</p>}
      {!data && !problem && <p className="mt-2 text-ink-2">Asking the server …</p>}
      <ol className="mt-3 min-h-0 flex-1 overflow-y-auto text-[12px]" data-history>
        {data?.toReversed().map((entry) => (
          <li
            key={entry.seq}
            className="grid grid-cols-[44px_1fr_110px_110px_124px] items-center gap-2 border-t border-hair py-1"
          >
            <span className="font-mono text-ink-3">{entry.seq}</span>
            <span className="truncate">
              {ROLES[entry.role]}
              {entry.label}
            </span>
            <span className="truncate text-ink-2">{entry.author}</span>
            <span className="text-ink-2">{when(entry.at, true)}</span>
            {entry.seq === seq ? (
              <span className="text-right text-ink-3">now</span>
            ) : (
              <Button onClick={() => void back(entry)}>Go back to here</Button>
            )}
          </li>
        ))}
      </ol>
      <Button look="strong" className="mt-4 self-start" onClick={close}>
        Close
      </Button>
    </Overlay>
  )
}

/** Changes that could not be saved: each can be read, tried again on the reel as it is now, or thrown away. */
function SetAside() {
  const dispatch = useAppDispatch()
  const aside = useAppSelector((state) => state.document.aside)
  if (aside.length === 0) return null
  return (
    <section
      aria-label="Not saved"
      className="mt-3 rounded-[5px] border border-gate p-3 text-[12px]"
      data-aside
    >
      <h3 className="font-bold text-gate">Not saved</h3>
      <ul className="mt-1 max-h-[24vh] overflow-y-auto">
        {aside.map(({ changeId, change, why }) => (
          <li key={changeId} className="flex items-start gap-2 border-t border-hair py-1.5 first:border-0">
            <span className="min-w-0 flex-1">
              <b>{change.label}</b>
              <span className="block text-ink-2">{why}</span>
              {textsOf(change).map((text, at) => (
                <q key={at} className="block text-ink-2">
                  {text}
                </q>
              ))}
            </span>
            <Button onClick={() => dispatch(documentActions.retried({ changeId, as: crypto.randomUUID() }))}>
              Try again
            </Button>
            <Button look="bare" onClick={() => dispatch(documentActions.discarded({ changeId }))}>
              Throw away
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )
}

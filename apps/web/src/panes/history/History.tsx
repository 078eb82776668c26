import { documentOf, goBack, textsOf, type LogLine } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { when } from '../../ui/when.js'
import { documentActions } from '../../document/documentSlice.js'
import { saveStateOf } from '../../document/sync/syncState.js'
import { edit } from '../../document/edit.js'

const ROLES = { do: '', undo: 'undone: ', redo: 'done again: ' } as const

/** So many lines are shown at once, and as many more when they are asked for. */
const STEP = 150

/** What was done to the reel, by whom and when, the last first; any moment can be gone back to, as a new edit. */
export function History() {
  const dispatch = useAppDispatch()
  const [shown, setShown] = useState(STEP)
  const saved = useAppSelector((state) => saveStateOf(state.document) === 'saved')
  const reelId = useAppSelector((state) => state.document.reelId)
  const seq = useAppSelector((state) => state.document.settled.seq)
  // Asked again for each number that the reel gets while this is open.
  const { data, error } = api.useLogQuery({ reelId: reelId ?? '', seq }, { skip: !saved || !reelId })
  const [reelAt, { error: backError }] = api.useLazyReelAtQuery()
  const problem = error ?? backError
  const back = async (entry: LogLine): Promise<void> => {
    const { data: then } = await reelAt({ reelId: reelId ?? '', seq: entry.seq })
    if (then) dispatch(edit((doc) => goBack(doc, { then: documentOf(then.records), what: entry.label })))
  }
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3 py-2.5">
      <SetAside />
      {problem && <p className="mb-2 text-gate">{messageOf(problem)}</p>}
      {!data && !problem && <p className="text-ink-2">Asking the server …</p>}
      <ol className="text-[12px]" data-history>
        {data
          ?.slice(-shown)
          .toReversed()
          .map((entry) => (
            <li
              key={entry.seq}
              className="border-t border-hair py-1 first:border-0"
              title={`Number ${entry.seq}`}
            >
              <p>
                {ROLES[entry.role]}
                {entry.label}
              </p>
              <p className="flex items-center gap-2 text-[11px] text-ink-2">
                <span className="min-w-0 flex-1 truncate">
                  {entry.author}, {when(entry.at, true)}
                </span>
                {entry.seq === seq ? (
                  'now'
                ) : (
                  <Button look="bare" className="px-1 text-[11px]" onClick={() => void back(entry)}>
                    Go back to here
                  </Button>
                )}
              </p>
            </li>
          ))}
      </ol>
      {data && data.length > shown && (
        <Button className="mt-2" onClick={() => setShown(shown + STEP)}>
          Show earlier ones
        </Button>
      )}
    </div>
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
      className="mb-3 rounded-[5px] border border-gate p-2.5 text-[12px]"
      data-aside
    >
      <h3 className="font-bold text-gate">Not saved</h3>
      <ul className="mt-1 max-h-[40vh] overflow-y-auto">
        {aside.map(({ changeId, change, why }) => (
          <li key={changeId} className="border-t border-hair py-1.5 first:border-0">
            <span className="block">
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

import type { Shelf } from '@yodel/core'
import { useEffect, useState } from 'react'
import { api, messageOf } from '../../app/api.js'
import { useAppDispatch } from '../../app/store.js'
import { Button } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { TopBar } from '../../ui/TopBar.js'

/** The shelves: which folders are indexed, what they hold, what could not be read. */
export function ShelvesPage() {
  const { data: shelves, error } = api.useShelvesQuery(undefined, { refetchOnMountOrArgChange: true })
  const [add] = api.useAddShelfMutation()
  const [problem, setProblem] = useState('')
  return (
    <div className="flex h-full flex-col">
      <TopBar where="Sounds" />
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-[860px] px-6 py-8">
          <h1 className="text-[16px] font-bold">Shelves</h1>
          <p className="text-ink-2">Folders of recordings. They are listened to and listed, never copied or changed.</p>
          {error ? <p className="mt-3 text-gate">{messageOf(error)}</p> : null}
          <ul className="mt-4 border-t border-line">
            {shelves?.map((shelf) => (
              <ShelfLine key={shelf.id} shelf={shelf} />
            ))}
          </ul>
          {shelves?.length === 0 && <p className="py-4">No shelf yet. Give the path of a folder below.</p>}
          <div className="mt-5 max-w-[520px]">
            <label className="font-semibold">Add a folder</label>
            <TextField
              label="Path of a folder"
              value=""
              placeholder="/path/on/the/server, then Enter"
              className="!mx-0 mt-1 border-line! bg-card font-mono"
              onCommit={(path) => {
                if (path.trim() === '') return
                add({ path: path.trim(), name: '' })
                  .unwrap()
                  .then(
                    () => setProblem(''),
                    (failure: unknown) => setProblem(messageOf(failure)),
                  )
              }}
            />
            {problem && (
              <p role="alert" className="mt-1 text-gate">
                {problem}
              </p>
            )}
          </div>
        </div>
      </main>
    </div>
  )
}

function ShelfLine({ shelf }: { shelf: Shelf }) {
  const dispatch = useAppDispatch()
  const [again] = api.useIndexShelfMutation()
  const [cancel] = api.useCancelJobMutation()
  const [watching, setWatching] = useState(true)
  const { data: job } = api.useJobQuery(shelf.jobId ?? '', { skip: shelf.jobId === null, pollingInterval: watching ? 600 : 0 })
  const running = job?.state === 'running' || job?.state === 'waiting'
  useEffect(() => {
    setWatching(running)
    if (job && !running) dispatch(api.util.invalidateTags(['Shelves', 'Sounds']))
  }, [running, job?.id, job?.state, dispatch])
  const counts = job?.state === 'done' && job.result ? (job.result as Record<string, number>) : null
  return (
    <li className="border-b border-line py-3">
      <div className="flex items-baseline gap-3">
        <b className="font-semibold">{shelf.name}</b>
        <span className="text-ink-2">{shelf.sounds.toLocaleString('en')} sounds</span>
        <span className="ml-auto flex items-center gap-2">
          {running ? (
            <>
              <progress className="h-1.5 w-32 accent-(--gate)" max={1} value={job?.progress ?? 0} aria-label={`Indexing ${shelf.name}`} />
              <span className="max-w-[220px] truncate text-[11.5px] text-ink-2">{job?.message}</span>
              <Button onClick={() => void cancel(shelf.jobId ?? '')}>Stop</Button>
            </>
          ) : (
            <Button onClick={() => void again(shelf.id)}>Index again</Button>
          )}
        </span>
      </div>
      <div className="font-mono text-[11.5px] text-ink-3">{shelf.root}</div>
      {counts && (
        <div className="text-[11.5px] text-ink-2">
          Last time: {counts['fresh']} new, {counts['changed']} changed, {counts['same']} as before, {counts['gone']} gone, {counts['problems']} could not be read.
        </div>
      )}
      {job?.state === 'failed' && <div className="text-gate">{job.message}</div>}
      {shelf.problems.length > 0 && (
        <details className="mt-1">
          <summary className="text-gate">{shelf.problems.length} could not be read</summary>
          <ul className="mt-1 text-[11.5px]">
            {shelf.problems.map((problem) => (
              <li key={problem.path}>
                <span className="font-mono">{problem.path}</span>: {problem.reason}
              </li>
            ))}
          </ul>
        </details>
      )}
    </li>
  )
}

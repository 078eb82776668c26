import type { JobResult, RecordingsInUse } from '@yodel/core'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch } from '../../document/store.js'
import { useStartedJob } from '../../session/useJob.js'
import { Button } from '../../ui/Button.js'
import { JobLine } from '../../ui/JobLine.js'
import { Part } from '../../ui/Part.js'

/** Where the recordings lie that the show plays, and gathering them beside it. */
export function Recordings({ reelId }: { reelId: string }) {
  const dispatch = useAppDispatch()
  const { data: shelves = [], error } = api.useRecordingsQuery(reelId, { refetchOnMountOrArgChange: true })
  const [gather, asked] = api.useGatherMutation()
  const [cancel] = api.useCancelJobMutation()
  const { job, running, follow } = useStartedJob(
    () => void dispatch(api.util.invalidateTags(['Facts', 'Sounds', 'Shelves'])),
  )
  const done = job?.state === 'done' ? (job.result as JobResult<'gather'> | null) : null
  const outside = shelves.filter(({ gathered, shelfId }) => !gathered && shelfId !== null)
  const count = outside.reduce((sum, { sounds }) => sum + sounds, 0)
  const failure = error ?? asked.error
  return (
    <Part title="Recordings in use">
      <ul className="text-[12.5px]" data-recordings>
        {shelves.map((shelf) => (
          <Shelf key={shelf.shelfId ?? 'none'} shelf={shelf} />
        ))}
        {shelves.length === 0 && <li className="text-ink-2">Nothing is placed yet.</li>}
      </ul>
      {running && job ? (
        <JobLine job={job} what="Gathering the recordings" onCancel={() => void cancel(job.id)} />
      ) : shelves.length === 0 ? null : (
        <Button
          className="mt-3"
          disabled={count === 0 || asked.isLoading || running}
          onClick={() => follow(gather(reelId))}
        >
          {count === 0 ? 'All are gathered' : `Gather ${count} ${count === 1 ? 'recording' : 'recordings'}`}
        </Button>
      )}
      <p className="mt-1 text-[12px] text-ink-2">
        {done
          ? `${done.gathered} copied.${done.left.length > 0 ? ` Not copied: ${done.left.join('; ')}.` : ''}`
          : 'Copies what all reels of the show use to where Yodel keeps its data; then the library’s disk can go home.'}
      </p>
      {job?.state === 'failed' && <p className="text-gate">{job.message}</p>}
      {failure ? <p className="text-gate">{messageOf(failure)}</p> : null}
    </Part>
  )
}

function Shelf({ shelf: { shelf, shelfId, sounds, bytes, missing } }: { shelf: RecordingsInUse[number] }) {
  return (
    <li className="flex items-baseline gap-2 border-b border-hair py-1">
      <b className="min-w-0 flex-1 truncate font-semibold">{shelfId === null ? 'On no shelf' : shelf}</b>
      {missing > 0 && <span className="text-gate">{missing} missing</span>}
      <span className={shelfId === null ? 'text-gate' : 'text-ink-2'}>
        {sounds} {sounds === 1 ? 'sound' : 'sounds'}
      </span>
      <span className="w-[64px] text-right font-mono text-ink-2">{(bytes / 1e6).toFixed(1)} MB</span>
    </li>
  )
}

import type { JobResult } from '@yodel/core'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch } from '../../document/store.js'
import { FolderChooser } from '../../panes/folders/FolderChooser.js'
import { isUnderWay, useStartedJob } from '../../session/useJob.js'
import { Button } from '../../ui/Button.js'
import { JobLine } from '../../ui/JobLine.js'

/** Opens a package that another Yodel made: its reel, its milestones and its sounds come in. */
export function OpenPackage() {
  const dispatch = useAppDispatch()
  const [send, { isLoading, error }] = api.useOpenPackageMutation()
  const [openThere, there] = api.useOpenPackageThereMutation()
  const [choosing, setChoosing] = useState(false)
  const [cancel] = api.useCancelJobMutation()
  const input = useRef<HTMLInputElement>(null)
  const { job, running, follow } = useStartedJob(() => void dispatch(api.util.invalidateTags(['Shows'])))
  const opened = job?.state === 'done' ? (job.result as JobResult<'open'> | null) : null
  const choose = (file: File | undefined): void => {
    if (file) follow(send(file))
  }
  const take = (path: string): void => follow(openThere(path), () => setChoosing(false))
  const busy = isLoading || running
  return (
    <section aria-label="Open a package">
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        className="hidden"
        aria-label="Package"
        onChange={(event) => {
          choose(event.target.files?.[0])
          event.target.value = ''
        }}
      />
      <Button
        disabled={busy}
        onClick={() => input.current?.click()}
        title="A turnover that was made with its sounds: the reel goes on here."
      >
        {isLoading ? 'Sending the package …' : 'Open a package …'}
      </Button>
      <Button look="bare" className="ml-1" disabled={busy} onClick={() => setChoosing(true)}>
        or a folder on a disk …
      </Button>
      <FolderChooser
        open={choosing}
        onClose={() => setChoosing(false)}
        title="Open a package"
        words="The folder of a turnover, as it was copied onto the disk. Its reel and its sounds are taken over; the folder stays as it is."
        act="Open this package"
        busy={there.isLoading}
        failure={there.error}
        onTake={take}
      />
      {job && isUnderWay(job) && (
        <div className="mt-2">
          <JobLine job={job} what="Opening the package" onCancel={() => void cancel(job.id)} />
        </div>
      )}
      {opened && (
        <p className="mt-2" data-opened>
          <Link className="underline" to={`/reels/${opened.reelId}`}>
            {opened.show}, {opened.reel}
          </Link>{' '}
          is here. {opened.remarks.join(' ')}
        </p>
      )}
      {job?.state === 'failed' && <p className="mt-2 text-gate">{job.message}</p>}
      {error ? <p className="mt-2 text-gate">{messageOf(error)}</p> : null}
    </section>
  )
}

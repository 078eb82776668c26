import type { JobResult } from '@yodel/core'
import { useState } from 'react'
import { api } from '../../../api/api.js'
import { FolderChooser } from '../../../panes/folders/FolderChooser.js'
import { isUnderWay, useStartedJob } from '../../../session/useJob.js'
import { Button } from '../../../ui/Button.js'
import { JobLine } from '../../../ui/JobLine.js'

/** Copies a turnover as a folder onto a disk of the server's: for who takes it along instead of sending it. */
export function CopyOut({ id }: { id: string }) {
  const [choosing, setChoosing] = useState(false)
  const [copy, asked] = api.useCopyTurnoverMutation()
  const [cancel] = api.useCancelJobMutation()
  const { job, follow } = useStartedJob()
  const done = job?.state === 'done' ? (job.result as JobResult<'deliver'> | null) : null
  const take = (path: string): void => follow(copy({ id, path }), () => setChoosing(false))
  return (
    <>
      <Button look="bare" onClick={() => setChoosing(true)}>
        Onto a disk …
      </Button>
      <FolderChooser
        open={choosing}
        onClose={() => setChoosing(false)}
        title="Copy this turnover onto a disk"
        words="It becomes a folder there, every file checked against what was made. It can be opened again from there."
        act="Copy into this folder"
        busy={asked.isLoading}
        failure={asked.error}
        onTake={take}
      />
      {job && isUnderWay(job) && (
        <div className="w-full">
          <JobLine job={job} what="Copying the turnover" onCancel={() => void cancel(job.id)} />
        </div>
      )}
      {done && <p className="w-full pl-2 text-[12px] break-all text-ink-2">It is in {done.folder}</p>}
      {job?.state === 'failed' && <p className="w-full pl-2 text-[12px] text-gate">{job.message}</p>}
    </>
  )
}

import type { Job, Shelf } from '@yodel/core'
import { api } from '../../../api/api.js'
import { JobLine } from '../../../ui/JobLine.js'

/** Progress of indexing, which can be paused, go on, and be cancelled. */
export function ShelfJob({ shelf, job }: { shelf: Shelf; job: Job }) {
  const [cancel] = api.useCancelJobMutation()
  const [pause] = api.usePauseJobMutation()
  return (
    <JobLine
      job={job}
      what={`Indexing ${shelf.name}`}
      onCancel={() => void cancel(job.id)}
      onPause={(paused) => void pause({ id: job.id, pause: paused })}
    />
  )
}

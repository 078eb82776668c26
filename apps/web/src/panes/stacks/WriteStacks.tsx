import { tracksInOrder, type JobResult, type StackPlan, type Variation } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { stacksApi } from '../../api/stacksApi.js'
import { variationsListed } from '../../document/stackSlice.js'
import { useAppSelector } from '../../document/store.js'
import { useTables } from '../../document/useTables.js'
import { useStartedJob } from '../../session/useJob.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { JobLine } from '../../ui/JobLine.js'
import { Refusal } from '../../ui/Refusal.js'

/** Variations written as recordings on a shelf, through the treatment of a track where that is wanted. */
export function WriteStacks({ plan }: { plan: StackPlan }) {
  const reelId = useAppSelector((state) => state.document.reelId) ?? ''
  const stacking = useAppSelector((state) => state.stacking)
  const doc = useTables('track')
  const [through, setThrough] = useState('')
  const [write, { error }] = stacksApi.useWriteStacksMutation()
  const [cancel] = api.useCancelJobMutation()
  const { job, running, follow } = useStartedJob()
  const start = (variations: readonly Variation[]): void =>
    follow(write({ reelId, planId: plan.id, variations, through: through === '' ? null : through }))
  return (
    <div className="shrink-0 border-t border-line bg-card px-3 py-2 text-[12px]">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="text-ink-2">Write as recordings</span>
        <Button
          disabled={running || !stacking.chosen}
          onClick={() => stacking.chosen && start([stacking.chosen])}
        >
          this one
        </Button>
        <Button disabled={running} onClick={() => start(variationsListed(stacking))}>
          all {stacking.count}
        </Button>
        <Choice
          label="Through the treatment of"
          className="max-w-full"
          value={through}
          options={[
            ['', 'as they are'] as const,
            ...tracksInOrder(doc).map(({ id, name }) => [id, `through ${name}`] as const),
          ]}
          onChange={setThrough}
          givesBack
        />
      </div>
      {job && running && <JobLine job={job} what={job.title} onCancel={() => void cancel(job.id)} />}
      {job?.state === 'done' && <Wrote result={job.result as JobResult<'stacks'> | null} />}
      <Refusal
        text={job?.state === 'failed' ? job.message : error ? messageOf(error) : null}
        className="mt-1"
      />
    </div>
  )
}

function Wrote({ result }: { result: JobResult<'stacks'> | null }) {
  if (!result) return null
  const { written, there, empty } = result
  const said = [
    `${written} written to the show’s shelf “Made here”.`,
    there > 0 ? `${there} were there already.` : '',
    empty > 0 ? `${empty} had no layer.` : '',
  ]
  return (
    <p role="status" className="mt-1 text-ink-2">
      {said.filter(Boolean).join(' ')}
    </p>
  )
}

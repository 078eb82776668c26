import { silentTracks, type JobResult } from '@yodel/core'
import { useMemo, useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useStartedJob } from '../../session/useJob.js'
import { Button } from '../../ui/Button.js'
import { LeftOut } from './LeftOut.js'

/** The mix of a reel: bounced as it stands, after asking where tracks would be left out of it. */
export function Mix({ reelId }: { reelId: string }) {
  const [bounce, { error }] = api.useBounceMutation()
  const [cancel] = api.useCancelJobMutation()
  const [asking, setAsking] = useState(false)
  const doc = useAppSelector((state) => state.document.doc)
  const recipe = useAppSelector((state) => state.recipe)
  const dispatch = useAppDispatch()
  const silent = useMemo(() => silentTracks(doc), [doc])
  const { job, jobId, running, follow } = useStartedJob(
    () => void dispatch(api.util.invalidateTags(['Facts'])),
  )
  const start = (): void => {
    setAsking(false)
    follow(bounce({ reelId, recipe }))
  }
  const result = job?.state === 'done' ? (job.result as JobResult<'bounce'> | null) : null
  return (
    <div className="mt-2">
      <div className="flex items-center justify-between">
        <span>Stereo mix</span>
        {running ? (
          <Button onClick={() => void cancel(jobId ?? '')}>Stop</Button>
        ) : (
          <Button
            look={result ? 'plain' : 'gate'}
            onClick={silent.length > 0 ? () => setAsking(true) : start}
          >
            {result ? 'Bounce again' : 'Bounce the mix'}
          </Button>
        )}
      </div>
      {asking && !running && <LeftOut tracks={silent} onGo={start} onBack={() => setAsking(false)} />}
      {running && (
        <div className="mt-2 text-[11.5px] text-ink-2">
          <progress className="h-1.5 w-full" max={1} value={job?.progress ?? 0} aria-label="Bouncing" />
          {job?.message ?? 'Waiting for its turn'}
        </div>
      )}
      {result && (
        <p className="mt-2 flex items-center justify-between gap-3">
          <span className={result.overs > 0 ? 'text-gate' : 'text-ink-2'}>
            {result.measured.loudness === null || result.measured.loudness <= -70
              ? 'Silent'
              : `${result.measured.loudness.toFixed(1)} LUFS, ${(result.measured.truePeak ?? 0).toFixed(1)} dBTP`}
            {result.overs > 0
              ? `; ${result.overs} samples held at full scale: bring it down by ${Math.ceil(result.peak)} dB`
              : ''}
          </span>
          <a
            className="inline-flex min-h-6 items-center rounded-[5px] border border-gate bg-gate px-2.5 py-1 text-[12.5px] font-semibold text-on-gate"
            href={`/api/bounces/${jobId}`}
            download
            data-mix
          >
            Download WAV
          </a>
        </p>
      )}
      {(job?.state === 'failed' || job?.state === 'cancelled') && (
        <p className="mt-2 text-gate">{job.message}</p>
      )}
      {error ? <p className="mt-2 text-gate">{messageOf(error)}</p> : null}
    </div>
  )
}

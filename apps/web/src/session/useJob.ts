import type { Job } from '@yodel/core'
import { useEffect, useRef, useState } from 'react'
import { api } from '../api/api.js'

/** Milliseconds between two looks at a job that is under way. */
const LOOK_MS = 400

/** Whether a job has not come to its end yet. */
export const isUnderWay = (job: Pick<Job, 'state'>): boolean =>
  job.state === 'waiting' || job.state === 'running' || job.state === 'paused'

/**
 * A job, watched for as long as it is under way; null until something is known of it.
 *
 * @param onEnd - Called once when a job that was seen under way has ended.
 */
export function useJob(jobId: string | null, onEnd?: (job: Job) => void): Job | null {
  const [over, setOver] = useState<string | null>(null)
  const { data } = api.useJobQuery(jobId ?? '', {
    skip: jobId === null,
    pollingInterval: jobId !== null && over !== jobId ? LOOK_MS : 0,
  })
  const job = data?.id === jobId ? (data ?? null) : null
  const seen = useRef<string | null>(null)
  useEffect(() => {
    if (!job) return
    if (isUnderWay(job)) {
      seen.current = job.id
      setOver(null)
      return
    }
    setOver(job.id)
    if (seen.current !== job.id) return
    seen.current = null
    onEnd?.(job)
  }, [job, onEnd])
  return job
}

/**
 * The job that a request started last, watched; null while there is none.
 *
 * @param onEnd - Called once when it has ended.
 * @returns The job, whether it is under way, and `follow`, which is given the request. What it is refused with the mutation itself tells.
 */
export function useStartedJob(onEnd?: (job: Job) => void): {
  job: Job | null
  /** Known before anything is known of the job. */
  jobId: string | null
  running: boolean
  follow: (request: { unwrap: () => Promise<{ jobId: string }> }, then?: () => void) => void
} {
  const [jobId, setJobId] = useState<string | null>(null)
  const job = useJob(jobId, onEnd)
  return {
    ...{ job, jobId },
    running: jobId !== null && (job === null || isUnderWay(job)),
    follow: (request, then) =>
      void request.unwrap().then(
        (started) => {
          setJobId(started.jobId)
          then?.()
        },
        () => undefined,
      ),
  }
}

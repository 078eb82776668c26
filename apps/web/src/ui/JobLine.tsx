import type { Job } from '@yodel/core'
import { Button } from './Button.js'

/** How far long work is, with what can be done about it. @param props.what - What it does, for people who can't see the bar. */
export function JobLine(props: {
  job: Job
  what: string
  onCancel: () => void
  onPause?: (pause: boolean) => void
}) {
  const { job, what, onCancel, onPause } = props
  const paused = job.state === 'paused'
  return (
    <div className="px-1">
      <progress className="h-1.5 w-full" max={1} value={job.progress} aria-label={what} />
      <p className="text-[11.5px] text-ink-2">
        {paused ? 'Paused. ' : job.state === 'waiting' ? 'Waiting for its turn. ' : ''}
        {job.message}
      </p>
      <div className="flex gap-1">
        {onPause && <Button onClick={() => onPause(!paused)}>{paused ? 'Go on' : 'Pause'}</Button>}
        <Button onClick={onCancel}>Cancel</Button>
      </div>
    </div>
  )
}

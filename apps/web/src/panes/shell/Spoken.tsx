import { useEffect, useState } from 'react'
import { useAppSelector } from '../../document/store.js'

/** Says to a screen reader what was done last: a cue dropped, a sound kept, an act taken back. Refusals are notices, which say themselves. */
export function Spoken() {
  const last = useAppSelector(({ document: { pending } }) => pending.at(-1))
  const [said, setSaid] = useState('')
  const label = last?.change.label
  const role = last?.role
  useEffect(() => {
    if (label !== undefined) setSaid(role === 'undo' ? `Taken back: ${label}` : label)
  }, [last?.changeId, label, role])
  return (
    <span role="status" className="sr-only" data-spoken>
      {said}
    </span>
  )
}

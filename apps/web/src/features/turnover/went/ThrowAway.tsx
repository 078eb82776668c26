import { useState } from 'react'
import { api, messageOf } from '../../../api/api.js'
import { Refusal } from '../../../ui/Refusal.js'
import { Button } from '../../../ui/Button.js'

/** Throws the files of a turnover away, asked twice: they can't be had back. */
export function ThrowAway({ id, size }: { id: string; size: string }) {
  const [asking, setAsking] = useState(false)
  const [clear, { error, isLoading }] = api.useClearTurnoverMutation()
  if (!asking)
    return (
      <Button look="bare" onClick={() => setAsking(true)}>
        Throw its files away …
      </Button>
    )
  return (
    <div className="w-full pl-2 text-[12px]" role="alertdialog" aria-label="Throw files away">
      <p>
        This frees {size}. The files can’t be had back; what they were, and what has changed since, stays
        known.
      </p>
      <div className="mt-1 flex gap-2">
        <Button look="gate" disabled={isLoading} onClick={() => void clear(id)}>
          Throw away
        </Button>
        <Button autoFocus onClick={() => setAsking(false)}>
          Keep them
        </Button>
      </div>
      <Refusal text={error && messageOf(error)} className="mt-1" />
    </div>
  )
}

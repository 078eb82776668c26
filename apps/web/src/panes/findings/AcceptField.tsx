import { acceptFinding, type Finding } from '@yodel/core'
import { useState } from 'react'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'

/** Takes the reason for which a finding may stand; Enter accepts it, Esc leaves. */
export function AcceptField({ finding, onDone }: { finding: Finding; onDone: () => void }) {
  const dispatch = useAppDispatch()
  const by = useAppSelector((state) => state.document.me)
  const [reason, setReason] = useState('')
  const accept = (): void => {
    const args = { id: crypto.randomUUID(), finding, reason, by, at: new Date().toISOString() }
    if (dispatch(edit((doc) => acceptFinding(doc, args)))) onDone()
  }
  return (
    <form
      className="flex min-w-0 items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault()
        accept()
      }}
    >
      <input
        autoFocus
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Escape') onDone()
        }}
        placeholder="Why may it stand?"
        aria-label="Why may it stand?"
        maxLength={2000}
        className="h-7 w-56 rounded-[3px] border border-line bg-paper px-2"
      />
      <Button type="submit" look="strong" disabled={reason.trim() === ''}>
        Accept
      </Button>
    </form>
  )
}

import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { Button } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'
import { Refusal } from '../../ui/Refusal.js'
import { when } from '../../ui/when.js'

/** The reels that were thrown away and can be brought back; nothing where there are none. */
export function ThrownAway() {
  const { data: thrown = [] } = api.useThrownQuery(undefined, {
    refetchOnMountOrArgChange: true,
    refetchOnFocus: true,
  })
  const [bringBack, { error }] = api.useBringBackMutation()
  const [open, setOpen] = useState(false)
  if (thrown.length === 0) return null
  return (
    <>
      <Button className="ml-auto" onClick={() => setOpen(true)}>
        Thrown away <b className="font-mono font-semibold">{thrown.length}</b>
      </Button>
      <Overlay open={open} onClose={() => setOpen(false)} className="w-[560px] overflow-y-auto p-5">
        <h2 className="text-[16px] font-bold">Thrown away</h2>
        <p className="text-ink-2">After thirty days they are gone for good, with their turnovers.</p>
        <ul className="mt-3 border-b border-line">
          {thrown.map(({ id, show, name, by, at, until }) => (
            <li key={id} className="flex items-center gap-3 border-t border-line py-2">
              <div className="min-w-0 flex-1">
                <b className="font-semibold">{name}</b> <span className="text-ink-2">{show}</span>
                <p className="text-[12px] text-ink-2">
                  by {by}, {when(at, true)}; until {when(until)}
                </p>
              </div>
              <Button onClick={() => void bringBack(id)}>Bring back</Button>
            </li>
          ))}
        </ul>
        <Refusal text={error && messageOf(error)} className="mt-2" />
        <Button className="mt-4" onClick={() => setOpen(false)}>
          Close
        </Button>
      </Overlay>
    </>
  )
}

import { FRAME_RATES, FRAME_RATE_IDS, type FrameRateId, type Show } from '@yodel/core'
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { api, messageOf } from '../../api/api.js'
import { Button } from '../../ui/Button.js'

const field = 'w-full rounded-[5px] border border-line bg-card px-2 py-1.5'

/** The next name of a show's reels: one more than the highest that ends in a number. */
function nextName(show: Show | undefined): string {
  const numbers = (show?.reels ?? []).map(({ reel }) => Number(/(\d+)\s*$/.exec(reel.name)?.[1] ?? 0))
  return `Reel ${Math.max(0, ...numbers) + 1}`
}

/** Asks what a new reel is to be, and makes it. */
export function NewReelForm({ shows, onDone }: { shows: readonly Show[]; onDone: () => void }) {
  const navigate = useNavigate()
  const [make, { error, isLoading }] = api.useNewReelMutation()
  const [showName, setShowName] = useState(shows[0]?.name ?? '')
  /** As typed; null while the next name of the show is proposed. */
  const [typed, setTyped] = useState<string | null>(null)
  const known = shows.find(({ name }) => name.toLowerCase() === showName.trim().toLowerCase())
  const form = useRef<HTMLFormElement>(null)
  // It opens below all reels.
  useEffect(() => {
    // Newer browsers answer with a promise, which is no way to end an effect.
    void form.current?.scrollIntoView({ block: 'nearest' })
  }, [])
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault()
    const data = new FormData(event.currentTarget)
    const text = (name: string): string => String(data.get(name) ?? '').trim()
    make({
      showId: known?.id ?? null,
      company: known?.company ?? text('company'),
      showName: known?.name ?? showName.trim(),
      name: text('name'),
      rate: text('rate') as FrameRateId,
      firstTimecode: text('start'),
      lengthSeconds: Math.max(1, Number(text('minutes')) * 60),
    })
      .unwrap()
      .then(
        ({ id }) => navigate(`/reels/${id}`),
        () => undefined,
      )
  }
  return (
    <form
      ref={form}
      onSubmit={submit}
      className="mt-5 grid max-w-[560px] grid-cols-2 gap-3 border-t border-line pt-4"
    >
      <h2 className="col-span-2 text-[15px] font-bold">New reel</h2>
      <Asked name="Show">
        <input
          required
          autoFocus
          name="show"
          list="known-shows"
          value={showName}
          onChange={(event) => setShowName(event.target.value)}
          autoComplete="off"
          className={field}
        />
        <datalist id="known-shows">
          {shows.map((show) => (
            <option key={show.id} value={show.name} />
          ))}
        </datalist>
      </Asked>
      {known ? (
        <p className="self-end pb-2 text-ink-2">{known.company}</p>
      ) : (
        <Asked name="Company">
          <input name="company" className={field} />
        </Asked>
      )}
      <Asked name="Reel">
        <input
          required
          name="name"
          value={typed ?? nextName(known)}
          onChange={(event) => setTyped(event.target.value)}
          className={field}
        />
      </Asked>
      <Asked name="Frame rate">
        <select name="rate" defaultValue={known?.reels.at(-1)?.reel.rate ?? '24'} className={field}>
          {FRAME_RATE_IDS.map((id) => (
            <option key={id} value={id}>
              {FRAME_RATES[id].label}
            </option>
          ))}
        </select>
      </Asked>
      <Asked name="Timecode of the first frame">
        <input required name="start" defaultValue="01:00:00:00" className={`${field} font-mono`} />
      </Asked>
      <Asked name="Length in minutes (a movie sets it itself)">
        <input name="minutes" type="number" min="0.1" step="0.1" defaultValue="20" className={field} />
      </Asked>
      <div className="col-span-2 flex items-center gap-2">
        <Button look="gate" type="submit" disabled={isLoading}>
          Make the reel
        </Button>
        <Button onClick={onDone}>Leave</Button>
        {error ? (
          <span role="alert" className="text-gate">
            {messageOf(error)}
          </span>
        ) : null}
      </div>
    </form>
  )
}

function Asked({ name, children }: { name: string; children: ReactNode }) {
  return (
    <label className="flex flex-col gap-0.5 text-[12px] text-ink-2">
      {name}
      {children}
    </label>
  )
}

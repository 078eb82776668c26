import { FRAME_RATES, FRAME_RATE_IDS, type FrameRateId, type Show } from '@yodel/core'
import { useEffect, useRef, type ReactNode } from 'react'
import { useForm } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { api, messageOf } from '../../api/api.js'
import { Refusal } from '../../ui/Refusal.js'
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
  const last = shows[0]?.reels.at(-1)?.reel
  const { register, handleSubmit, watch, setValue, formState } = useForm({
    defaultValues: {
      ...{ show: shows[0]?.name ?? '', company: '', name: nextName(shows[0]) },
      ...{ rate: last?.rate ?? ('24' as FrameRateId), start: '01:00:00:00', minutes: 20 },
    },
  })
  const showName = watch('show')
  const known = shows.find(({ name }) => name.toLowerCase() === showName.trim().toLowerCase())
  const nameIsTyped = formState.dirtyFields.name === true
  // Until somebody types one, the next name of the show is proposed.
  useEffect(() => {
    if (!nameIsTyped) setValue('name', nextName(known))
  }, [known, nameIsTyped, setValue])
  const form = useRef<HTMLFormElement>(null)
  // It opens below all reels.
  useEffect(() => {
    // Newer browsers answer with a promise, which is no way to end an effect.
    void form.current?.scrollIntoView({ block: 'nearest' })
  }, [])
  const submit = handleSubmit(async (asked) => {
    const made = await make({
      showId: known?.id ?? null,
      company: known?.company ?? asked.company.trim(),
      showName: known?.name ?? asked.show.trim(),
      name: asked.name.trim(),
      rate: asked.rate,
      firstTimecode: asked.start.trim(),
      lengthSeconds: Math.max(1, (asked.minutes || 0) * 60),
    })
    if (made.data) await navigate(`/reels/${made.data.id}`)
  })
  return (
    <form
      ref={form}
      onSubmit={(event) => void submit(event)}
      className="mt-5 grid max-w-[560px] grid-cols-2 gap-3 border-t border-line pt-4"
    >
      <h2 className="col-span-2 text-[15px] font-bold">New reel</h2>
      <Asked name="Show">
        <input
          required
          autoFocus
          list="known-shows"
          autoComplete="off"
          className={field}
          {...register('show')}
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
          <input className={field} {...register('company')} />
        </Asked>
      )}
      <Asked name="Reel">
        <input required className={field} {...register('name')} />
      </Asked>
      <Asked name="Frame rate">
        <select className={field} {...register('rate')}>
          {FRAME_RATE_IDS.map((id) => (
            <option key={id} value={id}>
              {FRAME_RATES[id].label}
            </option>
          ))}
        </select>
      </Asked>
      <Asked name="Timecode of the first frame">
        <input required className={`${field} font-mono`} {...register('start')} />
      </Asked>
      <Asked name="Length in minutes (a movie sets it itself)">
        <input
          type="number"
          min="0.1"
          step="0.1"
          className={field}
          {...register('minutes', { valueAsNumber: true })}
        />
      </Asked>
      <div className="col-span-2 flex items-center gap-2">
        <Button look="gate" type="submit" disabled={isLoading}>
          Make the reel
        </Button>
        <Button onClick={onDone}>Cancel</Button>
        <Refusal text={error && messageOf(error)} />
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

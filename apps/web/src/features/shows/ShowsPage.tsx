import {
  FRAME_RATES,
  FRAME_RATE_IDS,
  formatLength,
  formatTimecode,
  type FrameRateId,
  type ReelSummary,
  type Show,
} from '@yodel/core'
import { useState, type FormEvent } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, messageOf } from '../../api/api.js'
import { Button } from '../../ui/Button.js'
import { TopBar } from '../../ui/TopBar.js'
import { OpenPackage } from './OpenPackage.js'

/** All shows with their reels, and the making of a new one. */
export function ShowsPage() {
  const { data: shows, error, refetch } = api.useShowsQuery(undefined, { refetchOnMountOrArgChange: true })
  const [making, setMaking] = useState(false)
  return (
    <div className="flex h-full flex-col">
      <TopBar where="Shows" />
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-[860px] px-6 py-8">
          {error ? (
            <p role="alert" className="text-gate">
              {messageOf(error)}{' '}
              <Button className="ml-2" onClick={() => void refetch()}>
                Try again
              </Button>
            </p>
          ) : null}
          {!shows && !error && <p className="text-ink-2">Looking for shows …</p>}
          {shows?.length === 0 && (
            <p className="mb-6 text-[16px]">
              No show yet. Make the first reel: its rate and its start are fixed once, and everything counts
              from there.
            </p>
          )}
          {shows?.map((show) => (
            <section key={show.id} className="mb-8" aria-label={show.name}>
              <h1 className="text-[16px] font-bold">{show.name}</h1>
              <p className="text-ink-2">{show.company}</p>
              <ul className="mt-3 border-t border-line">
                {show.reels.map((reel) => (
                  <ReelLine key={reel.id} summary={reel} />
                ))}
              </ul>
            </section>
          ))}
          {making || shows?.length === 0 ? (
            <NewReelForm shows={shows ?? []} onDone={() => setMaking(false)} />
          ) : (
            shows && <Button onClick={() => setMaking(true)}>New reel …</Button>
          )}
          {shows && <OpenPackage />}
        </div>
      </main>
    </div>
  )
}

function ReelLine({ summary }: { summary: ReelSummary }) {
  const { reel } = summary
  const rate = FRAME_RATES[reel.rate]
  return (
    <li className="border-b border-line">
      <Link
        to={`/reels/${summary.id}`}
        className="grid grid-cols-[1fr_150px_150px_150px] items-baseline gap-4 px-2 py-3 hover:bg-card"
      >
        <b className="text-[13px] font-semibold">{reel.name}</b>
        <span className="font-mono text-[12px] text-ink-2">
          {formatTimecode(reel.firstFrame + reel.programme, rate)}
        </span>
        <span className="text-ink-2">
          {rate.label}, <span className="font-mono text-[12px]">{formatLength(reel.length, rate)}</span>
        </span>
        <span className="text-ink-2">
          {summary.cues} cues, {summary.clips} sounds
        </span>
      </Link>
    </li>
  )
}

function NewReelForm({ shows, onDone }: { shows: readonly Show[]; onDone: () => void }) {
  const navigate = useNavigate()
  const [make, { error, isLoading }] = api.useNewReelMutation()
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const text = (name: string): string => String(form.get(name) ?? '').trim()
    const known = shows.find((show) => show.name.toLowerCase() === text('show').toLowerCase())
    make({
      showId: known?.id ?? null,
      company: known?.company ?? text('company'),
      showName: known?.name ?? text('show'),
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
  const field = 'w-full rounded-[5px] border border-line bg-card px-2 py-1.5'
  return (
    <form onSubmit={submit} className="grid max-w-[520px] grid-cols-2 gap-3 border-t border-line pt-4">
      <h2 className="col-span-2 text-[13px] font-bold">New reel</h2>
      <label>
        Show
        <input
          required
          name="show"
          list="known-shows"
          defaultValue={shows[0]?.name ?? ''}
          autoComplete="off"
          className={field}
        />
        <datalist id="known-shows">
          {shows.map((show) => (
            <option key={show.id} value={show.name} />
          ))}
        </datalist>
      </label>
      <label>
        Company, of a new show
        <input name="company" className={field} />
      </label>
      <label>
        Reel
        <input required name="name" defaultValue="Reel 1" className={field} />
      </label>
      <label>
        Frame rate
        <select name="rate" defaultValue="24" className={field}>
          {FRAME_RATE_IDS.map((id) => (
            <option key={id} value={id}>
              {FRAME_RATES[id].label}
            </option>
          ))}
        </select>
      </label>
      <label>
        Timecode of the first frame
        <input required name="start" defaultValue="01:00:00:00" className={`${field} font-mono`} />
      </label>
      <label>
        Length in minutes (a movie sets it itself)
        <input name="minutes" type="number" min="0.1" step="0.1" defaultValue="20" className={field} />
      </label>
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

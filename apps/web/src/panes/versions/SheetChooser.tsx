import { cuesInOrder, documentOf, FRAME_RATES, sameSpeed } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { when } from '../../ui/when.js'
import { saveStateOf } from '../../document/sync/syncState.js'
import { useReel } from '../../session/session.js'
import { Refusal } from '../../ui/Refusal.js'
import { compareActions } from '../../document/compareSlice.js'

/** Which sheet lies beside: milestones of this reel, and sheets of other reels that count frames alike. */
export function SheetChooser() {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const chosen = useAppSelector((state) => state.compare.other?.key ?? null)
  const { data: milestones = [] } = api.useMilestonesQuery(reel.id, { refetchOnMountOrArgChange: true })
  const { data: shows = [] } = api.useShowsQuery(undefined, { refetchOnMountOrArgChange: true })
  const [load] = api.useLazyReelAtQuery()
  const [problem, setProblem] = useState('')
  const others = shows
    .flatMap((show) => show.reels.map((summary) => ({ ...summary, show: show.name })))
    .filter(
      (summary) =>
        summary.id !== reel.id && sameSpeed(FRAME_RATES[summary.reel.rate], FRAME_RATES[reel.rate]),
    )

  const lay = (key: string, title: string, reelId: string, seq: number | null): void => {
    setProblem('')
    load({ reelId, seq })
      .unwrap()
      .then(
        ({ records }) => dispatch(compareActions.lay({ key, title, cues: cuesInOrder(documentOf(records)) })),
        (error: unknown) => setProblem(messageOf(error)),
      )
  }
  const line = (key: string, title: string, below: string, onClick: () => void) => (
    <li key={key}>
      <button
        type="button"
        aria-pressed={chosen === key}
        onClick={onClick}
        className={`w-full rounded-[3px] border px-2 py-1.5 text-left ${chosen === key ? 'border-gate' : 'border-line hover:border-ink-3'} bg-paper`}
      >
        <b className="block truncate text-[12.5px] font-semibold">{title}</b>
        <span className="text-[11px] text-ink-2">{below}</span>
      </button>
    </li>
  )
  return (
    <div className="min-h-0 flex-1 overflow-y-auto bg-card px-3.5 py-3">
      <h2 className="font-bold">Another sheet</h2>
      <ul className="mt-2 flex flex-col gap-1.5">
        {others.map((other) =>
          line(other.id, other.reel.name, `${other.show}, ${other.cues} cues`, () =>
            lay(other.id, other.reel.name, other.id, null),
          ),
        )}
        {others.length === 0 && (
          <li className="text-[12px] text-ink-2">No other reel runs at {FRAME_RATES[reel.rate].label}.</li>
        )}
      </ul>
      <h2 className="mt-4 font-bold">A milestone of this reel</h2>
      <ul className="mt-2 flex flex-col gap-1.5">
        {milestones.map((milestone) =>
          line(milestone.id, milestone.name, `${milestone.author}, ${when(milestone.at, true)}`, () =>
            lay(milestone.id, milestone.name, reel.id, milestone.seq),
          ),
        )}
      </ul>
      <NewMilestone />
      <Refusal text={problem} className="mt-2 text-[12px]" />
    </div>
  )
}

/** Names the reel as it stands, so that it can be compared with later. */
export function NewMilestone({ onSaved }: { onSaved?: () => void }) {
  const reel = useReel()
  const saved = useAppSelector((state) => saveStateOf(state.document) === 'saved')
  const [make, { error, isLoading }] = api.useNewMilestoneMutation()
  const [name, setName] = useState('')
  return (
    <form
      className="mt-2 flex flex-wrap gap-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        if (name.trim() === '') return
        make({ reelId: reel.id, name: name.trim() })
          .unwrap()
          .then(
            () => {
              setName('')
              onSaved?.()
            },
            () => undefined,
          )
      }}
    >
      <input
        aria-label="Name of the milestone"
        placeholder="Name this state: spotting done"
        value={name}
        onChange={(event) => setName(event.target.value)}
        className="min-w-0 flex-1 rounded-[3px] border border-line bg-paper px-2 text-[12px]"
      />
      <Button
        type="submit"
        disabled={!saved || isLoading}
        title={saved ? undefined : 'Wait until everything is saved'}
      >
        Save
      </Button>
      {error ? <p className="w-full text-[12px] text-gate">{messageOf(error)}</p> : null}
    </form>
  )
}

import { differenceOf, takeOver, type ComparedCue, type Difference } from '@yodel/core'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { compareActions } from '../../document/compareSlice.js'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { SheetChooser } from '../../panes/versions/SheetChooser.js'
import { useReel } from '../../session/session.js'
import { DIFFERENCE_NAMES, useComparison } from '../../session/useComparison.js'
import { Button } from '../../ui/Button.js'
import { Differences } from './Differences.js'

const ORDER: readonly Difference[] = ['theirs', 'mine', 'moved', 'worded', 'category', 'same']

/** Two sheets of one reel side by side: what is the same, moved, worded otherwise, or only in one. */
export function ComparePage() {
  const other = useAppSelector((state) => state.compare.other)
  return (
    <ReelPage beside={<SheetChooser />}>
      <section className="flex min-w-0 flex-1 flex-col" aria-label="Comparison">
        {other ? (
          <Comparison title={other.title} />
        ) : (
          <p className="max-w-[420px] p-6 text-ink-2">
            Choose at the left what to lay beside this sheet: another person’s sheet of the same picture, or a
            milestone of this one. What differs is then taken over line by line, or all at once, and can be
            undone.
          </p>
        )}
      </section>
    </ReelPage>
  )
}

function Comparison({ title }: { title: string }) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const all = useComparison()
  const [hidden, setHidden] = useState<readonly Difference[]>(['same'])
  const lines = useMemo(() => all.filter((line) => !hidden.includes(differenceOf(line))), [all, hidden])
  const takeable = lines.filter((line) => line.theirs !== null && differenceOf(line) !== 'same')
  const take = (taken: readonly ComparedCue[]): void =>
    void dispatch(edit((doc) => takeOver(doc, { lines: taken, ids: taken.map(() => crypto.randomUUID()) })))
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line bg-paper-2 px-3 py-1.5 text-[12px]">
        <Kinds all={all} hidden={hidden} onHidden={setHidden} />
        <span className="ml-auto flex gap-1.5">
          <Button look="strong" disabled={takeable.length === 0} onClick={() => take(takeable)}>
            Take over {takeable.length} shown
          </Button>
          <Link
            to={`/reels/${reel.id}`}
            className="inline-flex min-h-6 items-center rounded-[5px] border border-line bg-card px-2.5 text-[12.5px] hover:border-ink-3"
          >
            Beside each other on the Sheet
          </Link>
          <Button onClick={() => dispatch(compareActions.putAway())}>Put away</Button>
        </span>
      </div>
      <div className="grid grid-cols-[1fr_128px_1fr] border-b border-line bg-paper-2 px-3 py-1 text-[11px] text-ink-2">
        <b className="font-semibold">{reel.name}, as it stands</b>
        <span />
        <b className="truncate font-semibold">{title}</b>
      </div>
      <Differences lines={lines} all={all.length} onTake={take} />
    </>
  )
}

/** The kinds of differences with their numbers, each to be shown or hidden. */
function Kinds(props: {
  all: readonly ComparedCue[]
  hidden: readonly Difference[]
  onHidden: (hidden: readonly Difference[]) => void
}) {
  const { all, hidden, onHidden } = props
  return ORDER.map((difference) => {
    const on = !hidden.includes(difference)
    return (
      <button
        key={difference}
        type="button"
        aria-pressed={on}
        onClick={() => onHidden(on ? [...hidden, difference] : hidden.filter((one) => one !== difference))}
        className={`h-7 rounded-[3px] border px-2 ${on ? 'border-ink bg-ink text-paper' : 'border-line bg-card text-ink-2'}`}
      >
        {DIFFERENCE_NAMES[difference]}{' '}
        <b className="font-mono">{all.filter((line) => differenceOf(line) === difference).length}</b>
      </button>
    )
  })
}

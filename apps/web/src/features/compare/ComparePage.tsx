import { differenceOf, takeOver, type ComparedCue, type Difference } from '@yodel/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { Link } from 'react-router'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { edit } from '../../document/edit.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { useReel, useSession } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'
import { ComparedLine } from './ComparedLine.js'
import { compareActions } from '../../document/compareSlice.js'
import { SheetChooser } from '../../panes/versions/SheetChooser.js'
import { DIFFERENCE_NAMES, useComparison } from '../../session/useComparison.js'

const ROW = 52
const ORDER: readonly Difference[] = ['theirs', 'mine', 'moved', 'worded', 'category', 'same']

/** Two sheets of one reel side by side: what is the same, moved, worded otherwise, or only in one. */
export function ComparePage() {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const { transport } = useSession()
  const other = useAppSelector((state) => state.compare.other)
  const all = useComparison()
  const [hidden, setHidden] = useState<readonly Difference[]>(['same'])
  const [at, setAt] = useState(0)
  const scroller = useRef<HTMLDivElement>(null)
  const lines = useMemo(() => all.filter((line) => !hidden.includes(differenceOf(line))), [all, hidden])
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  })
  const takeable = lines.filter((line) => line.theirs !== null && differenceOf(line) !== 'same')

  const take = (chosen: readonly ComparedCue[]): void =>
    void dispatch(edit((doc) => takeOver(doc, { lines: chosen, ids: chosen.map(() => crypto.randomUUID()) })))
  const go = (index: number): void => {
    const line = lines[index]
    const cue = line?.mine ?? line?.theirs
    if (!cue) return
    setAt(index)
    rows.scrollToIndex(index)
    if (line?.mine) dispatch(viewActions.select([line.mine.id]))
    if (!transport.rolling) transport.goToFrame(cue.in)
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    const line = lines[at]
    const acts: Record<string, () => void> = {
      'ArrowDown': () => go(Math.min(lines.length - 1, at + 1)),
      'ArrowUp': () => go(Math.max(0, at - 1)),
      'Enter': () => {
        if (line?.theirs) take([line])
      },
      ' ': () => transport.toggle(),
    }
    const act = acts[event.key.length === 1 ? event.key.toLowerCase() : event.key]
    if (!act || event.target !== event.currentTarget) return
    event.preventDefault()
    act()
  }

  return (
    <ReelPage beside={<SheetChooser />}>
      <section className="flex min-w-0 flex-1 flex-col" aria-label="Comparison">
        {other ? (
          <>
            <div className="flex flex-wrap items-center gap-2 border-b border-line bg-paper-2 px-3 py-1.5 text-[12px]">
              {ORDER.map((difference) => {
                const count = all.filter((line) => differenceOf(line) === difference).length
                const on = !hidden.includes(difference)
                return (
                  <button
                    key={difference}
                    type="button"
                    aria-pressed={on}
                    onClick={() =>
                      setHidden(on ? [...hidden, difference] : hidden.filter((one) => one !== difference))
                    }
                    className={`h-7 rounded-[3px] border px-2 ${on ? 'border-ink bg-ink text-paper' : 'border-line bg-card text-ink-2'}`}
                  >
                    {DIFFERENCE_NAMES[difference]} <b className="font-mono">{count}</b>
                  </button>
                )
              })}
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
              <b className="truncate font-semibold">{other.title}</b>
            </div>
            <div
              ref={scroller}
              tabIndex={0}
              className="min-h-0 flex-1 overflow-y-auto"
              onKeyDown={onKeyDown}
              role="listbox"
              aria-label="Differences"
              data-differences
            >
              {lines.length === 0 && (
                <p className="p-6 text-ink-2">
                  Nothing of that kind: {all.length} lines are the same or hidden above.
                </p>
              )}
              <div className="relative" style={{ height: rows.getTotalSize() }}>
                {rows.getVirtualItems().map((item) => {
                  const line = lines[item.index] as ComparedCue
                  return (
                    <ComparedLine
                      key={(line.mine ?? line.theirs)?.id}
                      line={line}
                      top={item.start}
                      height={ROW}
                      chosen={item.index === at}
                      onPick={() => {
                        go(item.index)
                        scroller.current?.focus({ preventScroll: true })
                      }}
                      onTake={() => take([line])}
                    />
                  )
                })}
              </div>
            </div>
          </>
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

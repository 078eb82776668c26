import type { ComparedCue } from '@yodel/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef, useState, type KeyboardEvent } from 'react'
import { useAppDispatch } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { useSession } from '../../session/session.js'
import { ComparedLine } from './ComparedLine.js'

const ROW = 52

/** The compared lines, gone through by mouse or by ↓ and ↑; Enter takes one over, Space plays. */
export function Differences(props: {
  lines: readonly ComparedCue[]
  /** How many there are, those that are hidden included. */
  all: number
  onTake: (lines: readonly ComparedCue[]) => void
}) {
  const { lines, all, onTake } = props
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const [at, setAt] = useState(0)
  const scroller = useRef<HTMLDivElement>(null)
  const holdKeys = (): void => scroller.current?.focus({ preventScroll: true })
  // Whoever has just chosen a sheet goes through the lines next.
  useEffect(holdKeys, [])
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  })
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
        if (line?.theirs) onTake([line])
      },
      ' ': () => transport.toggle(),
    }
    const act = acts[event.key]
    if (!act || event.target !== event.currentTarget) return
    event.preventDefault()
    act()
  }
  return (
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
        <p className="p-6 text-ink-2">Nothing of that kind: {all} lines are the same or hidden above.</p>
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
                holdKeys()
              }}
              onTake={() => {
                onTake([line])
                holdKeys()
              }}
            />
          )
        })}
      </div>
    </div>
  )
}

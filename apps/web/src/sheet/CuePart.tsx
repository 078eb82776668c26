import { cuesInOrder, talksOf, type Cue } from '@yodel/core'
import { useCallback, useMemo } from 'react'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { useTables } from '../document/useTables.js'
import { viewActions } from '../document/viewSlice.js'
import { useSession } from '../session/session.js'
import { DIFFERENCE_NAMES, useDifferences } from '../session/useComparison.js'
import { CueLane } from './CueLane.js'
import type { PartProps } from './FixedPart.js'
import type { Stretch } from './geometry.js'

/**
 * The cues, and those of a sheet laid beside; they stay while tracks are scrolled sideways. The gate passes behind them:
 * the card at the gate is the one that is being read.
 */
export function CuePart({ top, stretch, layer, lefts }: PartProps) {
  const left = lefts.cues
  return (
    <div
      className="absolute bottom-0 z-[31] overflow-hidden"
      style={{ top, left, width: lefts.width - left }}
    >
      <div ref={layer} className="absolute top-0 left-0 will-change-transform">
        <OwnCues stretch={stretch} left={0} />
        {lefts.other !== null && <OtherCues stretch={stretch} left={lefts.other - left} />}
      </div>
    </div>
  )
}

function usePick(): (cue: Cue, add: boolean) => void {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  return useCallback(
    (cue, add) => {
      if (add) return void dispatch(viewActions.toggleSelected(cue.id))
      dispatch(viewActions.select([cue.id]))
      if (!transport.rolling) transport.goToFrame(cue.in)
    },
    [dispatch, transport],
  )
}

function OwnCues({ stretch, left }: { stretch: Stretch; left: number }) {
  const doc = useTables('cue', 'note')
  const selected = useAppSelector((state) => state.view.selected)
  const pass = useAppSelector((state) => state.view.pass)
  const differences = useDifferences()
  const pick = usePick()
  const cues = useMemo(() => cuesInOrder(doc), [doc])
  const badges = useMemo(() => {
    const found = new Map<string, string>()
    for (const { note } of talksOf(doc))
      if (note.cueId !== null && !note.closed) found.set(note.cueId, note.question ? '?' : '✎')
    for (const [id, difference] of differences)
      if (difference !== 'same') found.set(id, DIFFERENCE_NAMES[difference])
    return found
  }, [doc, differences])
  return (
    <CueLane
      name="cues"
      stretch={stretch}
      left={left}
      cues={cues}
      selected={selected}
      badges={badges}
      pass={pass}
      onPick={pick}
    />
  )
}

function OtherCues({ stretch, left }: { stretch: Stretch; left: number }) {
  const { transport } = useSession()
  const other = useAppSelector((state) => state.compare.other)
  const differences = useDifferences()
  const badges = useMemo(
    () =>
      new Map(
        [...differences].flatMap(([id, difference]) =>
          difference === 'same' ? [] : [[id, DIFFERENCE_NAMES[difference]]],
        ),
      ),
    [differences],
  )
  const go = useCallback((cue: Cue) => transport.goToFrame(cue.in), [transport])
  const faint = useCallback((cue: Cue) => differences.get(cue.id) === 'same', [differences])
  return (
    <CueLane
      name="other"
      stretch={stretch}
      left={left}
      cues={other?.cues ?? []}
      selected={[]}
      badges={badges}
      faint={faint}
      onPick={go}
    />
  )
}

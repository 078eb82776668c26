import { FindingMarks } from './FindingMarks.js'
import { SinceMarks } from './SinceMarks.js'
import { useTables } from '../document/useTables.js'
import { cuesInOrder, talksOf, type Cue } from '@yodel/core'
import { useCallback, useMemo, type RefObject } from 'react'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { DIFFERENCE_NAMES, useDifferences } from '../session/useComparison.js'
import { useSession } from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'
import { CueLane } from './CueLane.js'
import { GuideLane, PictureLane, TimecodeLane } from './FixedLanes.js'
import { LANES, type Stretch } from './geometry.js'
import { Marks, MovementCurve, NoteFlags, WatchedBar } from './MarkLanes.js'
import type { LaneLefts } from './SheetHead.js'

/** The lanes that stay while tracks are scrolled sideways: timecode, picture, guide, cues, and a sheet laid beside. */
export function FixedPart({
  top,
  stretch,
  layer,
  lefts,
}: {
  /** Where it begins, under the heads. */
  top: number
  stretch: Stretch
  layer: RefObject<HTMLDivElement | null>
  lefts: LaneLefts
}) {
  const showStrip = useAppSelector((state) => state.view.showStrip)
  return (
    <div className="absolute bottom-0 left-0 z-10 overflow-hidden" style={{ top, width: lefts.width }}>
      <div ref={layer} className="absolute top-0 left-0 will-change-transform">
        <MovementCurve stretch={stretch} />
        <TimecodeLane stretch={stretch} />
        <FindingMarks stretch={stretch} />
        <SinceMarks stretch={stretch} />
        <WatchedBar stretch={stretch} />
        {showStrip && <PictureLane stretch={stretch} />}
        <GuideLane stretch={stretch} left={lefts.guide} />
        <Marks stretch={stretch} pictureLeft={LANES.timecode} guideLeft={lefts.guide} strip={showStrip} />
        <NoteFlags stretch={stretch} />
        <OwnCues stretch={stretch} left={lefts.cues} />
        {lefts.other !== null && <OtherCues stretch={stretch} left={lefts.other} />}
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

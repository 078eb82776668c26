import type { RefObject } from 'react'
import { useAppSelector } from '../document/store.js'
import { FindingMarks } from './FindingMarks.js'
import { GuideLane, PictureLane, TimecodeLane } from './FixedLanes.js'
import { LANES, type Stretch } from './geometry.js'
import { Marks, MovementCurve, NoteFlags, WatchedBar } from './MarkLanes.js'
import type { LaneLefts } from './SheetHead.js'
import { SinceMarks } from './SinceMarks.js'

/** What the parts of the Sheet that stay beside the tracks are drawn with. */
export interface PartProps {
  /** Where it begins, under the heads. */
  readonly top: number
  readonly stretch: Stretch
  /** Moved with the paper, without drawing anew. */
  readonly layer: RefObject<HTMLDivElement | null>
  readonly lefts: LaneLefts
}

/** The lanes that stay while tracks are scrolled sideways: timecode, picture and guide. */
export function FixedPart({ top, stretch, layer, lefts }: PartProps) {
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
      </div>
    </div>
  )
}

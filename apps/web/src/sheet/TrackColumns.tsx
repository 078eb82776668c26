import { clipsByTrack, FRAME_RATES, rideOf, type Clip, type ReelDocument } from '@yodel/core'
import type { RefObject } from 'react'
import { useAppSelector } from '../document/store.js'
import { useReel } from '../session/session.js'
import type { ClipHands } from './clipHands.js'
import type { Column } from './columns.js'
import { FoldedLane } from './FoldedLane.js'
import { ticks, topOf, type Stretch } from './geometry.js'
import { RideLane } from './RideLane.js'
import { TrackLane } from './TrackLane.js'
import { useClipsInSight } from './useClipsInSight.js'

const NONE: readonly Clip[] = []

/** The tracks below their heads: what moves through the gate, and the lines between them that don't. */
export function TrackColumns(props: {
  /** Where they begin, under the heads. */
  top: number
  doc: ReelDocument
  /** Those that can be seen. */
  columns: readonly Column[]
  stretch: Stretch
  layer: RefObject<HTMLDivElement | null>
  hands: ClipHands
  /** Clip whose wish was refused just now. */
  refused: string | null
}) {
  const { top, doc, columns, stretch, layer, hands, refused } = props
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const inSight = useClipsInSight(stretch, rate)
  const onTrack = (id: string): readonly Clip[] => inSight(clipsByTrack(doc).get(id) ?? NONE)
  return (
    <div className="absolute inset-x-0 bottom-0 overflow-hidden" style={{ top }}>
      {columns.map(({ key, left }) => (
        <div key={key} className="absolute inset-y-0 border-l border-line" style={{ left }} />
      ))}
      <div ref={layer} className="absolute inset-x-0 top-0 will-change-transform">
        {ticks(stretch, rate, reel.firstFrame)
          .filter((tick) => tick.major)
          .map(({ frame }) => (
            <div
              key={frame}
              className="absolute inset-x-0 border-t border-hair"
              style={{ top: topOf(stretch, frame) }}
            />
          ))}
        {columns.map(({ key, tracks, folded, left, width }) => {
          const [track] = tracks
          if (!track || folded)
            return <FoldedLane key={key} {...{ tracks, stretch, left }} clipsOf={onTrack} />
          return (
            <TrackLane
              key={key}
              {...{ track, stretch, left, width, hands, refused }}
              clips={onTrack(track.id)}
            />
          )
        })}
        <Rides columns={columns} stretch={stretch} doc={doc} />
      </div>
    </div>
  )
}

/** The curve that is being ridden, on every track. */
function Rides({
  columns,
  stretch,
  doc,
}: {
  columns: readonly Column[]
  stretch: Stretch
  doc: ReelDocument
}) {
  const ride = useAppSelector((state) => state.view.ride)
  if (!ride) return null
  return columns.map(({ key, tracks: [track], folded, left, width }) =>
    track && !folded ? (
      <RideLane key={key} {...{ track, stretch, left, width }} points={rideOf(doc, track.id, ride)} />
    ) : null,
  )
}

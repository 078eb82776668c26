import { samplesPerFrame, FRAME_RATES, type Clip, type Track } from '@yodel/core'
import { memo } from 'react'
import { useReel } from '../session/session.js'
import { FOLDED_WIDTH } from './columns.js'
import { inkOf } from '../ui/ink.js'
import { topOf, type Stretch } from './geometry.js'

/** The tracks of a folder that is folded together, each as a thin line with its sounds: where something sounds, no more. */
export const FoldedLane = memo(function FoldedLane({
  tracks,
  clipsOf,
  stretch,
  left,
}: {
  tracks: readonly Track[]
  clipsOf: (trackId: string) => readonly Clip[]
  stretch: Stretch
  left: number
}) {
  const { rate } = useReel()
  const perFrame = samplesPerFrame(FRAME_RATES[rate])
  const each = (FOLDED_WIDTH - 8) / tracks.length
  return (
    <div className="absolute top-0" style={{ left, width: FOLDED_WIDTH }} data-folded={tracks[0]?.folder}>
      {tracks.map((track, index) =>
        clipsOf(track.id).map((clip) => (
          <div
            key={clip.id}
            title={`${clip.name}, on ${track.name}`}
            className={`absolute border border-(--cat) bg-[color-mix(in_oklab,var(--cat)_30%,var(--card))] ${inkOf(track)} ${clip.mute || track.mute ? 'border-dashed' : ''}`}
            style={{
              top: topOf(stretch, clip.start / perFrame),
              height: Math.max(2, (clip.length / perFrame) * stretch.zoom),
              left: 4 + index * each,
              width: Math.max(2, each - 1),
            }}
          />
        )),
      )}
    </div>
  )
})

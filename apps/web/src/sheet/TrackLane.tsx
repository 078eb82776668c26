import { samplesPerFrame, FRAME_RATES, treatmentWords, type Clip, type Track } from '@yodel/core'
import { memo, useMemo, useState } from 'react'
import { useAppSelector } from '../document/store.js'
import { useReel } from '../session/session.js'
import { isTried } from '../document/tried.js'
import { topOf, type Stretch } from './geometry.js'
import { ClipFace, TILE } from './ClipFace.js'
import { ClipHandles } from './ClipHandles.js'
import type { ClipHands } from './clipHands.js'
import { stackLookOf, type StackLook } from './stackLook.js'
import { inkOf } from '../ui/ink.js'

/** One track: its clips within the stretch, and what is tried or dragged onto it. */
export const TrackLane = memo(function TrackLane(props: {
  track: Track
  clips: readonly Clip[]
  stretch: Stretch
  left: number
  width: number
  hands: ClipHands
  refused: string | null
}) {
  const { track, clips, stretch, left, width, hands, refused } = props
  const { rate: rateId } = useReel()
  const perFrame = samplesPerFrame(FRAME_RATES[rateId])
  const perPixel = perFrame / stretch.zoom
  return (
    <div className={`absolute top-0 ${inkOf(track)}`} style={{ left, width }} data-track={track.id}>
      {clips.map((clip) => {
        const top = topOf(stretch, clip.start / perFrame)
        const tiles = Math.ceil(clip.length / perPixel / TILE)
        return (
          <ClipBox
            key={clip.id}
            clip={clip}
            top={top}
            perPixel={perPixel}
            // A long clip gets canvases only where it can be seen.
            firstTile={Math.max(0, Math.floor((topOf(stretch, stretch.from) - top) / TILE))}
            endTile={Math.min(tiles, Math.ceil((topOf(stretch, stretch.to) - top) / TILE))}
            width={width - 8}
            hands={hands}
            refused={refused === clip.id}
            muted={clip.mute || track.mute}
          />
        )
      })}
    </div>
  )
})

/** Width of what marks the track of a layer while its stack is closed. */
const LAYER_WIDTH = 9

/** The stack that a clip is drawn as a part of. */
function useStackLook(clip: Clip): StackLook | null {
  const doc = useAppSelector((state) => (clip.group === '' ? null : state.document.doc))
  const opened = useAppSelector((state) => state.view.openStacks)
  return useMemo(() => doc && stackLookOf(doc, clip, opened), [doc, clip, opened])
}

const ClipBox = memo(function ClipBox(props: {
  clip: Clip
  top: number
  perPixel: number
  firstTile: number
  endTile: number
  width: number
  hands: ClipHands
  refused: boolean
  muted: boolean
}) {
  const { clip, top, perPixel, firstTile, endTile, width, hands, refused, muted } = props
  const selected = useAppSelector((state) => state.view.selected.includes(clip.id))
  const [isUnder, setUnder] = useState(false)
  const height = Math.max(3, clip.length / perPixel)
  const tried = isTried(clip.id)
  const look = useStackLook(clip)
  const isLayer = look !== null && !look.leads
  const name = look ? `${look.stack.name} ×${look.layers.length}, a stack` : clip.name
  const canBeShaped = !tried && !look && height > 14
  const sync = (clip.sync - clip.offset) / perPixel
  return (
    <div
      data-clip={clip.id}
      data-selected={selected}
      data-try={tried}
      data-scratch={clip.scratch !== ''}
      data-mute={muted}
      data-refused={refused}
      data-stack={look ? (look.leads ? 'lead' : 'layer') : undefined}
      role={tried ? undefined : 'button'}
      tabIndex={tried || isLayer ? -1 : 0}
      aria-label={tried ? `Trying ${clip.name}` : isLayer ? `Layer of ${look.stack.name}` : name}
      title={height < 26 || isLayer ? name : undefined}
      className={`clip absolute left-1 touch-none select-none ${tried ? 'pointer-events-none' : 'cursor-grab'}`}
      style={{ top, height, width: isLayer ? LAYER_WIDTH : width }}
      onPointerEnter={() => setUnder(true)}
      onPointerLeave={() => setUnder(false)}
      {...(tried ? {} : hands.bindBody(clip))}
    >
      {!isLayer && (
        <ClipFace
          {...{ width, height, perPixel, firstTile, endTile, tried }}
          hasHandles={selected && canBeShaped}
          clip={look ? { ...clip, name: `${look.stack.name} ×${look.layers.length}` } : clip}
        />
      )}
      {(tried || selected) && !isLayer && sync >= 0 && sync <= height && (
        <div
          className="pointer-events-none absolute right-0 left-0 border-t border-dashed border-ink"
          style={{ top: sync }}
        >
          <svg className="absolute -top-[5px] -left-[8px]" width="9" height="10" aria-hidden>
            <path d="M0 0 L9 5 L0 10Z" fill="var(--ink)" />
          </svg>
        </div>
      )}
      {clip.treatment !== '' && !isLayer && height >= 24 && (
        <span
          className="outlined absolute bottom-px left-[4px] text-[12px] leading-[12px] font-bold"
          title={`Treated: ${treatmentWords(clip)}`}
          data-treated
        >
          ~
        </span>
      )}
      {clip.locked && !isLayer && (
        <span className="absolute right-[3px] bottom-px text-[10px] font-bold" title="Locked: U unlocks it">
          =
        </span>
      )}
      {(isUnder || selected) && canBeShaped && (
        <ClipHandles {...{ clip, height, perPixel, hands, selected }} />
      )}
    </div>
  )
})

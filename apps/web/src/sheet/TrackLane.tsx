import { samplesPerFrame, FRAME_RATES, fileSpan, gainFromDb, type Clip, type Track } from '@yodel/core'
import { memo } from 'react'
import { useAppSelector } from '../document/store.js'
import { useReel } from '../session/session.js'
import { isTried } from '../document/tried.js'
import { fitText } from '../ui/fitText.js'
import { topOf, type Stretch } from './geometry.js'
import type { ClipHands } from './clipHands.js'
import { inkOf } from '../ui/ink.js'
import { Wave } from '../ui/Wave.js'

const TILE = 600

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
  const height = Math.max(3, clip.length / perPixel)
  const tried = isTried(clip.id)
  const sync = (clip.sync - clip.offset) / perPixel
  // An outline of a few pixels says nothing.
  const tiles =
    height < 8
      ? []
      : Array.from({ length: Math.max(0, endTile - firstTile) }, (_, index) => firstTile + index)
  const bind = tried ? {} : hands.bindBody(clip)
  return (
    <div
      data-clip={clip.id}
      data-selected={selected}
      data-try={tried}
      data-mute={muted}
      data-refused={refused}
      role={tried ? undefined : 'button'}
      tabIndex={tried ? -1 : 0}
      aria-label={tried ? `Trying ${clip.name}` : clip.name}
      title={height < 26 ? clip.name : undefined}
      className={`clip absolute left-1 touch-none select-none ${tried ? 'pointer-events-none' : 'cursor-grab'}`}
      style={{ top, height, width }}
      {...bind}
    >
      <div className="absolute inset-0">
        {tiles.map((tile) => {
          const tall = Math.min(TILE, height - tile * TILE)
          const [from, to] = fileSpan(
            clip,
            clip.offset + tile * TILE * perPixel,
            clip.offset + (tile * TILE + tall) * perPixel,
          )
          return (
            <div
              key={tile}
              className={`absolute left-[6px] ${clip.reverse ? '-scale-y-100' : ''}`}
              style={{ top: tile * TILE }}
            >
              <Wave
                mediaId={clip.soundId}
                from={from}
                to={to}
                width={width - 16}
                height={tall}
                vertical
                gain={gainFromDb(clip.gain)}
                colour={tried ? '--gate' : '--cat'}
                opacity={tried ? 0.45 : 0.5}
              />
            </div>
          )
        })}
        <Fades clip={clip} width={width} height={height} perPixel={perPixel} />
        {height >= 13 &&
          // Said again down a long sound, so that it is in sight wherever the gate stands.
          [0, ...tiles.filter((tile) => tile > 0)].map((tile) => (
            <span
              key={tile}
              className="outlined absolute inset-x-0 pt-px pl-[5px] text-[10.5px] leading-[12px] font-semibold whitespace-pre"
              style={{ top: tile * TILE }}
            >
              {fitText(clip.name, '600 10.5px', width - 9, Math.min(4, Math.floor((height - 2) / 12) || 1))}
            </span>
          ))}
      </div>
      {(tried || selected) && sync >= 0 && sync <= height && (
        <div
          className="pointer-events-none absolute right-0 left-0 border-t border-dashed border-ink"
          style={{ top: sync }}
        >
          <svg className="absolute -top-[5px] -left-[8px]" width="9" height="10" aria-hidden>
            <path d="M0 0 L9 5 L0 10Z" fill="var(--ink)" />
          </svg>
        </div>
      )}
      {clip.locked && (
        <span className="absolute right-[3px] bottom-px text-[10px] font-bold" title="Locked: U unlocks it">
          =
        </span>
      )}
      {!tried && height > 14 && (
        <>
          <div
            className="absolute inset-x-0 -top-[2px] h-[7px] cursor-ns-resize touch-none"
            data-trim="head"
            {...hands.bindTrim(clip, 'head')}
          />
          <div
            className="absolute inset-x-0 -bottom-[2px] h-[7px] cursor-ns-resize touch-none"
            data-trim="tail"
            {...hands.bindTrim(clip, 'tail')}
          />
          {selected && height > 40 && (
            <>
              <Handle
                at={Math.min(height - 12, Math.max(6, clip.fadeIn / perPixel))}
                side="right"
                what="fadeIn"
                label="Fade in"
                {...hands.bindFade(clip, 'fadeIn')}
              />
              <Handle
                at={Math.max(12, Math.min(height - 6, height - clip.fadeOut / perPixel))}
                side="right"
                what="fadeOut"
                label="Fade out"
                {...hands.bindFade(clip, 'fadeOut')}
              />
              <Handle
                at={height / 2}
                side="left"
                what="gain"
                label="Gain, dragged sideways"
                {...hands.bindGain(clip)}
              />
            </>
          )}
        </>
      )}
    </div>
  )
})

/** A small square that is pulled: a fade's end, or the gain. */
function Handle({
  at,
  side,
  what,
  label,
  ...bind
}: { at: number; side: 'left' | 'right'; what: string; label: string } & Record<string, unknown>) {
  return (
    <div
      data-handle={what}
      title={label}
      className={`absolute z-10 size-[9px] touch-none border border-ink bg-card ${what === 'gain' ? 'cursor-ew-resize rounded-full' : 'cursor-ns-resize'} ${side === 'left' ? 'left-[2px]' : 'right-[2px]'}`}
      style={{ top: at - 4.5 }}
      {...bind}
    />
  )
}

/** Fades as the wedge that mix cue sheets use: open where it is loud. */
function Fades({
  clip,
  width,
  height,
  perPixel,
}: {
  clip: Clip
  width: number
  height: number
  perPixel: number
}) {
  const fadeIn = clip.fadeIn / perPixel
  const fadeOut = clip.fadeOut / perPixel
  if (fadeIn < 4 && fadeOut < 4) return null
  const middle = width / 2
  return (
    <svg className="absolute inset-0" width={width} height={height} aria-hidden>
      {fadeIn >= 4 && (
        <path d={`M0 ${fadeIn} L${middle} 0 L${width} ${fadeIn}`} fill="none" stroke="var(--cat)" />
      )}
      {fadeOut >= 4 && (
        <path
          d={`M0 ${height - fadeOut} L${middle} ${height} L${width} ${height - fadeOut}`}
          fill="none"
          stroke="var(--cat)"
        />
      )}
    </svg>
  )
}

import {
  fileSpan,
  gainFromDb,
  mediaOf,
  passingAt,
  SAMPLE_RATE,
  warped,
  warpOf,
  type Clip,
  type Warp,
} from '@yodel/core'
import { fitText } from '../ui/fitText.js'
import { Wave } from '../ui/Wave.js'

/** Pixels of a piece of a clip that is drawn at once. */
export const TILE = 600

/** In columns narrower than this names run down. */
const NARROW = 62

/** Pixels that the borders of a clip take of its width; see `.clip` in index.css. */
const BORDERS = 4.5

/** Pixels that a square at its right takes of the name. */
const HANDLE = 12

/** A name down a long sound is only said again where it fits before the end. */
const ROOM_FOR_NAME = 56

/** What a clip shows of its sound: the wave in tiles, its name, its fades. */
export function ClipFace(props: {
  clip: Clip
  width: number
  height: number
  /** Samples of a pixel. */
  perPixel: number
  /** Tiles in sight: the first, and the one after the last. */
  firstTile: number
  endTile: number
  tried: boolean
  /** The squares of its fades lie at its right: the name leaves them room. */
  hasHandles: boolean
}) {
  const { clip, width, height, perPixel, firstTile, endTile, tried, hasHandles } = props
  const aside = hasHandles ? HANDLE : 0
  const isNarrow = width < NARROW
  const warp = warpOf(clip)
  // An outline of a few pixels says nothing.
  const tiles =
    height < 8
      ? []
      : Array.from({ length: Math.max(0, endTile - firstTile) }, (_, index) => firstTile + index)
  return (
    <>
      {tiles.map((tile) => {
        const tall = Math.min(TILE, height - tile * TILE)
        // What is on the move is drawn piece by piece, each as stretched as it is heard there.
        const slice = warp ? SLICE : tall
        return Array.from({ length: Math.ceil(tall / slice) }, (_, index) => {
          const top = tile * TILE + index * slice
          const piece = Math.min(slice, tall - index * slice)
          const [low, high] = [top * perPixel, (top + piece) * perPixel].map(
            (x) => clip.offset + (warp ? Math.max(0, warped(warp, x)) : x),
          ) as [number, number]
          const [from, to] = fileSpan(clip, low, high)
          return (
            <Wave
              key={top}
              className={`absolute left-[6px] ${clip.reverse ? '-scale-y-100' : ''}`}
              top={top}
              mediaId={mediaOf({ ...clip, speed: 1 })}
              from={from}
              to={to}
              width={width - 16}
              height={piece}
              vertical
              gain={gainFromDb(clip.gain)}
              colour={tried ? '--gate' : '--cat'}
              opacity={tried ? 0.45 : 0.5}
            />
          )
        })
      })}
      {warp && <Movement warp={warp} width={width - BORDERS} height={height - 2} perPixel={perPixel} />}
      <Fades clip={clip} width={width - BORDERS} height={height - 2} perPixel={perPixel} />
      {isNarrow && height >= 24 && (
        <span
          className="outlined absolute right-0 text-[10.5px] leading-[12px] font-semibold whitespace-pre [writing-mode:vertical-rl]"
          style={{ top: 1 + aside }}
        >
          {fitText(clip.name, '600 10.5px', Math.min(TILE, height) - 6 - aside)}
        </span>
      )}
      {!isNarrow &&
        height >= 13 &&
        // Said again down a long sound, so that it is in sight wherever the gate stands.
        [0, ...tiles.filter((tile) => tile > 0 && height - tile * TILE > ROOM_FOR_NAME)].map((tile) => (
          <span
            key={tile}
            className="outlined absolute inset-x-0 pt-px pl-[5px] text-[10.5px] leading-[12px] font-semibold whitespace-pre"
            style={{ top: tile * TILE }}
          >
            {fitText(
              clip.name,
              '600 10.5px',
              width - 9 - aside,
              Math.min(4, Math.floor((height - 2) / 12) || 1),
            )}
          </span>
        ))}
    </>
  )
}

/** Pixels of a piece of a sound on the move, in which it is drawn as evenly stretched. */
const SLICE = 20
/** Pixels between two points of a curve. */
const STEP = 4

/** Its speed while it runs up or down, from rest at the left; and where it is while it goes past, from left to right. */
function Movement(props: { warp: Warp; width: number; height: number; perPixel: number }) {
  const { warp, width, height, perPixel } = props
  const line = (valueAt: (x: number) => number): string =>
    Array.from({ length: Math.ceil(height / STEP) + 1 }, (_, index) => {
      const y = Math.min(height, index * STEP)
      return `${index === 0 ? 'M' : 'L'}${(valueAt(y * perPixel) * width).toFixed(1)} ${y.toFixed(1)}`
    }).join('')
  const { up, down, length, sync, speed, distance } = warp
  const speedAt = (x: number): number =>
    Math.max(0, Math.min(1, up > 0 ? x / up : 1, down > 0 ? (length - x) / down : 1))
  const sideAt = (x: number): number => {
    const { aside, away } = passingAt(speed, distance, (x - sync) / SAMPLE_RATE)
    return (aside / away + 1) / 2
  }
  return (
    <svg className="absolute inset-0" width={width} height={height} aria-hidden data-movement>
      {up + down > 0 && (
        <path d={line(speedAt)} fill="none" stroke="var(--ink)" strokeDasharray="3 2" opacity={0.7} />
      )}
      {speed !== 0 && (
        <path d={line(sideAt)} fill="none" stroke="var(--ink)" strokeWidth={1.5} opacity={0.7} />
      )}
    </svg>
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

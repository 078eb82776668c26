import { fileSpan, gainFromDb, mediaOf, type Clip } from '@yodel/core'
import { fitText } from '../ui/fitText.js'
import { Wave } from '../ui/Wave.js'

/** Pixels of a piece of a clip that is drawn at once. */
export const TILE = 600

/** In columns narrower than this names run down. */
const NARROW = 62

/** Pixels that the borders of a clip take of its width; see `.clip` in index.css. */
const BORDERS = 4.5

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
}) {
  const { clip, width, height, perPixel, firstTile, endTile, tried } = props
  const isNarrow = width < NARROW
  // An outline of a few pixels says nothing.
  const tiles =
    height < 8
      ? []
      : Array.from({ length: Math.max(0, endTile - firstTile) }, (_, index) => firstTile + index)
  return (
    <div className="absolute inset-0">
      {tiles.map((tile) => {
        const tall = Math.min(TILE, height - tile * TILE)
        const top = clip.offset + tile * TILE * perPixel
        const [from, to] = fileSpan(clip, top, top + tall * perPixel)
        return (
          <div
            key={tile}
            className={`absolute left-[6px] ${clip.reverse ? '-scale-y-100' : ''}`}
            style={{ top: tile * TILE }}
          >
            <Wave
              mediaId={mediaOf({ ...clip, speed: 1 })}
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
      <Fades clip={clip} width={width - BORDERS} height={height - 2} perPixel={perPixel} />
      {isNarrow && height >= 24 && (
        <span className="outlined absolute top-px right-0 text-[10.5px] leading-[12px] font-semibold whitespace-pre [writing-mode:vertical-rl]">
          {fitText(clip.name, '600 10.5px', Math.min(TILE, height) - 6)}
        </span>
      )}
      {!isNarrow &&
        height >= 13 &&
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

import {
  frameOfSample,
  frames,
  FRAME_RATES,
  frameToSample,
  formatTimecode,
  guideMedia,
  pictureFrameAt,
  STRIP_SHEET,
  type Picture,
} from '@yodel/core'
import { memo } from 'react'
import { usePicture, usePictureOffset, useReel } from '../session/session.js'
import { LANES, stripStep, ticks, topOf, type Stretch } from './geometry.js'
import { useJumped } from './useJumped.js'
import { Wave } from '../ui/Wave.js'

/** Timecode, hairlines across the lane and into the others. */
export const TimecodeLane = memo(function TimecodeLane({ stretch }: { stretch: Stretch }) {
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  return (
    <div className="absolute top-0 left-0" style={{ width: LANES.timecode }} data-lane="timecode">
      {ticks(stretch, rate, reel.firstFrame).map(({ frame, major }) => (
        <div
          key={frame}
          className={`absolute right-0 border-t ${major ? 'left-0 border-line' : 'left-10 border-line'}`}
          style={{ top: topOf(stretch, frame) }}
        >
          {major && (
            <span className="absolute -top-[15px] left-1.5 font-mono text-[10.5px] text-ink-2">
              {stretch.zoom > 6
                ? formatTimecode(reel.firstFrame + frame, rate).slice(6)
                : formatTimecode(reel.firstFrame + frame, rate).slice(3, 8)}
            </span>
          )}
        </div>
      ))}
    </div>
  )
})

/** Thumbnails of the picture, each at its frame. */
export const PictureLane = memo(function PictureLane({ stretch }: { stretch: Stretch }) {
  const picture = usePicture()
  const { rate: rateId, length } = useReel()
  const offset = usePictureOffset()
  const hasJumped = useJumped(stretch)
  if (!picture || picture.made === 0) return null
  const rate = FRAME_RATES[rateId]
  const ownRate = FRAME_RATES[picture.rate]
  const { step, sparse } = stripStep(stretch.zoom, rate)
  // The film lies where the picture does; before and after it there is paper.
  const long = (picture.frames * ownRate.den * rate.num) / (ownRate.num * rate.den)
  const [first, last] = [Math.max(stretch.from, offset), Math.min(stretch.to, offset + long)]
  const frames: number[] = []
  for (
    let frame = Math.floor(Math.max(0, stretch.from) / step) * step;
    frame < Math.min(length, stretch.to);
    frame += step
  )
    frames.push(frame)
  return (
    <div
      className="absolute top-0"
      style={{ left: LANES.timecode, width: LANES.picture }}
      data-lane="picture"
    >
      {last > first && (
        <div
          className="absolute inset-x-0 bg-[#101719]"
          style={{ top: topOf(stretch, first), height: (last - first) * stretch.zoom }}
        />
      )}
      {frames.map((frame) => (
        <Thumbnail
          key={frame}
          picture={picture}
          frame={pictureFrameAt(frame - offset, rate, ownRate)}
          sparse={sparse}
          waits={hasJumped}
          top={topOf(stretch, frame)}
          height={step * stretch.zoom}
        />
      ))}
    </div>
  )
})

/** Sheets of thumbnails that were shown before: the browser has them. */
const shownSheets = new Set<string>()

/** Frames by which a sheet of thumbnails may come later than they do. */
const SHEET_LATE = 50

const Thumbnail = memo(function Thumbnail({
  picture,
  frame,
  sparse,
  waits,
  top,
  height,
}: {
  picture: Picture
  frame: number
  sparse: boolean
  /** A sheet that has not been shown yet is not asked for now. */
  waits: boolean
  top: number
  height: number
}) {
  if (frame < 0 || frame >= picture.frames) return null
  const apart = sparse ? FRAME_RATES[picture.rate].nominal : 1
  const index = Math.floor(frame / apart)
  const sheet = Math.floor(index / STRIP_SHEET) + 1
  // A sheet is there when all its frames are, and a moment later.
  if (picture.state !== 'ready' && sheet * STRIP_SHEET * apart + SHEET_LATE > picture.made) return null
  // One that came too early is asked for again once the whole picture is there.
  const of = picture.state === 'ready' ? picture.frames : 'made'
  const url = `/api/pictures/${picture.id}/sheets/${sparse ? 'sparse' : 'strip'}/${sheet}?of=${of}`
  if (waits && !shownSheets.has(url)) return null
  shownSheets.add(url)
  const at = index % STRIP_SHEET
  const tall = Math.min(34, Math.max(2, height - 1))
  return (
    <div
      className="absolute left-[5px] w-[60px] bg-no-repeat"
      style={{
        top: top + 0.5,
        height: tall,
        backgroundImage: `url(${url})`,
        backgroundSize: '600px 338px',
        backgroundPosition: `-${(at % 10) * 60}px -${Math.floor(at / 10) * 33.8}px`,
      }}
    />
  )
})

/** The guide's outline. */
export const GuideLane = memo(function GuideLane({ stretch, left }: { stretch: Stretch; left: number }) {
  const picture = usePicture()
  const { rate: rateId } = useReel()
  const offset = usePictureOffset()
  const length = picture?.tracks[picture.drawn]?.length ?? 0
  if (!picture || length === 0) return null
  const rate = FRAME_RATES[rateId]
  const end = Math.ceil(offset + frameOfSample(length, rate))
  // Pieces of a fixed number of frames keep their canvas while the stretch moves on.
  const piece = Math.max(1, Math.round(512 / stretch.zoom))
  const pieces: { from: number; to: number }[] = []
  for (let at = Math.floor(Math.max(0, stretch.from) / piece) * piece; at < stretch.to; at += piece)
    pieces.push({ from: Math.max(at, offset), to: Math.min(at + piece, end) })
  return (
    <div className="absolute top-0" style={{ left, width: LANES.guide }} data-lane="guide">
      {pieces.map(
        ({ from, to }) =>
          to > from && (
            <div key={from} className="absolute left-px" style={{ top: topOf(stretch, from) }}>
              <Wave
                mediaId={guideMedia(picture.id, picture.drawn)}
                from={frameToSample(frames(from - offset), rate)}
                to={frameToSample(frames(to - offset), rate)}
                width={LANES.guide - 3}
                height={(to - from) * stretch.zoom}
                vertical
                colour="--ink-3"
                opacity={0.85}
              />
            </div>
          ),
      )}
    </div>
  )
})

import { useTables } from '../document/useTables.js'
import { FRAME_RATES, pictureFrameAt, talksOf, type Span, type Talk } from '@yodel/core'
import { area } from 'd3-shape'
import { memo, useMemo } from 'react'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import {
  useAnalysis,
  useMarks,
  usePicture,
  usePictureOffset,
  useReel,
  useSession,
} from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'
import { useWatchedSpans } from '../session/watching.js'
import { LANES, topOf, type Stretch } from './geometry.js'

/** Onsets of the guide beside it, cuts of the picture across its strip: help for the eye, never a decision. */
export const Marks = memo(function Marks({
  stretch,
  pictureLeft,
  guideLeft,
  strip,
}: {
  stretch: Stretch
  pictureLeft: number
  guideLeft: number
  strip: boolean
}) {
  const { onsets, cuts } = useMarks()
  const within = (frames: readonly number[]): number[] =>
    frames.filter((frame) => frame >= stretch.from && frame <= stretch.to)
  // Far out, hundreds of onsets would only be a grey bar.
  const shownOnsets = stretch.zoom >= 0.5 ? within(onsets) : []
  return (
    <div className="pointer-events-none" aria-hidden>
      {shownOnsets.map((frame) => (
        <i
          key={`o${frame}`}
          data-onset={frame}
          className="absolute h-px w-[7px] bg-ink"
          style={{ left: guideLeft + LANES.guide - 8, top: topOf(stretch, frame) }}
        />
      ))}
      {within(cuts).map((frame) => (
        <i
          key={`c${frame}`}
          data-cut={frame}
          className={`absolute border-t-2 ${strip ? 'border-[#ece6d8]' : 'border-ink'}`}
          style={{
            left: strip ? pictureLeft : LANES.timecode - 8,
            width: strip ? LANES.picture : 8,
            top: topOf(stretch, frame) - 1,
          }}
        />
      ))}
    </div>
  )
})

const CURVE = 12

/** How much the picture moves, as a curve at the right edge of the timecode lane. */
export const MovementCurve = memo(function MovementCurve({ stretch }: { stretch: Stretch }) {
  const analysis = useAnalysis()
  const picture = usePicture()
  const offset = usePictureOffset()
  const reel = useReel()
  const path = useMemo(() => {
    if (!analysis || !picture || stretch.zoom < 0.1) return null
    const movement = analysis.movement
    const step = Math.max(1, Math.round(2 / stretch.zoom))
    const points: [number, number][] = []
    for (let frame = Math.max(0, stretch.from); frame < stretch.to; frame += step) {
      let most = 0
      for (let at = frame; at < frame + step; at++)
        most = Math.max(
          most,
          movement[pictureFrameAt(at - offset, FRAME_RATES[reel.rate], FRAME_RATES[picture.rate])] ?? 0,
        )
      // The square root brings out the small movements that an editor looks for.
      points.push([Math.sqrt(most / 255) * CURVE * 2, topOf(stretch, frame)])
    }
    return area<[number, number]>()
      .x0(CURVE)
      .x1(([x]) => CURVE - Math.min(CURVE, x))
      .y(([, y]) => y)(points)
  }, [analysis, picture, offset, reel.rate, stretch])
  if (!path) return null
  return (
    <svg
      className="pointer-events-none absolute top-0 overflow-visible"
      style={{ left: LANES.timecode - CURVE }}
      width={CURVE}
      height="1"
      aria-hidden
      data-lane="movement"
    >
      <path d={path} fill="var(--ink-3)" opacity="0.45" />
    </svg>
  )
})

/** What has been watched in the pass that is on: a bar at the left edge of the timecode lane. */
export const WatchedBar = memo(function WatchedBar({ stretch }: { stretch: Stretch }) {
  const pass = useAppSelector((state) => state.view.pass)
  const spans = useWatchedSpans(pass)
  if (pass === null) return null
  const shown = spans.filter((span) => span.to > stretch.from && span.from < stretch.to)
  return (
    <div className={`pointer-events-none ink-${pass}`} aria-hidden>
      {shown.map((span: Span) => (
        <i
          key={span.from}
          className="absolute left-0 w-[3px] bg-(--cat)"
          style={{ top: topOf(stretch, span.from), height: (span.to - span.from) * stretch.zoom }}
          data-watched
        />
      ))}
    </div>
  )
})

/** Notes and questions that stand at a frame and on no cue: small flags between timecode and picture. */
export const NoteFlags = memo(function NoteFlags({ stretch }: { stretch: Stretch }) {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const doc = useTables('note', 'cue')
  const talks = useMemo(() => talksOf(doc), [doc])
  const pick = ({ note, frame }: Talk): void => {
    dispatch(viewActions.select([note.id]))
    transport.goToFrame(frame)
  }
  return talks
    .filter(
      ({ frame, note }) =>
        note.cueId === null && !note.closed && frame >= stretch.from && frame <= stretch.to,
    )
    .map((talk) => (
      <button
        key={talk.note.id}
        type="button"
        data-note={talk.note.id}
        title={`${talk.note.author}: ${talk.note.words}`}
        aria-label={`${talk.note.question ? 'Question' : 'Note'} by ${talk.note.author}: ${talk.note.words}`}
        onClick={() => pick(talk)}
        className="absolute z-10 grid h-[17px] w-[17px] place-items-center rounded-[2px] border border-ink bg-card text-[11px] leading-none font-bold"
        style={{ left: LANES.timecode - 20, top: topOf(stretch, talk.frame) + 2 }}
      >
        {talk.note.question ? '?' : '✎'}
      </button>
    ))
})

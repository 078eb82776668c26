import {
  CATEGORY_NAMES,
  cueCode,
  cuesInOrder,
  FRAME_RATES,
  frameToSample,
  formatTimecode,
  pictureFrameAt,
  STRIP_SHEET,
  type Cue,
  type CueState,
  type Frames,
  type Picture,
} from '@yodel/core'
import { memo, useMemo } from 'react'
import { useAppDispatch, useAppSelector } from '../app/store.js'
import { usePicture, useReel, useSession } from '../features/reel/session.js'
import { viewActions } from '../features/reel/viewSlice.js'
import { LANES, layoutCueLane, stripStep, ticks, topOf, type Card, type CardLook, type Window } from './geometry.js'
import { Wave } from './Wave.js'

/** Marks of the cue states. */
export const STATE_MARKS: Readonly<Record<CueState, string>> = { open: '○', work: '◐', ready: '●', approved: '✓', omitted: '⊘' }

/** Timecode, hairlines across the lane and into the others. */
export const TimecodeLane = memo(function TimecodeLane({ window }: { window: Window }) {
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  return (
    <div className="absolute top-0 left-0" style={{ width: LANES.timecode }} data-lane="timecode">
      {ticks(window, rate, reel.firstFrame).map(({ frame, major }) => (
        <div key={frame} className={`absolute right-0 border-t ${major ? 'left-0 border-line' : 'left-10 border-line'}`} style={{ top: topOf(window, frame) }}>
          {major && (
            <span className="absolute -top-[15px] left-1.5 font-mono text-[10.5px] text-ink-2">
              {window.zoom > 6 ? formatTimecode(reel.firstFrame + frame, rate).slice(6) : formatTimecode(reel.firstFrame + frame, rate).slice(3, 8)}
            </span>
          )}
        </div>
      ))}
    </div>
  )
})

/** Thumbnails of the picture, each at its frame. */
export const PictureLane = memo(function PictureLane({ window }: { window: Window }) {
  const picture = usePicture()
  const { rate: rateId, length } = useReel()
  if (picture?.state !== 'ready') return null
  const rate = FRAME_RATES[rateId]
  const { step, sparse } = stripStep(window.zoom, rate)
  const frames: number[] = []
  for (let frame = Math.floor(Math.max(0, window.from) / step) * step; frame < Math.min(length, window.to); frame += step) frames.push(frame)
  return (
    <div className="absolute top-0" style={{ left: LANES.timecode, width: LANES.picture }} data-lane="picture">
      {frames.map((frame) => (
        <Thumbnail
          key={frame}
          picture={picture}
          frame={pictureFrameAt(frame, rate, FRAME_RATES[picture.rate])}
          sparse={sparse}
          top={topOf(window, frame)}
          height={step * window.zoom}
        />
      ))}
    </div>
  )
})

function Thumbnail({ picture, frame, sparse, top, height }: { picture: Picture; frame: number; sparse: boolean; top: number; height: number }) {
  if (frame >= picture.frames) return null
  const index = sparse ? Math.floor(frame / FRAME_RATES[picture.rate].nominal) : frame
  const sheet = Math.floor(index / STRIP_SHEET) + 1
  const at = index % STRIP_SHEET
  const tall = Math.min(34, Math.max(2, height - 1))
  return (
    <div
      className="absolute left-[5px] w-[60px] bg-no-repeat"
      style={{
        top: top + 0.5,
        height: tall,
        backgroundImage: `url(/api/pictures/${picture.id}/sheets/${sparse ? 'sparse' : 'strip'}/${sheet})`,
        backgroundSize: '600px 338px',
        backgroundPosition: `-${(at % 10) * 60}px -${Math.floor(at / 10) * 33.8}px`,
      }}
    />
  )
}

/** The guide's outline. */
export const GuideLane = memo(function GuideLane({ window, left }: { window: Window; left: number }) {
  const picture = usePicture()
  const { rate: rateId } = useReel()
  if (!picture || picture.guide === 0) return null
  const rate = FRAME_RATES[rateId]
  // Pieces of a fixed number of frames keep their canvas while the window moves on.
  const piece = Math.max(1, Math.round(512 / window.zoom))
  const pieces: number[] = []
  for (let at = Math.floor(Math.max(0, window.from) / piece) * piece; at < window.to; at += piece) pieces.push(at)
  return (
    <div className="absolute top-0" style={{ left, width: LANES.guide }} data-lane="guide">
      {pieces.map((at) => (
        <div key={at} className="absolute left-px" style={{ top: topOf(window, at) }}>
          <Wave
            mediaId={`guide-${picture.id}`}
            from={frameToSample(at as Frames, rate)}
            to={frameToSample((at + piece) as Frames, rate)}
            width={LANES.guide - 3}
            height={piece * window.zoom}
            vertical
            colour="--ink-3"
            opacity={0.85}
          />
        </div>
      ))}
    </div>
  )
})

/** Brackets over the cues' spans and cards that never overlap, joined to their frame by leaders. */
export const CueLane = memo(function CueLane({ window, left }: { window: Window; left: number }) {
  const cues = useAppSelector((state) => state.document.doc.cue)
  const doc = useAppSelector((state) => state.document.doc)
  const selected = useAppSelector((state) => state.view.selected)
  const pass = useAppSelector((state) => state.view.pass)
  const { length } = useReel()
  const { look, cards } = useMemo(() => layoutCueLane(cuesInOrder({ ...doc, cue: cues }), window.zoom, length), [cues, window.zoom, length])
  const shown = cards.filter((card) => {
    const top = card.top - window.from * window.zoom
    const bottom = (window.to - window.from) * window.zoom
    return (top > -60 && top < bottom) || card.cues.some((cue) => cue.out > window.from && cue.in < window.to)
  })
  return (
    <div className="absolute top-0" style={{ left, width: LANES.cues }} data-lane="cues">
      {shown.map((card) => (
        <CueCard
          key={card.key}
          card={card}
          look={look}
          window={window}
          selected={card.cues.some((cue) => selected.includes(cue.id))}
          faint={pass !== null && card.cues.every((cue) => cue.category !== pass)}
        />
      ))}
    </div>
  )
})

const CueCard = memo(function CueCard({ card, look, window, selected, faint }: { card: Card; look: CardLook; window: Window; selected: boolean; faint: boolean }) {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const reel = useReel()
  const first = card.cues[0] as Cue
  const top = card.top - window.from * window.zoom
  const start = topOf(window, first.in)
  const tall = Math.max(2, (first.out - first.in) * window.zoom)
  const pick = (): void => {
    dispatch(viewActions.select([first.id]))
    if (!transport.rolling) transport.goToFrame(first.in)
  }
  return (
    <div className={`ink-${first.category} ${faint ? 'opacity-35' : ''}`}>
      {look !== 'counts' && <div className="absolute left-[2px] w-[3px] bg-(--cat) opacity-55" style={{ top: start, height: tall }} />}
      <svg className="pointer-events-none absolute left-0 overflow-visible" style={{ top: 0 }} width="12" height="1" aria-hidden>
        <path d={`M0 ${start} L6 ${start} L12 ${top + 9}`} fill="none" stroke="var(--cat)" strokeWidth="1.3" />
      </svg>
      <button
        type="button"
        data-cue={first.id}
        aria-label={`${cueCode(first)}, ${CATEGORY_NAMES[first.category]}, ${first.words || 'no words yet'}`}
        onClick={pick}
        className={`absolute left-3 w-[144px] overflow-hidden rounded-[3px] border bg-card px-[6px] text-left ${selected ? 'border-gate ring-1 ring-gate' : 'border-line hover:border-ink-3'}`}
        style={{ top, height: card.height }}
      >
        {look === 'counts' ? (
          <span className="block truncate text-[10.5px] leading-4">{card.cues.length === 1 ? `${cueCode(first)} ${first.words}` : `${card.cues.length} cues`}</span>
        ) : (
          <>
            <span className="flex items-baseline gap-1.5 pt-px">
              <span className="text-[10.5px] font-bold tracking-wide text-(--cat)">{cueCode(first)}</span>
              {look === 'line' && <span className={`truncate text-[11px] ${first.state === 'omitted' ? 'line-through' : ''}`}>{first.words}</span>}
              {look === 'full' && <span className="ml-auto font-mono text-[10.5px] text-ink-2">{formatTimecode(reel.firstFrame + first.in, FRAME_RATES[reel.rate]).slice(3)}</span>}
            </span>
            {look === 'full' && (
              <span className="flex items-baseline gap-1">
                <span className={`truncate text-[11.5px] ${first.state === 'omitted' ? 'line-through' : ''} ${first.words ? '' : 'text-ink-3'}`}>
                  {first.words || 'no words yet'}
                </span>
                <span className="ml-auto text-[11px] text-(--cat)" aria-hidden>
                  {STATE_MARKS[first.state]}
                </span>
              </span>
            )}
          </>
        )}
      </button>
    </div>
  )
})

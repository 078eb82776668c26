import { FRAME_RATES, tracksInOrder } from '@yodel/core'
import { useCallback, useMemo, useRef } from 'react'
import { useAppSelector } from '../document/store.js'
import { hitsOn, performedFollower } from '../document/performed.js'
import { draftTriedIn, shownEntry } from '../document/drafted.js'
import { stackTriedIn, triedIn } from '../document/tried.js'
import { useReel, useSession } from '../session/session.js'
import { columnAt, layoutColumns, widthOfColumns } from './columns.js'
import { CuePart } from './CuePart.js'
import { FixedPart } from './FixedPart.js'
import { DragLabel, Gate } from './Gate.js'
import { GATE, HEAD, LANES, NARROW_WIDTH, TALL_HEAD, TRACK_WIDTH } from './geometry.js'
import { SheetHead, type LaneLefts } from './SheetHead.js'
import { TrackColumns } from './TrackColumns.js'
import { TrackHead } from './TrackHead.js'
import { useClipGestures } from './useClipGestures.js'
import { useHeadDrag } from './useHeadDrag.js'
import { usePaper } from './usePaper.js'
import { useRubberBand } from './useRubberBand.js'
import { useShowTrack } from './useShowTrack.js'
import { useSize } from './useSize.js'
import { useSoundDrop, type Place } from './useSoundDrop.js'
import { useStill } from './useStill.js'
import { useStretch } from './useStretch.js'
import { useVisibleColumns } from './useVisibleColumns.js'

/** The Sheet: time runs down through the gate; everything at one height happens at one time. */
export function Sheet() {
  const { transport } = useSession()
  const reel = useReel()
  const zoom = useAppSelector((state) => state.view.zoom)
  const frame = useRef<HTMLDivElement>(null)
  const fixed = useRef<HTMLDivElement>(null)
  const cards = useRef<HTMLDivElement>(null)
  const moving = useRef<HTMLDivElement>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const layers = useMemo(() => [fixed, cards, moving], [])
  const size = useSize(frame)
  const lefts = useLaneLefts()
  const { tried, doc: shown } = useShownDocument()
  const { columns, seen, onScroll } = useColumns(shown.track, scroller, size.width - lefts.width)
  const head = columns.some(({ width, folded }) => !folded && width < TRACK_WIDTH) ? TALL_HEAD : HEAD
  const height = Math.max(100, size.height - head)
  const gateY = head + height * GATE
  const stretch = useStretch(height, layers)
  const { gap, onDrag } = useHeadDrag(scroller, columns)
  useShowTrack(scroller, columns, tried?.clips.at(-1)?.trackId)

  const trackAt = useCallback(
    (x: number): string | null => {
      const box = scroller.current
      if (!box) return null
      const column = columnAt(columns, x - box.getBoundingClientRect().left + box.scrollLeft)
      return column && !column.folded ? (column.tracks[0]?.id ?? null) : null
    },
    [columns],
  )
  const placeAt = (x: number, y: number): Place | null => {
    const box = frame.current?.getBoundingClientRect()
    if (!box || y < box.top + head) return null
    const at = Math.floor(transport.frame + (y - box.top - gateY) / zoom)
    if (at < 0 || at >= reel.length) return null
    return { frame: at, trackId: x < box.left + lefts.width ? null : trackAt(x) }
  }
  const { hands, dragging, refused } = useClipGestures(trackAt)
  const { over, drop } = useSoundDrop(placeAt, FRAME_RATES[reel.rate], reel.firstFrame)
  const { band, beginBand } = useRubberBand(frame)
  const paper = usePaper(frame, beginBand)
  useStill(frame)

  return (
    <section
      ref={frame}
      className="relative min-w-0 flex-1 overflow-hidden bg-paper"
      aria-label="Sheet"
      {...paper}
      {...drop}
      data-sheet
    >
      <SheetHead lefts={lefts} height={head} />
      <FixedPart top={head} stretch={stretch} layer={fixed} lefts={lefts} />
      <CuePart top={head} stretch={stretch} layer={cards} lefts={lefts} />
      <div
        ref={scroller}
        className="absolute inset-y-0 right-0 overflow-x-auto overflow-y-hidden"
        style={{ left: lefts.width }}
        onScroll={onScroll}
      >
        <div className="relative h-full min-w-full" style={{ width: widthOfColumns(columns) }}>
          <div
            className="absolute inset-x-0 top-0 z-20 border-b border-line bg-paper-2"
            style={{ height: head }}
          >
            {seen.map((column) => (
              <TrackHead key={column.key} column={column} onDrag={onDrag} />
            ))}
            {gap !== null && (
              <div className="absolute inset-y-0 w-[3px] bg-ink" style={{ left: gap - 1 }} data-gap />
            )}
          </div>
          <TrackColumns
            {...{ stretch, hands, refused }}
            top={head}
            doc={dragging?.doc ?? over?.doc ?? shown}
            columns={seen}
            layer={moving}
          />
        </div>
      </div>
      <Hints left={lefts.width} empty={columns.length === 0} />
      {band && (
        <div
          className="pointer-events-none absolute z-40 border border-dashed border-ink bg-ink/5"
          style={band}
          data-band
        />
      )}
      <Gate y={gateY} />
      {over && <DragLabel text={over.label} refused={over.refused} y={gateY} />}
      {dragging && <DragLabel text={dragging.label} refused={dragging.refused} y={gateY} />}
    </section>
  )
}

/** The document with what is tried and what was performed in it, and what is tried. */
function useShownDocument() {
  const doc = useAppSelector((state) => state.document.doc)
  const trying = useAppSelector((state) => state.trying)
  const perform = useAppSelector((state) => state.perform)
  const stacking = useAppSelector((state) => state.stacking)
  const shown = useAppSelector((state) => shownEntry(state.drafting))
  const onsets = useAppSelector((state) => state.drafting.onsets)
  const tried = useMemo(
    () => draftTriedIn(doc, shown, onsets) ?? stackTriedIn(doc, stacking) ?? triedIn(doc, trying),
    [doc, shown, onsets, stacking, trying],
  )
  const follow = useMemo(performedFollower, [])
  const performed = useMemo(
    () => follow(tried?.doc ?? doc, [...hitsOn(perform), ...perform.current], perform),
    [doc, tried, perform, follow],
  )
  return { tried, doc: performed?.doc ?? tried?.doc ?? doc }
}

/** The columns of the tracks, and those of them that can be seen. */
function useColumns(
  track: Parameters<typeof tracksInOrder>[0]['track'],
  scroller: React.RefObject<HTMLElement | null>,
  room: number,
) {
  const folded = useAppSelector((state) => state.view.folded)
  const least = useAppSelector((state) => (state.view.fitTracks ? NARROW_WIDTH : TRACK_WIDTH))
  const wide = useAppSelector((state) => state.view.wideTrack)
  const columns = useMemo(
    () => layoutColumns(tracksInOrder({ track }), new Set(folded), room, least, wide),
    [track, folded, room, least, wide],
  )
  return { columns, ...useVisibleColumns(scroller, columns, room) }
}

/** Where the lanes begin that stay, by what is shown of them. */
function useLaneLefts(): LaneLefts {
  const showStrip = useAppSelector((state) => state.view.showStrip)
  const comparing = useAppSelector((state) => state.compare.other !== null)
  return useMemo(() => {
    const guide = LANES.timecode + (showStrip ? LANES.picture : 0)
    const cues = guide + LANES.guide
    const end = cues + LANES.cues
    return { guide, cues, other: comparing ? end : null, width: comparing ? end + LANES.cues : end }
  }, [showStrip, comparing])
}

/** What a reel without tracks says, and what the pointer does while a ride is drawn. */
function Hints({ left, empty }: { left: number; empty: boolean }) {
  const ride = useAppSelector((state) => state.view.ride)
  return (
    <>
      {empty && (
        <p
          className="pointer-events-none absolute right-6 z-20 max-w-[240px] text-ink-2"
          style={{ left: left + 20, top: HEAD + 20 }}
        >
          No tracks yet. The first sound you keep makes one for its category.
        </p>
      )}
      {ride && (
        <p className="pointer-events-none absolute right-3 bottom-2 z-40 rounded-[3px] border border-line bg-card px-2 py-1 text-[12px]">
          Ride of the {ride}: {ride === 'level' ? '−48 dB left, +12 dB right' : 'left to right'}. Click or
          draw; Alt and click takes a point away; I goes on.
        </p>
      )}
    </>
  )
}

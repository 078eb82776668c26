import { followPointer } from '../ui/followPointer.js'
import { samplesPerFrame, clipsByTrack, FRAME_RATES, rideOf, tracksInOrder, type Clip } from '@yodel/core'
import {
  useCallback,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type WheelEvent,
} from 'react'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { useReel, useSession } from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'
import { triedIn } from '../document/tried.js'
import { FixedPart } from './FixedPart.js'
import { DragLabel, Gate } from './Gate.js'
import { columnAt, layoutColumns, widthOfColumns } from './columns.js'
import { FoldedLane } from './FoldedLane.js'
import { GATE, HEAD, LANES, ticks, topOf } from './geometry.js'
import { SheetHead, type LaneLefts } from './SheetHead.js'
import { TrackHead } from './TrackHead.js'
import { RideLane } from './RideLane.js'
import { useRubberBand } from './rubberBand.js'
import { TrackLane } from './TrackLane.js'
import { useClipGestures } from './useClipGestures.js'
import { useSoundDrop, type Place } from './useSoundDrop.js'
import { useHeadDrag } from './useHeadDrag.js'
import { useVisibleColumns } from './useVisibleColumns.js'
import { useWindow } from './useWindow.js'

const NONE: readonly Clip[] = []

/** The Sheet: time runs down through the gate; everything at one height happens at one time. */
export function Sheet() {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const liveDoc = useAppSelector((state) => state.document.doc)
  const trying = useAppSelector((state) => state.trying)
  const showStrip = useAppSelector((state) => state.view.showStrip)
  const zoom = useAppSelector((state) => state.view.zoom)
  const frame = useRef<HTMLDivElement>(null)
  const fixed = useRef<HTMLDivElement>(null)
  const moving = useRef<HTMLDivElement>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const size = useSize(frame)
  const layers = useMemo(() => [fixed, moving], [])
  const height = Math.max(100, size.height - HEAD)
  const gateY = HEAD + height * GATE
  const window = useWindow(height, layers)

  const tried = useMemo(() => triedIn(liveDoc, trying), [liveDoc, trying])
  const shownDoc = tried?.doc ?? liveDoc
  const { track } = shownDoc
  const tracks = useMemo(() => tracksInOrder({ track }), [track])
  const comparing = useAppSelector((state) => state.compare.other !== null)
  const lefts = useMemo(() => laneLefts(showStrip, comparing), [showStrip, comparing])
  const fixedWidth = lefts.width
  const room = size.width - fixedWidth
  const folded = useAppSelector((state) => state.view.folded)
  const columns = useMemo(() => layoutColumns(tracks, new Set(folded), room), [tracks, folded, room])

  const trackAt = useCallback(
    (x: number): string | null => {
      const box = scroller.current
      if (!box) return null
      const column = columnAt(columns, x - box.getBoundingClientRect().left + box.scrollLeft)
      return column && !column.folded ? (column.tracks[0]?.id ?? null) : null
    },
    [columns],
  )
  const { hands, dragging, refused } = useClipGestures(trackAt)
  const doc = dragging?.doc ?? shownDoc
  const { seen, onScroll } = useVisibleColumns(scroller, columns, room)
  const { gap, onDrag } = useHeadDrag(scroller, columns)
  // What is tried, or has just been kept or chosen, comes into sight.
  const chosenTrack = useAppSelector((state) =>
    state.view.selected.length === 1
      ? (state.document.doc.clip.get(state.view.selected[0] ?? '')?.trackId ?? null)
      : null,
  )
  const wantedTrack = tried?.clips.at(-1)?.trackId ?? chosenTrack
  // Only when another track is wanted: scrolling by hand is left alone.
  const showWanted = useEffectEvent(() => {
    const box = scroller.current
    const column = columns.find((one) => one.tracks.some((track) => track.id === wantedTrack))
    if (!box || !column) return
    if (column.left < box.scrollLeft) box.scrollLeft = column.left
    else if (column.left + column.width > box.scrollLeft + box.clientWidth)
      box.scrollLeft = column.left + column.width - box.clientWidth
  })
  useEffect(() => showWanted(), [wantedTrack])
  // A list that has not changed is the same list: a drag draws only the tracks that it touches.
  const inSight = useMemo(() => {
    const from = window.from * samplesPerFrame(rate)
    const to = window.to * samplesPerFrame(rate)
    const known = new WeakMap<readonly Clip[], readonly Clip[]>()
    return (clips: readonly Clip[]): readonly Clip[] => {
      const seenOf =
        known.get(clips) ?? clips.filter((clip) => clip.start < to && clip.start + clip.length > from)
      known.set(clips, seenOf)
      return seenOf
    }
  }, [window, rate])
  const onTrack = (id: string): readonly Clip[] => inSight(clipsByTrack(doc).get(id) ?? NONE)

  const { band, beginBand } = useRubberBand(frame)
  const placeAt = (x: number, y: number): Place | null => {
    const box = frame.current?.getBoundingClientRect()
    if (!box || y < box.top + HEAD) return null
    const at = Math.floor(transport.frame + (y - box.top - gateY) / zoom)
    return at < 0 || at >= reel.length
      ? null
      : { frame: at, trackId: x < box.left + fixedWidth ? null : trackAt(x) }
  }
  const { over, drop } = useSoundDrop(placeAt, rate, reel.firstFrame)
  const onWheel = (event: WheelEvent): void => {
    if (event.ctrlKey) return void dispatch(viewActions.zoomTo(zoom * Math.exp(-event.deltaY / 300)))
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) return
    scrub(event.deltaY)
  }
  const scrub = (pixels: number): void => {
    const perPixel = samplesPerFrame(rate) / zoom
    transport.goToSample(transport.sample + pixels * perPixel)
  }
  const onPointerDown = (down: PointerEvent): void => {
    // Dragging the paper moves time through the gate; a click on it deselects.
    if (down.button !== 0 || (down.target as HTMLElement).closest('button, input, [data-clip]')) return
    if (down.shiftKey) return beginBand(down)
    const perPixel = samplesPerFrame(rate) / zoom
    const from = transport.sample
    followPointer(down, {
      onMove: (event) => transport.goToSample(from - (event.clientY - down.clientY) * perPixel),
      onClick: () => dispatch(viewActions.select([])),
      onCancel: () => transport.goToSample(from),
    })
  }

  useEffect(() => {
    // React's wheel listener is passive; without this Ctrl and wheel would zoom the page.
    const element = frame.current
    const keep = (event: globalThis.WheelEvent): void => {
      if (event.ctrlKey) event.preventDefault()
    }
    element?.addEventListener('wheel', keep, { passive: false })
    return () => element?.removeEventListener('wheel', keep)
  }, [])

  const ride = useAppSelector((state) => state.view.ride)
  return (
    <section
      ref={frame}
      className="relative min-w-0 flex-1 overflow-hidden bg-paper"
      aria-label="Sheet"
      onWheel={onWheel}
      onPointerDown={onPointerDown}
      {...drop}
      data-sheet
    >
      <SheetHead lefts={lefts} />
      <FixedPart window={window} layer={fixed} lefts={lefts} />
      <div
        ref={scroller}
        className="absolute inset-y-0 right-0 overflow-x-auto overflow-y-hidden"
        style={{ left: fixedWidth }}
        onScroll={onScroll}
      >
        <div className="relative h-full min-w-full" style={{ width: widthOfColumns(columns) }}>
          <div
            className="absolute inset-x-0 top-0 z-20 border-b border-line bg-paper-2"
            style={{ height: HEAD }}
          >
            {seen.map((column) => (
              <TrackHead key={column.key} column={column} onDrag={onDrag} />
            ))}
            {gap !== null && (
              <div className="absolute inset-y-0 w-[3px] bg-ink" style={{ left: gap - 1 }} data-gap />
            )}
          </div>
          <div className="absolute inset-x-0 bottom-0 overflow-hidden" style={{ top: HEAD }}>
            {seen.map((column) => (
              <div
                key={column.key}
                className="absolute inset-y-0 border-l border-line"
                style={{ left: column.left }}
              />
            ))}
            <div ref={moving} className="absolute inset-x-0 top-0 will-change-transform">
              {ticks(window, rate, reel.firstFrame)
                .filter((tick) => tick.major)
                .map((tick) => (
                  <div
                    key={tick.frame}
                    className="absolute inset-x-0 border-t border-hair"
                    style={{ top: topOf(window, tick.frame) }}
                  />
                ))}
              {seen.map((column) => {
                const [track] = column.tracks
                if (!track || column.folded)
                  return (
                    <FoldedLane
                      key={column.key}
                      tracks={column.tracks}
                      clipsOf={onTrack}
                      window={window}
                      left={column.left}
                    />
                  )
                const place = { track, window, left: column.left, width: column.width }
                return (
                  <TrackLane
                    key={track.id}
                    {...place}
                    clips={onTrack(track.id)}
                    hands={hands}
                    refused={refused}
                  />
                )
              })}
              {ride &&
                seen
                  .filter((column) => !column.folded)
                  .flatMap(({ tracks: [track], left, width }) =>
                    track
                      ? [
                          <RideLane
                            key={track.id}
                            track={track}
                            points={rideOf(liveDoc, track.id, ride)}
                            window={window}
                            left={left}
                            width={width}
                          />,
                        ]
                      : [],
                  )}
            </div>
          </div>
        </div>
      </div>
      {tracks.length === 0 && (
        <p
          className="pointer-events-none absolute right-6 z-20 max-w-[240px] text-ink-2"
          style={{ left: fixedWidth + 20, top: HEAD + 20 }}
        >
          No tracks yet. The first sound you keep makes one for its category.
        </p>
      )}
      {band && (
        <div
          className="pointer-events-none absolute z-40 border border-dashed border-ink bg-ink/5"
          style={band}
          data-band
        />
      )}
      {ride && (
        <p
          className="pointer-events-none absolute right-3 z-40 rounded-[3px] border border-line bg-card px-2 py-1 text-[12px]"
          style={{ bottom: 8 }}
        >
          Ride of the {ride}: {ride === 'level' ? '−48 dB left, +12 dB right' : 'left to right'}. Click or
          draw; Alt and click takes a point away; I goes on.
        </p>
      )}
      <Gate y={gateY} />
      {over && <DragLabel text={over} refused={false} y={gateY} />}
      {dragging && <DragLabel text={dragging.label} refused={dragging.refused} y={gateY} />}
    </section>
  )
}

function laneLefts(showStrip: boolean, comparing: boolean): LaneLefts {
  const guide = LANES.timecode + (showStrip ? LANES.picture : 0)
  const cues = guide + LANES.guide
  const end = cues + LANES.cues
  return { guide, cues, other: comparing ? end : null, width: comparing ? end + LANES.cues : end }
}

function useSize(element: React.RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 800, height: 700 })
  useEffect(() => {
    if (!element.current) return
    const observer = new ResizeObserver(([entry]) => {
      if (entry)
        setSize({ width: Math.round(entry.contentRect.width), height: Math.round(entry.contentRect.height) })
    })
    observer.observe(element.current)
    return () => observer.disconnect()
  }, [element])
  return size
}

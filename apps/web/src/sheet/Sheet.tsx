import { cuesInOrder, FRAME_RATES, formatTimecode, frameToSample, tracksInOrder, type Clip, type Frames } from '@yodel/core'
import { useCallback, useEffect, useMemo, useRef, useState, type PointerEvent, type WheelEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../app/store.js'
import { useReel, useSession } from '../features/reel/session.js'
import { viewActions } from '../features/reel/viewSlice.js'
import { tryClip } from '../features/sounds/tryClip.js'
import { CueLane, GuideLane, PictureLane, TimecodeLane } from './FixedLanes.js'
import { GATE, HEAD, LANES, ticks, topOf, TRACK_WIDTH } from './geometry.js'
import { TrackHead } from './TrackHead.js'
import { TrackLane } from './TrackLane.js'
import { useClipGestures } from './useClipGestures.js'
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
  const { showStrip, zoom } = useAppSelector((state) => state.view)
  const frame = useRef<HTMLDivElement>(null)
  const fixed = useRef<HTMLDivElement>(null)
  const moving = useRef<HTMLDivElement>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const size = useSize(frame)
  const layers = useMemo(() => [fixed, moving], [])
  const height = Math.max(100, size.height - HEAD)
  const window = useWindow(height, layers)

  const tracks = useMemo(() => tracksInOrder(liveDoc), [liveDoc.track])
  const guideLeft = LANES.timecode + (showStrip ? LANES.picture : 0)
  const cueLeft = guideLeft + LANES.guide
  const fixedWidth = cueLeft + LANES.cues
  const trackWidth = Math.max(TRACK_WIDTH, Math.floor((size.width - fixedWidth) / Math.max(1, tracks.length)))

  const trackAt = useCallback(
    (x: number): string | null => {
      const box = scroller.current
      if (!box) return null
      return tracks[Math.floor((x - box.getBoundingClientRect().left + box.scrollLeft) / trackWidth)]?.id ?? null
    },
    [tracks, trackWidth],
  )
  const gesture = useClipGestures(trackAt)
  const doc = gesture.dragging?.doc ?? liveDoc
  const tried = useMemo(() => tryClip(liveDoc, trying), [liveDoc, trying])
  const byTrack = useMemo(() => {
    const from = (window.from * rate.den * 48_000) / rate.num
    const to = (window.to * rate.den * 48_000) / rate.num
    const lists = new Map<string, Clip[]>()
    for (const clip of [...Object.values(doc.clip), ...(tried ? [tried] : [])]) {
      if (clip.start >= to || clip.start + clip.length <= from) continue
      const list = lists.get(clip.trackId)
      if (list) list.push(clip)
      else lists.set(clip.trackId, [clip])
    }
    return lists
  }, [doc.clip, tried, window, rate])

  const onWheel = (event: WheelEvent): void => {
    if (event.ctrlKey) return void dispatch(viewActions.zoomTo(zoom * Math.exp(-event.deltaY / 300)))
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) return
    scrub(event.deltaY)
  }
  const scrub = (pixels: number): void => {
    const perPixel = frameToSample(1000 as Frames, rate) / 1000 / zoom
    transport.goToSample(transport.sample + pixels * perPixel)
  }
  const onPointerDown = (down: PointerEvent): void => {
    // Dragging the paper moves time through the gate; a click on it deselects.
    if (down.button !== 0 || (down.target as HTMLElement).closest('button, input, [data-clip]')) return
    const perPixel = frameToSample(1000 as Frames, rate) / 1000 / zoom
    const from = transport.sample
    let moved = false
    const onMove = (event: globalThis.PointerEvent): void => {
      if (!moved && Math.abs(event.clientY - down.clientY) < 3) return
      moved = true
      transport.goToSample(from - (event.clientY - down.clientY) * perPixel)
    }
    const onUp = (): void => {
      removeEventListener('pointermove', onMove)
      removeEventListener('pointerup', onUp)
      if (!moved) dispatch(viewActions.select([]))
    }
    addEventListener('pointermove', onMove)
    addEventListener('pointerup', onUp)
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

  const open = cuesInOrder(liveDoc).filter((cue) => cue.state === 'open').length
  const gateY = HEAD + height * GATE
  return (
    <section ref={frame} className="relative min-w-0 flex-1 overflow-hidden bg-paper" aria-label="Sheet" onWheel={onWheel} onPointerDown={onPointerDown} data-sheet>
      <div className="absolute inset-x-0 top-0 z-20 flex border-b border-line bg-paper-2" style={{ height: HEAD, width: fixedWidth }}>
        <Head left={6}>TC</Head>
        {showStrip && <Head left={LANES.timecode + 6}>Picture</Head>}
        <Head left={guideLeft + 6}>G</Head>
        <div className="absolute top-[12px] text-[12px]" style={{ left: cueLeft + 12 }}>
          <b className="font-semibold">{Object.keys(liveDoc.cue).length} cues</b> <span className="ml-1 text-[11.5px] text-gate">{open} open</span>
        </div>
        <Head left={cueLeft + 12}>Cues</Head>
      </div>
      <div className="absolute bottom-0 left-0 z-10 overflow-hidden" style={{ top: HEAD, width: fixedWidth }}>
        {showStrip && <div className="absolute inset-y-0 bg-[#101719]" style={{ left: LANES.timecode, width: LANES.picture }} />}
        <div ref={fixed} className="absolute top-0 left-0 will-change-transform">
          <TimecodeLane window={window} />
          {showStrip && <PictureLane window={window} />}
          <GuideLane window={window} left={guideLeft} />
          <CueLane window={window} left={cueLeft} />
        </div>
      </div>
      <div ref={scroller} className="absolute inset-y-0 right-0 overflow-x-auto overflow-y-hidden" style={{ left: fixedWidth }}>
        <div className="relative h-full" style={{ width: Math.max(trackWidth * tracks.length, 1) }}>
          <div className="absolute inset-x-0 top-0 z-20 border-b border-line bg-paper-2" style={{ height: HEAD }}>
            {tracks.map((track, index) => (
              <TrackHead key={track.id} track={track} left={index * trackWidth} width={trackWidth} />
            ))}
          </div>
          <div className="absolute inset-x-0 bottom-0 overflow-hidden" style={{ top: HEAD }}>
            {tracks.map((track, index) => (
              <div key={track.id} className="absolute inset-y-0 border-l border-line" style={{ left: index * trackWidth }} />
            ))}
            <div ref={moving} className="absolute inset-x-0 top-0 will-change-transform">
              {ticks(window, rate, reel.firstFrame)
                .filter((tick) => tick.major)
                .map((tick) => (
                  <div key={tick.frame} className="absolute inset-x-0 border-t border-hair" style={{ top: topOf(window, tick.frame) }} />
                ))}
              {tracks.map((track, index) => (
                <TrackLane key={track.id} track={track} clips={byTrack.get(track.id) ?? NONE} window={window} left={index * trackWidth} width={trackWidth} gesture={gesture} />
              ))}
            </div>
          </div>
        </div>
      </div>
      {tracks.length === 0 && (
        <p className="pointer-events-none absolute right-6 z-20 max-w-[240px] text-ink-2" style={{ left: fixedWidth + 20, top: HEAD + 20 }}>
          No tracks yet. The first sound you keep makes one for its category.
        </p>
      )}
      <Gate y={gateY} />
      {gesture.dragging && <DragLabel text={gesture.dragging.label} refused={gesture.dragging.refused} y={gateY} />}
    </section>
  )
}

function Head({ left, children }: { left: number; children: string }) {
  return (
    <span className="absolute top-[32px] text-[11px] text-ink-2" style={{ left }}>
      {children}
    </span>
  )
}

function Gate({ y }: { y: number }) {
  const { transport } = useSession()
  const reel = useReel()
  const text = useRef<HTMLSpanElement>(null)
  useEffect(
    () =>
      transport.subscribe(() => {
        if (text.current) text.current.textContent = formatTimecode(reel.firstFrame + transport.frame, FRAME_RATES[reel.rate]).slice(6)
      }),
    [transport, reel.firstFrame, reel.rate],
  )
  return (
    <div className="pointer-events-none absolute inset-x-0 z-30 border-t-2 border-gate" style={{ top: y - 1 }}>
      <span
        ref={text}
        className="absolute -top-[9px] left-0 h-[17px] w-[52px] bg-gate pl-1.5 font-mono text-[11px] leading-[17px] font-semibold text-on-gate [clip-path:polygon(0_0,88%_0,100%_50%,88%_100%,0_100%)]"
      />
    </div>
  )
}

function DragLabel({ text, refused, y }: { text: string; refused: boolean; y: number }) {
  return (
    <div
      className={`pointer-events-none absolute right-3 z-40 max-w-[320px] rounded-[3px] border bg-card px-2 py-1 text-[12px] ${refused ? 'border-gate text-gate' : 'border-line'}`}
      style={{ top: y + 8 }}
    >
      {text}
    </div>
  )
}

function useSize(element: React.RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 800, height: 700 })
  useEffect(() => {
    if (!element.current) return
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: Math.round(entry.contentRect.width), height: Math.round(entry.contentRect.height) })
    })
    observer.observe(element.current)
    return () => observer.disconnect()
  }, [element])
  return size
}

import { followPointer } from '../../ui/followPointer.js'
import { secondsOf } from '@yodel/core'
import type { Preparation, Sound } from '@yodel/core'
import { useEffect, useRef, useState, type PointerEvent, type WheelEvent } from 'react'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Wave } from '../../ui/Wave.js'
import { useSoundHands } from './hands.js'
import { Spectrogram } from './Spectrogram.js'
import { tryActions } from '../../document/trySlice.js'

const TALL = 62
/** The closest view, in samples. */
const CLOSEST = 480

type Handle = 'in' | 'out' | 'sync' | 'fadeIn' | 'fadeOut'

/** The outline of the chosen sound, with zoom; click to hear from there, drag its marks: in, out, sync point, fades. */
export function StripWave({ sound, width }: { sound: Sound; width: number }) {
  const dispatch = useAppDispatch()
  const { listening } = useSoundHands()
  const prepared = useAppSelector((state) => state.trying.prepared)
  const [[from, to], setView] = useState<readonly [number, number]>([0, sound.length])
  const [spectrum, setSpectrum] = useState(false)
  const { currentData: events } = api.useEventsQuery(sound.id)
  const head = useRef<HTMLDivElement>(null)
  const perPixel = (to - from) / width
  useEffect(() => {
    const draw = (): void => {
      const at = listening.placeAt(sound.id, performance.now())
      const x = at === null ? -10 : (at - from) / perPixel
      if (head.current) head.current.style.transform = `translateX(${Math.max(-10, Math.min(width, x))}px)`
      request = requestAnimationFrame(draw)
    }
    let request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [listening, sound.id, from, perPixel, width])

  const zoom = (factor: number, at = (from + to) / 2): void => {
    const length = Math.max(CLOSEST, Math.min(sound.length, (to - from) * factor))
    const start = Math.max(0, Math.min(sound.length - length, at - ((at - from) / (to - from)) * length))
    setView([Math.round(start), Math.round(start + length)])
  }
  const onWheel = (event: WheelEvent): void => {
    const box = event.currentTarget.getBoundingClientRect()
    if (event.ctrlKey || event.shiftKey) {
      const by = (event.deltaY + event.deltaX) * perPixel
      const start = Math.max(0, Math.min(sound.length - (to - from), from + by))
      setView([Math.round(start), Math.round(start + to - from)])
    } else zoom(event.deltaY > 0 ? 1.25 : 0.8, from + (event.clientX - box.left) * perPixel)
  }
  const sampleAt = (event: { clientX: number }, box: DOMRect): number =>
    Math.round(Math.max(0, Math.min(sound.length - 1, from + (event.clientX - box.left) * perPixel)))
  const onPointerDown = (event: PointerEvent<HTMLDivElement>): void => {
    const box = event.currentTarget.getBoundingClientRect()
    const at = sampleAt(event, box)
    if (event.shiftKey) dispatch(tryActions.prepare({ sync: at }))
    else listening.play(sound, at)
  }
  const drag =
    (handle: Handle) =>
    (event: PointerEvent<HTMLElement>): void => {
      event.stopPropagation()
      const box = (event.currentTarget.closest('[data-wave]') as HTMLElement).getBoundingClientRect()
      const before = { ...prepared }
      followPointer(event, {
        threshold: 0,
        onMove: (moved) =>
          void dispatch(tryActions.prepare(moveHandle(handle, sampleAt(moved, box), prepared, sound))),
        onCancel: () => void dispatch(tryActions.prepare(before)),
      })
    }
  const x = (sample: number): number => (sample - from) / perPixel
  const first = prepared.in ?? 0
  const last = prepared.out ?? sound.length
  const fadeIn = (prepared.fadeIn ?? 0) * prepared.speed
  const fadeOut = (prepared.fadeOut ?? 0) * prepared.speed
  return (
    <div>
      <div
        className="relative touch-none overflow-hidden bg-paper-2"
        style={{ width, height: TALL }}
        data-wave
        onPointerDown={onPointerDown}
        onWheel={onWheel}
        title="Click to hear from there · wheel zooms · Shift and click sets the sync point · drag the edges for in and out, the upper corners for fades"
      >
        {spectrum ? (
          <Spectrogram sound={sound} from={from} to={to} width={width} height={TALL} />
        ) : (
          <Wave
            mediaId={sound.id}
            from={from}
            to={to}
            width={width}
            height={TALL}
            gain={10 ** (prepared.gain / 20)}
            colour="--ink"
          />
        )}
        {events?.events.map(([start], index) =>
          start >= from && start < to ? (
            <div
              key={index}
              className="pointer-events-none absolute bottom-0 h-[7px] w-px bg-gate"
              style={{ left: x(start) }}
            />
          ) : null,
        )}
        <Shade left={0} right={x(first)} />
        <Shade left={x(last)} right={width} />
        <svg className="pointer-events-none absolute inset-0" width={width} height={TALL} aria-hidden>
          {fadeIn > 0 && (
            <path d={`M${x(first)} ${TALL} L${x(first + fadeIn)} 0`} stroke="var(--gate)" fill="none" />
          )}
          {fadeOut > 0 && (
            <path d={`M${x(last - fadeOut)} 0 L${x(last)} ${TALL}`} stroke="var(--gate)" fill="none" />
          )}
        </svg>
        <Mark name="In" left={x(first)} width={width} onPointerDown={drag('in')} />
        <Mark name="Out" left={x(last)} width={width} onPointerDown={drag('out')} />
        <Corner name="Fade in" left={x(first + fadeIn)} onPointerDown={drag('fadeIn')} />
        <Corner name="Fade out" left={x(last - fadeOut)} onPointerDown={drag('fadeOut')} />
        <Mark
          name="Sync point"
          sync
          left={x(prepared.sync ?? Math.max(sound.sync, first))}
          width={width}
          onPointerDown={drag('sync')}
        />
        <div ref={head} className="pointer-events-none absolute inset-y-0 left-0 w-[2px] bg-gate" />
      </div>
      <div className="mt-0.5 flex items-center gap-1 text-[11px] text-ink-2">
        <Small label="Closer" onClick={() => zoom(0.5)}>
          +
        </Small>
        <Small label="Farther" onClick={() => zoom(2)}>
          −
        </Small>
        <Small label="Whole recording" onClick={() => setView([0, sound.length])}>
          whole
        </Small>
        <Small label="Spectrum over time" pressed={spectrum} onClick={() => setSpectrum(!spectrum)}>
          spectrum
        </Small>
        <span className="ml-auto font-mono">
          {secondsOf(from).toFixed(2)} to {secondsOf(to).toFixed(2)} s
        </span>
      </div>
    </div>
  )
}

function moveHandle(handle: Handle, at: number, prepared: Preparation, sound: Sound): Partial<Preparation> {
  const first = prepared.in ?? 0
  const last = prepared.out ?? sound.length
  switch (handle) {
    case 'in':
      return { in: at <= 0 ? null : Math.min(at, last - 48) }
    case 'out':
      return { out: at >= sound.length - 1 ? null : Math.max(at, first + 48) }
    case 'sync':
      return { sync: at }
    case 'fadeIn':
      return { fadeIn: Math.max(0, Math.round((Math.min(at, last) - first) / prepared.speed)) }
    case 'fadeOut':
      return { fadeOut: Math.max(0, Math.round((last - Math.max(at, first)) / prepared.speed)) }
  }
}

function Shade({ left, right }: { left: number; right: number }) {
  return right > left ? (
    <div
      className="pointer-events-none absolute inset-y-0 bg-paper opacity-65"
      style={{ left, width: right - left }}
    />
  ) : null
}

function Mark(props: {
  name: string
  left: number
  width: number
  sync?: boolean
  onPointerDown: (event: PointerEvent<HTMLElement>) => void
}) {
  const { name, left, width, sync = false } = props
  if (left < -1 || left > width + 1) return null
  return (
    <div
      className="absolute inset-y-0 w-[11px] cursor-ew-resize touch-none"
      style={{ left: Math.max(-5, Math.min(width - 6, left - 5)) }}
      onPointerDown={props.onPointerDown}
      role="slider"
      aria-label={name}
      aria-valuenow={Math.round(left)}
      title={name}
      data-mark={name}
    >
      <div
        className={`absolute inset-y-0 left-[5px] ${sync ? 'border-l border-dashed border-ink' : 'w-px bg-ink'}`}
      />
      {sync && (
        <svg className="absolute top-0 left-0" width="11" height="8" aria-hidden>
          <path d="M0 0 H11 L5.5 8Z" fill="var(--ink)" />
        </svg>
      )}
    </div>
  )
}

function Corner({
  name,
  left,
  onPointerDown,
}: {
  name: string
  left: number
  onPointerDown: (event: PointerEvent<HTMLElement>) => void
}) {
  return (
    <div
      className="absolute top-0 h-[11px] w-[11px] cursor-ew-resize touch-none border border-gate bg-card"
      style={{ left: left - 5 }}
      onPointerDown={onPointerDown}
      role="slider"
      aria-label={name}
      aria-valuenow={Math.round(left)}
      title={name}
      data-mark={name}
    />
  )
}

function Small({
  label,
  pressed,
  onClick,
  children,
}: {
  label: string
  pressed?: boolean
  onClick: () => void
  children: string
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      onClick={onClick}
      className={`min-h-6 min-w-6 rounded-[3px] border px-1.5 ${pressed ? 'border-ink bg-ink text-paper' : 'border-line hover:border-ink-3'}`}
    >
      {children}
    </button>
  )
}

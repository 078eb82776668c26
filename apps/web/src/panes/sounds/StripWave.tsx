import {
  gainFromDb,
  mediaOf,
  preparedFor,
  secondsOf,
  UNPREPARED,
  type Preparation,
  type Sound,
} from '@yodel/core'
import { useEffect, useRef, useState, type PointerEvent, type RefObject, type WheelEvent } from 'react'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { tryActions } from '../../document/trySlice.js'
import { followPointer } from '../../ui/followPointer.js'
import { Wave } from '../../ui/Wave.js'
import { useSoundHands } from './hands.js'
import { Spectrogram } from './Spectrogram.js'
import { Corner, Mark, Shade } from './WaveMarks.js'
import { markPlaces, moveMark, scrolled, zoomed, type WaveMark, type WaveView } from './waveView.js'

const TALL = 62

/** The outline of the chosen sound, with zoom; click to hear from there, drag its marks: in, out, sync point, fades. */
export function StripWave({ sound, width }: { sound: Sound; width: number }) {
  const dispatch = useAppDispatch()
  const { listening } = useSoundHands()
  const { gain, channels } = useAppSelector((state) => state.trying.prepared)
  const [view, setView] = useState<WaveView>([0, sound.length])
  const [spectrum, setSpectrum] = useState(false)
  const [from, to] = view
  const perPixel = (to - from) / width
  const sampleAt = (clientX: number, box: DOMRect): number =>
    Math.round(Math.max(0, Math.min(sound.length - 1, from + (clientX - box.left) * perPixel)))

  const onWheel = (event: WheelEvent): void => {
    const box = event.currentTarget.getBoundingClientRect()
    if (event.ctrlKey || event.shiftKey)
      setView(scrolled(view, sound.length, (event.deltaY + event.deltaX) * perPixel))
    else setView(zoomed(view, sound.length, event.deltaY > 0 ? 1.25 : 0.8, sampleAt(event.clientX, box)))
  }
  const onPointerDown = (event: PointerEvent<HTMLDivElement>): void => {
    const at = sampleAt(event.clientX, event.currentTarget.getBoundingClientRect())
    if (event.shiftKey) dispatch(tryActions.prepare({ sync: at }))
    else listening.play(sound, at)
  }
  const drawn = { sound, from, to, width }
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
          <Spectrogram {...drawn} height={TALL} />
        ) : (
          <Wave
            mediaId={mediaOf({ ...UNPREPARED, soundId: sound.id, channels })}
            {...{ from, to, width }}
            height={TALL}
            gain={gainFromDb(gain)}
            colour="--ink"
          />
        )}
        <Marks {...drawn} sampleAt={sampleAt} />
        <PlayHead {...drawn} />
      </div>
      <div className="mt-0.5 flex items-center gap-1 text-[11px] text-ink-2">
        <Small label="Closer" onClick={() => setView(zoomed(view, sound.length, 0.5))}>
          +
        </Small>
        <Small label="Farther" onClick={() => setView(zoomed(view, sound.length, 2))}>
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

interface Drawn {
  sound: Sound
  from: number
  to: number
  width: number
}

/** Events, and what is taken of the recording, with the marks that are dragged. */
function Marks({
  sound,
  from,
  to,
  width,
  sampleAt,
}: Drawn & { sampleAt: (clientX: number, box: DOMRect) => number }) {
  const dispatch = useAppDispatch()
  const own = useAppSelector((state) => state.trying.prepared)
  const prepared = usePreparedHere(sound)
  const { currentData: events } = api.useEventsQuery(sound.id)
  const at = markPlaces(prepared, sound)
  const x = (sample: number): number => ((sample - from) / (to - from)) * width
  const drag = (mark: WaveMark) => (down: PointerEvent<HTMLElement>) => {
    down.stopPropagation()
    const box = (down.currentTarget.closest('[data-wave]') as HTMLElement).getBoundingClientRect()
    followPointer(down, {
      threshold: 0,
      onMove: ({ clientX }) => {
        // An out that is filled in goes along with the in.
        const from = mark === 'in' ? { ...prepared, out: own.out } : prepared
        const change = moveMark(mark, sampleAt(clientX, box), from, sound)
        // Left open, the out would be filled in again with the end of the cue.
        const toTheEnd = change.out === null && prepared !== own
        dispatch(tryActions.prepare(toTheEnd ? { out: sound.length } : change))
      },
      onCancel: () => void dispatch(tryActions.prepare({ [mark]: own[mark] })),
    })
  }
  return (
    <>
      {events?.events.map(([start], index) =>
        start >= from && start < to ? (
          <div
            key={index}
            className="pointer-events-none absolute bottom-0 h-[7px] w-px bg-gate"
            style={{ left: x(start) }}
          />
        ) : null,
      )}
      <Shade left={0} right={x(at.in)} />
      <Shade left={x(at.out)} right={width} />
      <svg className="pointer-events-none absolute inset-0" width={width} height={TALL} aria-hidden>
        {at.fadeIn > at.in && (
          <path d={`M${x(at.in)} ${TALL} L${x(at.fadeIn)} 0`} stroke="var(--gate)" fill="none" />
        )}
        {at.fadeOut < at.out && (
          <path d={`M${x(at.fadeOut)} 0 L${x(at.out)} ${TALL}`} stroke="var(--gate)" fill="none" />
        )}
      </svg>
      <Mark name="In" left={x(at.in)} width={width} onPointerDown={drag('in')} />
      <Mark name="Out" left={x(at.out)} width={width} onPointerDown={drag('out')} />
      <Corner name="Fade in" left={x(at.fadeIn)} onPointerDown={drag('fadeIn')} />
      <Corner name="Fade out" left={x(at.fadeOut)} onPointerDown={drag('fadeOut')} />
      <Mark name="Sync point" sync left={x(at.sync)} width={width} onPointerDown={drag('sync')} />
    </>
  )
}

/** The preparation of the chosen sound; while it is tried, with what its cue fills in. */
function usePreparedHere(sound: Sound): Preparation {
  const { prepared, place } = useAppSelector((state) => state.trying)
  const doc = useAppSelector((state) => (place ? state.document.doc : null))
  return doc && place ? preparedFor(doc, doc.cue.get(place.cueId ?? '') ?? null, sound, prepared) : prepared
}

/** Where the sound plays; moved without drawing anew. */
function PlayHead({ sound, from, to, width }: Drawn) {
  const { listening } = useSoundHands()
  const head: RefObject<HTMLDivElement | null> = useRef(null)
  useEffect(() => {
    const draw = (): void => {
      const at = listening.placeAt(sound.id, performance.now())
      const x = at === null ? -10 : ((at - from) / (to - from)) * width
      if (head.current) head.current.style.transform = `translateX(${Math.max(-10, Math.min(width, x))}px)`
      request = requestAnimationFrame(draw)
    }
    let request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [listening, sound.id, from, to, width])
  return <div ref={head} className="pointer-events-none absolute inset-y-0 left-0 w-[2px] bg-gate" />
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

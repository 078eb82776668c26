import type { Sound } from '@yodel/core'
import { useEffect, useRef, type PointerEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { Wave } from '../../sheet/Wave.js'
import { Button, Kbd } from '../../ui/Button.js'
import { useCommands } from '../reel/commands.js'
import { useSession } from '../reel/session.js'
import { lengthOf } from './SoundsPane.js'
import { tryActions } from './trySlice.js'

const WIDTH = 282

/** The chosen sound: jump anywhere in it, move its sync point, try it, keep it, put it back. */
export function ListeningStrip({ sound }: { sound: Sound }) {
  const dispatch = useAppDispatch()
  const commands = useCommands()
  const { listening } = useSession()
  const { place, sync } = useAppSelector((state) => state.trying)
  const head = useRef<HTMLDivElement>(null)
  const shownSync = sync ?? sound.sync
  useEffect(() => {
    const draw = (): void => {
      const at = listening.audibleAt(performance.now())
      if (head.current) head.current.style.transform = at === null || at > sound.length ? 'translateX(-10px)' : `translateX(${(at / sound.length) * WIDTH}px)`
      request = requestAnimationFrame(draw)
    }
    let request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [listening, sound.length])
  const sampleAt = (event: { clientX: number; currentTarget: Element }): number => {
    const box = event.currentTarget.getBoundingClientRect()
    return Math.round(Math.max(0, Math.min(0.999, (event.clientX - box.left) / WIDTH)) * sound.length)
  }
  const onPointerDown = (event: PointerEvent): void => {
    if (event.shiftKey) dispatch(tryActions.setSync(sampleAt(event)))
    else commands.listen(sound, sampleAt(event))
  }
  return (
    <div className="border-t border-line bg-card px-3 py-2.5" data-strip>
      <div className="mb-1 flex items-baseline justify-between gap-2 text-[12px]">
        <b className="truncate font-semibold">{sound.name}</b>
        <span className="font-mono whitespace-nowrap text-ink-2">
          {lengthOf(sound.length)} {sound.peak.toFixed(1)} dB
        </span>
      </div>
      <div
        className="relative h-[58px] overflow-hidden bg-paper-2"
        style={{ width: WIDTH }}
        onPointerDown={onPointerDown}
        title="Click to hear from there; Shift and click sets the sync point"
      >
        <Wave mediaId={sound.id} from={0} to={sound.length} width={WIDTH} height={58} colour="--ink" />
        <div className="pointer-events-none absolute inset-y-0 border-l border-dashed border-ink" style={{ left: (shownSync / sound.length) * WIDTH }}>
          <svg className="absolute top-0 -left-[5px]" width="10" height="8" aria-hidden>
            <path d="M0 0 H10 L5 8Z" fill="var(--ink)" />
          </svg>
        </div>
        <div ref={head} className="pointer-events-none absolute inset-y-0 left-0 w-[2px] bg-gate" />
      </div>
      <div className="mt-1 truncate text-[11px] text-ink-3">
        {sound.shelf} · {sound.codec} {sound.sampleRate / 1000} kHz · {sound.licence || 'no licence given'}
      </div>
      <div className="mt-2 flex items-center gap-1.5">
        {place ? (
          <>
            <Button look="gate" onClick={commands.keep}>
              Keep <Kbd onDark>Enter</Kbd>
            </Button>
            <Button onClick={commands.putBack}>
              Put back <Kbd>Esc</Kbd>
            </Button>
            {sync !== null && <Button onClick={() => dispatch(tryActions.setSync(null))}>Reset sync</Button>}
          </>
        ) : (
          <>
            <Button look="strong" onClick={commands.tryHere}>
              Try <Kbd onDark>T</Kbd>
            </Button>
            <Button onClick={() => commands.listen(sound)}>Listen</Button>
            <Button onClick={commands.stopListening}>Stop</Button>
          </>
        )}
      </div>
    </div>
  )
}

import { FRAME_RATES, formatTimecode, readEntry, samplesIn, type Frames } from '@yodel/core'
import { ChevronFirst, Pause, Play, Repeat, StepBack, StepForward } from 'lucide-react'
import { useEffect, useRef, useState, type ReactNode } from 'react'
import { useTipWithKey } from '../../actions/useKeys.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { writeText } from '../../ui/writeText.js'
import { useReel, useSession } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'
import { GuideTracks } from './GuideTracks.js'
import { Meters } from './Meters.js'
import { SPEEDS, type Transport } from '../../session/Transport.js'

const SMALL = 'h-[30px] min-w-[34px] px-0'
/** What goes round on either side of the gate, in samples. */
const ROUND = samplesIn(2)

/** Timecode at the gate, playing, speed, guide, meters. */
export function TransportBar() {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const guide = useAppSelector((state) => state.view.guide)
  const playTip = useTipWithKey('Play and stop', 'play')
  const guideTip = useTipWithKey('Guide on or off', 'guide')
  const [, redraw] = useState(0)
  useEffect(() => transport.watchState(() => redraw((count) => count + 1)), [transport])
  return (
    <div className="border-b border-line">
      <Timecode />
      <div className="flex items-center gap-1 px-3 pb-2.5">
        <Step what="To the first frame" action="first-frame" onClick={() => transport.goToFrame(0)}>
          <ChevronFirst size={16} />
        </Step>
        <Step what="One frame back" action="previous-frame" onClick={() => transport.step(-1)}>
          <StepBack size={14} />
        </Step>
        <Button
          look="gate"
          className="h-[30px] min-w-[52px]"
          onClick={() => transport.toggle()}
          aria-label={transport.rolling ? 'Stop' : 'Play'}
          title={playTip}
        >
          {transport.rolling ? (
            <Pause size={15} fill="currentColor" />
          ) : (
            <Play size={15} fill="currentColor" />
          )}
        </Button>
        <Step what="One frame on" action="next-frame" onClick={() => transport.step(1)}>
          <StepForward size={14} />
        </Step>
        <Button
          className={SMALL}
          look={transport.loop ? 'strong' : 'plain'}
          aria-pressed={transport.loop !== null}
          onClick={() => transport.setLoop(transport.loop ? null : around(transport.sample))}
          aria-label="Go round"
          title="Go round four seconds about the gate"
        >
          <Repeat size={14} />
        </Button>
        <Speeds transport={transport} />
      </div>
      <div className="flex items-start gap-3 px-3.5 pb-2">
        <Meters />
        <button
          type="button"
          aria-pressed={guide > 0}
          onClick={() => dispatch(viewActions.setGuide(guide > 0 ? 0 : 1))}
          className={`h-6 rounded-[3px] border px-1.5 text-[11px] ${guide > 0 ? 'border-ink bg-ink text-paper' : 'border-line bg-card text-ink-2'}`}
          title={guideTip}
        >
          guide
        </button>
      </div>
      <GuideTracks />
    </div>
  )
}

function Step(props: { what: string; action: string; onClick: () => void; children: ReactNode }) {
  const { what, action, onClick, children } = props
  const tip = useTipWithKey(what, action)
  return (
    <Button className={SMALL} onClick={onClick} aria-label={what} title={tip}>
      {children}
    </Button>
  )
}

function Speeds({ transport }: { transport: Transport }) {
  return (
    <div
      className="ml-auto flex overflow-hidden rounded-[5px] border border-line"
      role="radiogroup"
      aria-label="Speed"
    >
      {SPEEDS.map((speed) => (
        <button
          key={speed}
          type="button"
          role="radio"
          aria-checked={transport.speed === speed}
          aria-label={`Speed ${speed}`}
          onClick={() => transport.setSpeed(speed)}
          className={`h-[28px] w-[26px] font-mono text-[11.5px] ${transport.speed === speed ? 'bg-ink text-paper' : 'bg-card'}`}
        >
          {speed === 1 ? '1' : speed === 0.5 ? '½' : '¼'}
        </button>
      ))}
    </div>
  )
}

const around = (sample: number): { from: number; to: number } => ({
  from: Math.max(0, Math.round(sample) - ROUND),
  to: Math.round(sample) + ROUND,
})

/** A whole number with its thousands apart, written at every refresh; what the browser has for this is slow to wake. */
const grouped = (count: number): string => String(count).replace(/\B(?=(\d{3})+$)/g, ',')

function Timecode() {
  const dispatch = useAppDispatch()
  const { transport, parts } = useSession()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const digits = useRef<HTMLButtonElement>(null)
  const count = useRef<HTMLSpanElement>(null)
  const [typing, setTyping] = useState(false)
  useEffect(() => parts.offer('timecode', { type: () => setTyping(true) }), [parts])
  useEffect(
    () =>
      transport.subscribe(() => {
        const frame = transport.frame
        writeText(digits.current, formatTimecode(reel.firstFrame + frame, rate))
        writeText(count.current, `frame ${grouped(reel.firstFrame + frame)}`)
      }),
    [transport, reel.firstFrame, rate, typing],
  )
  const read = (text: string) => {
    const entry = readEntry(text, (reel.firstFrame + transport.frame) as Frames, rate)
    const frame = entry.ok ? entry.frame - reel.firstFrame : -1
    return { entry, frame: frame >= 0 && frame < reel.length ? frame : null }
  }
  const go = (text: string): void => {
    setTyping(false)
    if (text.trim() === '') return
    const { entry, frame } = read(text)
    if (frame !== null) return transport.goToFrame(frame)
    const outside = `${formatTimecode(entry.ok ? entry.frame : 0, rate)} lies outside the reel, which runs from ${formatTimecode(reel.firstFrame, rate)} to ${formatTimecode(reel.firstFrame + reel.length, rate)}.`
    dispatch(viewActions.notify({ tone: 'problem', text: entry.ok ? outside : entry.message }))
  }
  return (
    <div className="px-3.5 pt-2">
      {typing ? (
        <input
          autoFocus
          aria-label="Go to"
          placeholder="1:00:10:5"
          className="h-[37px] w-full bg-card px-1 font-mono text-[24px]"
          onBlur={() => setTyping(false)}
          onChange={({ target: { value } }) => {
            const { frame } = read(value)
            if (frame !== null) transport.onExpected?.(frame)
          }}
          onKeyDown={(event) => {
            event.stopPropagation()
            if (event.key === 'Enter') go(event.currentTarget.value)
            if (event.key === 'Escape') setTyping(false)
          }}
        />
      ) : (
        <button
          ref={digits}
          type="button"
          data-timecode
          className="block font-mono text-[37px] leading-none font-semibold tracking-[-0.01em]"
          title="Click or press . to type a time: 1:00:10:5, 10.05, +12, -1:00"
          onClick={() => setTyping(true)}
        />
      )}
      <div className="flex justify-between pt-1 pb-2 text-[11.5px] text-ink-2">
        <span ref={count} className="font-mono" />
        <span>{rate.label}</span>
      </div>
    </div>
  )
}

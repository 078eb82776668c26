import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { joinWithBefore, leaveOut, redraw, type Sound, type SoundEvent } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { tryActions } from '../../document/trySlice.js'
import { Button } from '../../ui/Button.js'

/** What a recording is split by unless one says otherwise: decibels that a new attack rises. */
const RISE = 9

/** Splits a recording anew, or mends its split by hand. */
export function Splitter({ sound, events }: { sound: Sound; events: readonly SoundEvent[] }) {
  const [split, splitting] = api.useSplitMutation()
  const [setEvents, setting] = api.useSetEventsMutation()
  const [quiet, setQuiet] = useState(120)
  const [rise, setRise] = useState(RISE)
  const failure = splitting.error ?? setting.error
  return (
    <Popover className="relative">
      <PopoverButton className="min-h-6 rounded-[3px] border border-line px-1.5 text-[12px] hover:border-ink-3">
        Split…
      </PopoverButton>
      <PopoverPanel
        anchor="top end"
        className="z-40 mb-1 w-[270px] rounded-[6px] border border-line bg-card p-3 text-[12px] shadow-lg"
      >
        <Pull
          name="Quiet between"
          unit="ms"
          least={20}
          most={1000}
          step={10}
          value={quiet}
          onPull={setQuiet}
        />
        <Pull name="New attack rises" unit="dB" least={4} most={30} step={1} value={rise} onPull={setRise} />
        <div className="mt-2 flex flex-wrap gap-1.5">
          <Button
            look="strong"
            disabled={splitting.isLoading}
            onClick={() => void split({ id: sound.id, quiet, rise })}
          >
            Split so
          </Button>
          <Button onClick={() => void split({ id: sound.id, quiet: null, rise: RISE })}>As found</Button>
          <Mending
            length={sound.length}
            events={events}
            onMend={(mended) => void setEvents({ id: sound.id, events: mended })}
          />
        </div>
        {failure ? <p className="mt-1 text-gate">{messageOf(failure)}</p> : null}
      </PopoverPanel>
    </Popover>
  )
}

function Pull(props: {
  name: string
  unit: string
  least: number
  most: number
  step: number
  value: number
  onPull: (value: number) => void
}) {
  return (
    <label className="flex items-center gap-2">
      <span className="w-28">{props.name}</span>
      <input
        type="range"
        min={props.least}
        max={props.most}
        step={props.step}
        value={props.value}
        onChange={(event) => props.onPull(Number(event.target.value))}
        className="min-w-0 flex-1 accent-(--gate)"
      />
      <span className="w-14 text-right font-mono">
        {props.value} {props.unit}
      </span>
    </label>
  )
}

/** What can be done with the event that one is on. */
function Mending(props: {
  length: number
  events: readonly SoundEvent[]
  onMend: (events: SoundEvent[]) => void
}) {
  const { length, events, onMend } = props
  const dispatch = useAppDispatch()
  const { event: at, prepared } = useAppSelector((state) => state.trying)
  if (at === null) return null
  const { in: from, out: to, sync } = prepared
  const mend = (mended: SoundEvent[]): void => {
    onMend(mended)
    dispatch(tryActions.takeEvent(null))
  }
  return (
    <>
      {at > 0 && <Button onClick={() => mend(joinWithBefore(events, at))}>Join with the one before</Button>}
      <Button onClick={() => mend(leaveOut(events, at))}>Leave this one out</Button>
      {from !== null && to !== null && (
        <Button onClick={() => mend(redraw(events, at, { in: from, out: to, sync }, length))}>
          Take its in and out
        </Button>
      )}
    </>
  )
}

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { type Sound, type SoundEvent } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button, Kbd } from '../../ui/Button.js'
import { useSoundHands } from './hands.js'
import { tryActions } from '../../document/trySlice.js'

/** Steps through the events of a recording; each can be used as a sound of its own. */
export function useEventSteps(sound: Sound | null): {
  events: readonly SoundEvent[]
  step: (by: 1 | -1) => void
  whole: () => void
} {
  const dispatch = useAppDispatch()
  const { listening } = useSoundHands()
  const at = useAppSelector((state) => state.trying.event)
  const trying = useAppSelector((state) => state.trying.place !== null)
  const { currentData: data } = api.useEventsQuery(sound?.id ?? '', { skip: !sound })
  // The sound was chosen before it may have been split anew: what counts is the list.
  const events = sound && data && data.events.length > 1 ? data.events : []
  return {
    events,
    step: (by) => {
      if (!sound || events.length === 0) return
      const index = at === null ? (by > 0 ? 0 : events.length - 1) : (at + by + events.length) % events.length
      const event = events[index]
      if (!event) return
      dispatch(tryActions.takeEvent({ index, event }))
      if (!trying) listening.play(sound)
    },
    whole: () => void dispatch(tryActions.takeEvent(null)),
  }
}

/** Where one is among the events, and what to do when the split is wrong. */
export function EventBar({ sound }: { sound: Sound }) {
  const at = useAppSelector((state) => state.trying.event)
  const { events, step, whole } = useEventSteps(sound)
  if (events.length < 2)
    return sound.measured && sound.length > 96_000 ? (
      <div className="mt-1 flex items-center gap-2 text-[11.5px] text-ink-3">
        One event <Splitter sound={sound} events={events} />
      </div>
    ) : null
  return (
    <div className="mt-1 flex items-center gap-1 text-[12px]" data-events>
      <Button className="px-1.5" aria-label="Previous event" onClick={() => step(-1)}>
        <Kbd>←</Kbd>
      </Button>
      <span className="min-w-[92px] text-center font-mono text-[12px]">
        {at === null ? `${events.length} events` : `event ${at + 1} of ${events.length}`}
      </span>
      <Button className="px-1.5" aria-label="Next event" onClick={() => step(1)}>
        <Kbd>→</Kbd>
      </Button>
      {at !== null && (
        <Button look="bare" onClick={whole}>
          Whole
        </Button>
      )}
      <span className="ml-auto">
        <Splitter sound={sound} events={events} />
      </span>
    </div>
  )
}

/** Splits anew, or mends the split by hand. */
function Splitter({ sound, events }: { sound: Sound; events: readonly SoundEvent[] }) {
  const dispatch = useAppDispatch()
  const { event: at, prepared } = useAppSelector((state) => state.trying)
  const [split, splitting] = api.useSplitMutation()
  const [setEvents, setting] = api.useSetEventsMutation()
  const [quiet, setQuiet] = useState(120)
  const [rise, setRise] = useState(9)
  const byHand = (change: (list: SoundEvent[]) => void): void => {
    const list = events.map((event): SoundEvent => [...event])
    change(list)
    void setEvents({ id: sound.id, events: list.sort((a, b) => a[0] - b[0]) })
    dispatch(tryActions.takeEvent(null))
  }
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
        <label className="flex items-center gap-2">
          <span className="w-28">Quiet between</span>
          <input
            type="range"
            min={20}
            max={1000}
            step={10}
            value={quiet}
            onChange={(event) => setQuiet(Number(event.target.value))}
            className="min-w-0 flex-1 accent-(--gate)"
          />
          <span className="w-14 text-right font-mono">{quiet} ms</span>
        </label>
        <label className="flex items-center gap-2">
          <span className="w-28">New attack rises</span>
          <input
            type="range"
            min={4}
            max={30}
            value={rise}
            onChange={(event) => setRise(Number(event.target.value))}
            className="min-w-0 flex-1 accent-(--gate)"
          />
          <span className="w-14 text-right font-mono">{rise} dB</span>
        </label>
        <div className="mt-2 flex flex-wrap gap-1.5">
          <Button
            look="strong"
            disabled={splitting.isLoading}
            onClick={() => void split({ id: sound.id, quiet, rise })}
          >
            Split so
          </Button>
          <Button onClick={() => void split({ id: sound.id, quiet: null, rise: 9 })}>As found</Button>
          {at !== null && at > 0 && (
            <Button
              onClick={() =>
                byHand((list) =>
                  list.splice(at - 1, 2, [
                    (list[at - 1] as SoundEvent)[0],
                    (list[at - 1] as SoundEvent)[1],
                    (list[at] as SoundEvent)[2],
                  ]),
                )
              }
            >
              Join with the one before
            </Button>
          )}
          {at !== null && (
            <Button onClick={() => byHand((list) => list.splice(at, 1))}>Leave this one out</Button>
          )}
          {at !== null && prepared.in !== null && prepared.out !== null && (
            <Button
              onClick={() =>
                byHand((list) =>
                  list.splice(
                    at,
                    1,
                    boundsOf(
                      prepared.in ?? 0,
                      prepared.sync,
                      prepared.out ?? sound.length,
                      list[at - 1]?.[2] ?? 0,
                      list[at + 1]?.[0] ?? sound.length,
                    ),
                  ),
                )
              }
            >
              Take its in and out
            </Button>
          )}
        </div>
        {failure ? <p className="mt-1 text-gate">{messageOf(failure)}</p> : null}
      </PopoverPanel>
    </Popover>
  )
}

function boundsOf(from: number, sync: number | null, to: number, least: number, most: number): SoundEvent {
  const start = Math.max(from, least)
  const end = Math.min(to, most)
  return [start, Math.max(start, Math.min(sync ?? start, end - 1)), end]
}

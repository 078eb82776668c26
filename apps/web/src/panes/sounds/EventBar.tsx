import { samplesIn, type Sound, type SoundEvent } from '@yodel/core'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button, Kbd } from '../../ui/Button.js'
import { useSoundHands } from './hands.js'
import { Splitter } from './Splitter.js'
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

/** A recording as long as this may hold several sounds even if one was found. */
const LONG = samplesIn(2)

/** Where one is among the events, and what to do when the split is wrong. */
export function EventBar({ sound }: { sound: Sound }) {
  const at = useAppSelector((state) => state.trying.event)
  const { events, step, whole } = useEventSteps(sound)
  if (events.length < 2)
    return sound.measured && sound.length > LONG ? (
      <div className="mt-1 flex items-center gap-2 text-[11.5px] text-ink-3">
        One event <Splitter sound={sound} events={events} />
      </div>
    ) : null
  return (
    <div className="mt-1 flex items-center gap-1 text-[12px]" data-events>
      <Button className="px-1.5" aria-label="Previous event" onClick={() => step(-1)}>
        <Kbd>←</Kbd>
      </Button>
      <span className="min-w-[80px] text-center text-[12px] whitespace-nowrap tabular-nums">
        {at === null ? `${events.length} events` : `event ${at + 1} of ${events.length}`}
      </span>
      <Button className="px-1.5" aria-label="Next event" onClick={() => step(1)}>
        <Kbd>→</Kbd>
      </Button>
      {at !== null && (
        <Button look="bare" className="px-1" onClick={whole}>
          Whole
        </Button>
      )}
      <span className="ml-auto">
        <Splitter sound={sound} events={events} />
      </span>
    </div>
  )
}

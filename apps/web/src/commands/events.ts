import {
  cuesInOrder,
  guessCategory,
  layEvents,
  prepareSound,
  UNPREPARED,
  type Cue,
  type Preparation,
  type ReelDocument,
  type Sound,
  type SoundEvent,
  type SoundToPlace,
} from '@yodel/core'
import { answerOf } from '../api/answerOf.js'
import { api } from '../api/api.js'
import type { AppDispatch } from '../document/store.js'
import { tryActions } from '../document/trySlice.js'
import type { CommandContext } from './context.js'

/** The events of a recording; none where they can't be had. What the listening strip has asked for already is there at once. */
export async function eventsOf(dispatch: AppDispatch, soundId: string): Promise<readonly SoundEvent[]> {
  const asked = dispatch(api.endpoints.events.initiate(soundId))
  return (await answerOf(asked).catch(() => ({ events: [] }))).events
}

/** A recording from which single events are taken. */
const whole = (sound: Sound, { gain }: Preparation): SoundToPlace => ({
  ...prepareSound(sound, UNPREPARED),
  gain,
})

/** The cues after one, of its category, that have no sound yet; it comes first itself. */
function emptyCuesFrom(doc: ReelDocument, first: Cue): Cue[] {
  const used = new Set([...doc.clip.values()].map((clip) => clip.cueId))
  return cuesInOrder(doc).filter(
    (cue) =>
      cue.category === first.category && cue.in >= first.in && (cue.id === first.id || !used.has(cue.id)),
  )
}

/** Laying the events of a long recording one by one. */
export function eventCommands(context: CommandContext) {
  const { transport, doc, cue, selected, edit, editAndSelect, refuse, tell, dispatch, state, newId } = context
  return {
    /** Lays the events of the chosen recording on the selected cues, or on the selected one and those after it that have no sound. */
    lay: async () => {
      const { sound, event, prepared } = state().trying
      const chosen = selected().flatMap((id) => doc().cue.get(id) ?? [])
      const [first] = chosen
      if (!sound || !first) {
        return refuse(
          'Choose a recording in the pane and a cue on the Sheet first; then its events are laid on that cue and the next ones.',
        )
      }
      const events = (await eventsOf(dispatch, sound.id)).slice(event ?? 0)
      const places = (chosen.length > 1 ? chosen : emptyCuesFrom(doc(), first))
        .toSorted((a, b) => a.sync - b.sync)
        .slice(0, events.length)
        .map(({ id, sync }) => ({ frame: sync, cueId: id }))
      if (places.length === 0) return refuse(`${sound.name} has no events left to lay.`)
      const { category } = first
      editAndSelect((now) =>
        layEvents(now, { sound: whole(sound, prepared), events, places, category, newId }),
      )
    },
    /** Lays one event of the chosen recording on the frame that is on screen, also while it rolls, and goes on to the next event. */
    layNext: async () => {
      // Now: the events may have to be fetched.
      const frame = transport.frameOnScreen
      const { sound, event, prepared } = state().trying
      if (!sound) {
        return refuse(
          'Choose a recording in the pane first; each press then lays its next event at the gate.',
        )
      }
      const events = await eventsOf(dispatch, sound.id)
      const index = Math.min(event ?? 0, events.length - 1)
      const one = events[index]
      if (!one) return refuse(`${sound.name} has no events.`)
      const here = cue()
      const category = here?.category ?? guessCategory(sound)
      const places = [{ frame, cueId: here?.id ?? null }]
      const laid = { sound: whole(sound, prepared), events: [one], places, category, newId }
      if (!edit((now) => layEvents(now, laid))) return
      const next = (index + 1) % events.length
      dispatch(tryActions.takeEvent({ index: next, event: events[next] as SoundEvent }))
      if (next === 0 && events.length > 1) {
        tell(`That was the last event of ${sound.name}; the next press begins again with its first.`)
      }
    },
  }
}

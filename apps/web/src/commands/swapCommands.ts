import {
  cuesInOrder,
  fileSpan,
  guessCategory,
  layEvents,
  prepareSound,
  shortlistOf,
  swapClips,
  UNPREPARED,
  type Candidate,
  type Clip,
  type ReelDocument,
  type Sound,
  type SoundEvent,
  type SoundPage,
} from '@yodel/core'
import { api } from '../api/api.js'
import type { AppDispatch, AppStore } from '../document/store.js'
import { soundToTry } from '../document/tried.js'
import { tryActions } from '../document/trySlice.js'
import type { Transport } from '../session/Transport.js'
import { edit } from '../document/edit.js'
import { viewActions } from '../document/viewSlice.js'

const newId = (): string => crypto.randomUUID()

/** Other sounds in the place of placed ones, and the events of a long recording laid one by one. */
export function makeSwapCommands(dispatch: AppDispatch, store: AppStore, transport: Transport) {
  const doc = (): ReelDocument => store.getState().document.doc
  const clips = (): Clip[] => store.getState().view.selected.flatMap((id) => doc().clip.get(id) ?? [])
  const say = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))
  const eventsOf = async (soundId: string): Promise<readonly SoundEvent[]> => {
    // What the listening strip has asked for already is there at once.
    const asked = dispatch(api.endpoints.events.initiate(soundId, { subscribe: false }))
    return (await asked.unwrap().catch(() => ({ events: [] }))).events
  }

  /** What sounds most like a recording, but lighter or heavier; null where nothing does, or it is on no shelf. */
  const alikeTo = async (soundId: string, how: 'lighter' | 'heavier'): Promise<Sound | null> => {
    const [own, near] = await Promise.all([
      fetch(`/api/sounds/${encodeURIComponent(soundId)}`),
      fetch(`/api/sounds?${new URLSearchParams({ q: '', like: soundId })}`),
    ])
    if (!own.ok || !near.ok) return null
    const { weight } = (await own.json()) as Sound
    const { sounds } = (await near.json()) as SoundPage
    return (
      sounds.find(
        (sound) =>
          sound.id !== soundId && (how === 'lighter' ? sound.weight < weight - 2 : sound.weight > weight + 2),
      ) ?? null
    )
  }

  return {
    /** Puts the sound that is chosen in the pane in place of the chosen placed ones. */
    swap: () => {
      const { trying } = store.getState()
      const { sound } = trying
      if (!sound)
        return say('Choose a sound in the pane first; it then takes the place of the selected ones.')
      const other = soundToTry(sound, trying)
      const chosen = clips()
      if (chosen.length === 0) return say('Select a sound first; then it can be swapped.')
      dispatch(edit((now) => swapClips(now, { swaps: chosen.map(({ id }) => ({ id, sound: other })) })))
    },
    /** Puts the next of its cue's shortlist in the place of the chosen sound, after the last one the first. */
    swapShortlisted: async () => {
      const [clip] = clips()
      const list = clip?.cueId ? shortlistOf(doc(), clip.cueId) : []
      if (!clip || list.length === 0)
        return say(
          clip
            ? 'Its cue has no shortlist.'
            : 'Select a sound first; then the next of its cue’s shortlist takes its place.',
        )
      const [from] = fileSpan(clip)
      // The same recording may stand on the list more than once, with other parts.
      const at = list.findIndex((one) => one.soundId === clip.soundId && (one.in ?? from) === from)
      const next = list[(at + 1) % list.length] as Candidate
      const asked = dispatch(api.endpoints.soundsByIds.initiate([next.soundId], { subscribe: false }))
      const [sound] = await asked.unwrap().catch((): Sound[] => [])
      if (!sound) return say(`${next.name} is on no shelf any more.`)
      const other = prepareSound(sound, { ...UNPREPARED, in: next.in, out: next.out, sync: next.sync })
      dispatch(edit((now) => swapClips(now, { swaps: [{ id: clip.id, sound: other }] })))
    },
    /** Puts another event of the same recording in the place of each chosen sound. */
    swapEvent: async (direction: 1 | -1) => {
      const chosen = clips().filter((clip) => clip.speed === 1 && !clip.reverse)
      if (chosen.length === 0)
        return say(
          'Select a sound first that is played straight on; then the next event of its recording takes its place.',
        )
      const swaps = await Promise.all(
        chosen.map(async (clip) => {
          const events = await eventsOf(clip.soundId)
          const [from, to] = fileSpan(clip)
          const at = events.findIndex((event) => event[0] < to && event[2] > from)
          const next = events[(at + direction + events.length) % Math.max(1, events.length)]
          return next && events.length > 1
            ? [
                {
                  id: clip.id,
                  sound: {
                    id: clip.soundId,
                    name: clip.name,
                    recorded: clip.recorded,
                    from: next[0],
                    sync: next[1],
                    to: next[2],
                  },
                },
              ]
            : []
        }),
      )
      if (swaps.flat().length === 0) return say('Its recording has no other event.')
      dispatch(edit((now) => swapClips(now, { swaps: swaps.flat() })))
    },
    /** Puts what sounds most alike in the place of each of the chosen sounds, but lighter or heavier. */
    swapAlike: async (how: 'lighter' | 'heavier') => {
      const chosen = clips()
      if (chosen.length === 0) return say('Select a sound first; then another one like it takes its place.')
      const found = new Map(
        await Promise.all(
          [...new Set(chosen.map((clip) => clip.soundId))].map(
            async (soundId) => [soundId, await alikeTo(soundId, how)] as const,
          ),
        ),
      )
      const swaps = chosen.flatMap(({ id, soundId }) => {
        const other = found.get(soundId)
        return other ? [{ id, sound: prepareSound(other, UNPREPARED) }] : []
      })
      if (swaps.length === 0)
        return say(`Nothing like ${chosen.length === 1 ? 'it' : 'them'} on the shelves is ${how}.`)
      dispatch(edit((now) => swapClips(now, { swaps })))
    },
    /** Lays the events of the sound chosen in the pane on the chosen cues, or on the selected one and those of its category that follow without a sound. */
    layEvents: async () => {
      const { sound, event, prepared } = store.getState().trying
      const chosen = store.getState().view.selected.flatMap((id) => doc().cue.get(id) ?? [])
      const [first] = chosen
      if (!sound || !first)
        return say(
          'Choose a recording in the pane and a cue on the Sheet first; then its events are laid on that cue and the next ones.',
        )
      const events = (await eventsOf(sound.id)).slice(event ?? 0)
      const used = new Set([...doc().clip.values()].map((clip) => clip.cueId))
      const cues =
        chosen.length > 1
          ? chosen
          : cuesInOrder(doc()).filter(
              (cue) =>
                cue.category === first.category &&
                cue.in >= first.in &&
                (cue.id === first.id || !used.has(cue.id)),
            )
      const places = cues
        .toSorted((a, b) => a.sync - b.sync)
        .slice(0, events.length)
        .map((cue) => ({ frame: cue.sync, cueId: cue.id }))
      if (places.length === 0) return say(`${sound.name} has no events left to lay.`)
      const whole = { ...prepareSound(sound, UNPREPARED), gain: prepared.gain }
      const before = doc()
      if (
        !dispatch(
          edit((now) => layEvents(now, { sound: whole, events, places, category: first.category, newId })),
        )
      )
        return
      dispatch(viewActions.select([...doc().clip.keys()].filter((id) => !before.clip.has(id))))
    },
    /** Lays one event of the sound chosen in the pane on the frame that is on screen, also while it rolls, and goes on to the next event. */
    layNextEvent: async () => {
      // Now: the events may have to be fetched.
      const frame = transport.frameOnScreen
      const { sound, event, prepared } = store.getState().trying
      if (!sound)
        return say('Choose a recording in the pane first; each press then lays its next event at the gate.')
      const events = await eventsOf(sound.id)
      const index = Math.min(event ?? 0, events.length - 1)
      const one = events[index]
      if (!one) return say(`${sound.name} has no events.`)
      const cue = doc().cue.get(store.getState().view.selected[0] ?? '')
      const whole = { ...prepareSound(sound, UNPREPARED), gain: prepared.gain }
      const places = [{ frame, cueId: cue?.id ?? null }]
      if (
        !dispatch(
          edit((now) =>
            layEvents(now, {
              sound: whole,
              events: [one],
              places,
              category: cue?.category ?? guessCategory(sound),
              newId,
            }),
          ),
        )
      )
        return
      const next = (index + 1) % events.length
      dispatch(tryActions.takeEvent({ index: next, event: events[next] as SoundEvent }))
      if (next === 0 && events.length > 1)
        dispatch(
          viewActions.notify({
            tone: 'plain',
            text: `That was the last event of ${sound.name}; the next press begins again with its first.`,
          }),
        )
    },
  }
}

import {
  fileSpan,
  prepareSound,
  shortlistOf,
  swapClips,
  UNPREPARED,
  type Clip,
  type Sound,
  type SoundEvent,
  type SoundPage,
  type SoundToPlace,
} from '@yodel/core'
import { askSounds, cantBeHad } from './askSounds.js'
import { soundToTry } from '../document/tried.js'
import type { CommandContext } from './context.js'
import { eventsOf } from './events.js'
import type { StackCommands } from './stacks.js'

type Weight = 'lighter' | 'heavier'

/** Points of weight, of a hundred, that can be heard. */
const HEARD = 2

/** What sounds most like a recording, but lighter or heavier; null where nothing does, or it is on no shelf. */
async function alikeTo(soundId: string, how: Weight): Promise<Sound | null> {
  const [own, near] = await Promise.all([
    fetch(`/api/sounds/${encodeURIComponent(soundId)}`),
    fetch(`/api/sounds?${new URLSearchParams({ q: '', like: soundId })}`),
  ])
  if (!own.ok || !near.ok) return null
  const { weight } = (await own.json()) as Sound
  const { sounds } = (await near.json()) as SoundPage
  const fits = (sound: Sound): boolean =>
    how === 'lighter' ? sound.weight < weight - HEARD : sound.weight > weight + HEARD
  return sounds.find((sound) => sound.id !== soundId && fits(sound)) ?? null
}

/** The event of its recording that comes after the one a clip plays, or before it; null where there is no other. */
function eventBeside(clip: Clip, events: readonly SoundEvent[], direction: 1 | -1): SoundToPlace | null {
  if (events.length < 2) return null
  const [from, to] = fileSpan(clip)
  const at = events.findIndex((event) => event[0] < to && event[2] > from)
  const next = events[(at + direction + events.length) % events.length]
  if (!next) return null
  const { soundId, name, recorded, sides, channels } = clip
  return { id: soundId, name, recorded, sides, channels, from: next[0], sync: next[1], to: next[2] }
}

/** Other sounds in the place of placed ones. */
export function swappingCommands(
  { doc, clips, edit, refuse, dispatch, state }: CommandContext,
  stacks: StackCommands,
) {
  const swap = (swaps: readonly { id: string; sound: SoundToPlace }[]): void =>
    void edit((now) => swapClips(now, { swaps }))
  /** Puts another event of the same recording in the place of each selected sound. */
  const forEvent = async (direction: 1 | -1): Promise<void> => {
    const chosen = clips().filter((clip) => clip.speed === 1 && !clip.reverse)
    if (chosen.length === 0) {
      return refuse(
        'Select a sound first that is played straight on; then the next event of its recording takes its place.',
      )
    }
    const found = chosen.map(async (clip) => {
      const sound = eventBeside(clip, await eventsOf(dispatch, clip.soundId), direction)
      return sound ? [{ id: clip.id, sound }] : []
    })
    const swaps = (await Promise.all(found)).flat()
    if (swaps.length === 0) return refuse('Its recording has no other event.')
    swap(swaps)
  }
  return {
    /** Puts the sound that is chosen in the pane in place of the selected ones. */
    forChosen: () => {
      const { trying } = state()
      const { sound } = trying
      if (!sound)
        return refuse('Choose a sound in the pane first; it then takes the place of the selected ones.')
      if (clips().length === 0) return refuse('Select a sound first; then it can be swapped.')
      const other = soundToTry(sound, trying)
      swap(clips().map(({ id }) => ({ id, sound: other })))
    },
    /** Puts the next of its cue's shortlist in the place of the selected sound, after the last one the first. */
    forShortlisted: async () => {
      const [clip] = clips()
      const list = clip?.cueId ? shortlistOf(doc(), clip.cueId) : []
      if (!clip) return refuse('Select a sound first; then the next of its cue’s shortlist takes its place.')
      const [from] = fileSpan(clip)
      // The same recording may stand on the list more than once, with other parts.
      const at = list.findIndex((one) => one.soundId === clip.soundId && (one.in ?? from) === from)
      const next = list[(at + 1) % list.length]
      if (!next) return refuse('Its cue has no shortlist.')
      const found = await askSounds(dispatch, [next.soundId])
      const [sound] = found ?? []
      if (!sound) return refuse(cantBeHad(next.name, found))
      const part = { ...UNPREPARED, in: next.in, out: next.out, sync: next.sync }
      swap([{ id: clip.id, sound: prepareSound(sound, part) }])
    },
    /** Puts another variation in the place of the selected stack, or the next event of its recording in that of each selected sound. */
    forNext: (direction: 1 | -1): Promise<void> =>
      stacks.selectedStack() && clips().length > 1 ? stacks.swap(direction) : forEvent(direction),
    /** Puts what sounds most alike in the place of each of the selected sounds, but lighter or heavier. */
    forAlike: async (how: Weight) => {
      const chosen = clips()
      if (chosen.length === 0)
        return refuse('Select a sound first; then another one like it takes its place.')
      const soundIds = [...new Set(chosen.map((clip) => clip.soundId))]
      const found = new Map(
        await Promise.all(soundIds.map(async (soundId) => [soundId, await alikeTo(soundId, how)] as const)),
      )
      const swaps = chosen.flatMap(({ id, soundId }) => {
        const other = found.get(soundId)
        return other ? [{ id, sound: prepareSound(other, UNPREPARED) }] : []
      })
      const them = chosen.length === 1 ? 'it' : 'them'
      if (swaps.length === 0) return refuse(`Nothing like ${them} on the shelves is ${how}.`)
      swap(swaps)
    },
  }
}

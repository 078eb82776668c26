import {
  bendClips,
  clipsAfter,
  clipsLike,
  copyClips,
  crossfadeClips,
  cuesInOrder,
  deleteRecords,
  duplicateClips,
  fileSpan,
  followSource,
  frameToSample,
  layEvents,
  pasteClips,
  prepareSound,
  removeEmptyTracks,
  repeatClip,
  shapeClips,
  soloOnly,
  splitClips,
  swapClips,
  UNPREPARED,
  rateOf,
  type Alike,
  type Change,
  type Clip,
  type Frames,
  type ReelDocument,
  type Result,
  type SoundEvent,
  type SoundPage,
} from '@yodel/core'
import type { AppDispatch, AppStore } from '../../app/store.js'
import { soundToTry } from '../sounds/tried.js'
import type { Transport } from '../transport/Transport.js'
import { copiedClips, keepCopied } from './clipboard.js'
import { edit } from './edits.js'
import { viewActions } from './viewSlice.js'

/** Longest crossfade that is made by key: half a second. */
const CROSSFADE = 24_000
/** Seams of what is repeated: a second, at most half of the sound. */
const SEAM = 48_000

const newId = (): string => crypto.randomUUID()

/** What can be done with placed sounds beyond moving and trimming them. */
export function makeClipCommands(dispatch: AppDispatch, store: AppStore, transport: Transport) {
  const doc = (): ReelDocument => store.getState().document.doc
  const clips = (): Clip[] => store.getState().view.selected.flatMap((id) => doc().clip.get(id) ?? [])
  const ids = (): string[] => clips().map((clip) => clip.id)
  const say = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))
  const gate = (): number => frameToSample(transport.frame as Frames, rateOf(doc()))

  /** Does an edit of the chosen sounds; what it adds is chosen after. */
  const withChosen = (what: string, compute: (now: ReelDocument) => Result<Change>): void => {
    if (clips().length === 0) return say(`Select a sound first; then it can be ${what}.`)
    doAndChoose(compute)
  }
  const doAndChoose = (compute: (now: ReelDocument) => Result<Change>): void => {
    const before = doc()
    if (!dispatch(edit(compute))) return
    const fresh = [...doc().clip.keys()].filter((id) => !before.clip.get(id))
    if (fresh.length > 0) dispatch(viewActions.select(fresh))
  }
  const choose = (chosen: readonly string[], what: string): void => {
    if (chosen.length === 0) return say(`There is no sound ${what}.`)
    dispatch(viewActions.select(chosen))
  }
  const eventsOf = async (soundId: string): Promise<readonly SoundEvent[]> => {
    const response = await fetch(`/api/sounds/${encodeURIComponent(soundId)}/events`)
    return response.ok ? ((await response.json()) as { events: SoundEvent[] }).events : []
  }

  return {
    split: () => withChosen('split at the gate', (now) => splitClips(now, { ids: ids(), at: gate(), newId })),
    duplicate: () => withChosen('duplicated', (now) => duplicateClips(now, { ids: ids(), newId })),
    crossfade: () => withChosen('crossfaded', (now) => crossfadeClips(now, { ids: ids(), length: CROSSFADE })),
    reverse: () => withChosen('turned round', (now) => bendClips(now, { ids: ids(), fields: { reverse: !clips()[0]?.reverse }, label: 'Turn round' })),
    swapSides: () =>
      withChosen('mirrored', (now) => bendClips(now, { ids: ids(), fields: { sides: clips()[0]?.sides === 'swapped' ? 'kept' : 'swapped' }, label: 'Exchange left and right' })),
    /** Repeats a sound to the end of its cue; to the gate where it has none or the gate lies beyond. */
    repeat: () =>
      withChosen('repeated', (now) => {
        const [clip] = clips()
        const cue = now.cue.get(clip?.cueId ?? '')
        const until = Math.max(gate(), cue ? frameToSample(cue.out as Frames, rateOf(now)) : 0)
        return repeatClip(now, { id: clip?.id ?? '', until, overlap: SEAM, newId })
      }),
    copy: () => {
      const copied = copyClips(doc(), ids())
      if (copied.clips.length === 0) return say('Select a sound first; then it can be copied.')
      keepCopied(copied)
      dispatch(
        viewActions.notify({
          tone: 'plain',
          text: `${copied.clips.length === 1 ? copied.clips[0]?.name : `${copied.clips.length} sounds`} copied. Ctrl V lays ${copied.clips.length === 1 ? 'it' : 'them'} at the gate.`,
        }),
      )
    },
    cut: () =>
      withChosen('cut out', (now) => {
        keepCopied(copyClips(now, ids()))
        return deleteRecords(now, { ids: ids() })
      }),
    paste: () => {
      const copied = copiedClips()
      if (!copied) return say('Nothing was copied yet. Ctrl C copies the selected sounds.')
      const cueId = store.getState().view.selected.find((id) => doc().cue.get(id)) ?? null
      doAndChoose((now) => pasteClips(now, { copied, at: gate(), cueId, newId }))
    },
    /** Each of the chosen sounds lower than the one before it. */
    stepGain: (db: number) =>
      withChosen('made softer step by step', (now) => shapeClips(now, { ids: ids(), gainBy: db, stepBy: db, label: `Each ${Math.abs(db)} dB ${db < 0 ? 'softer' : 'louder'}` })),
    toggleLock: () => {
      const locked = !clips()[0]?.locked
      withChosen('locked', (now) => shapeClips(now, { ids: ids(), fields: { locked }, label: locked ? 'Lock' : 'Unlock' }))
    },
    group: (together: boolean) =>
      withChosen('grouped', (now) => shapeClips(now, { ids: ids(), fields: { group: together ? newId() : '' }, label: together ? `Group ${ids().length} sounds` : 'Ungroup' })),
    chooseAll: () => choose(clipsAfter(doc(), 0), 'in the reel'),
    chooseAfter: () => choose(clipsAfter(doc(), gate()), 'after the gate'),
    chooseLike: (alike: Alike) => {
      const [clip] = clips()
      if (!clip) return say('Select a sound first; then those like it can be chosen.')
      choose(clipsLike(doc(), clip, alike), 'like it')
    },
    /** Begins to have a track follow the picture. */
    follow: () => {
      const trackId = clips()[0]?.trackId ?? store.getState().view.selected.find((one) => doc().track.get(one))
      if (trackId === undefined) return say('Select a sound or a track first; then clicks on the picture say where its source is.')
      dispatch(viewActions.setFollowing({ trackId, seen: [] }))
    },
    /** Ends following: the pan ride of the clicks is kept, or nothing. @returns Whether a track was following. */
    endFollowing: (kept: boolean): boolean => {
      const { following } = store.getState().view
      if (!following) return false
      if (!kept || dispatch(edit((now) => followSource(now, { ...following, newId })))) dispatch(viewActions.setFollowing(null))
      return true
    },
    removeEmptyTracks: () => void dispatch(edit(removeEmptyTracks)),
    soloOnly: () => {
      const id = clips()[0]?.trackId ?? store.getState().view.selected.find((one) => doc().track.get(one))
      if (id === undefined) return say('Select a sound or a track first.')
      dispatch(edit((now) => soloOnly(now, { id })))
    },

    /** Puts the sound that is chosen in the pane in place of the chosen placed ones. */
    swap: () => {
      const { trying } = store.getState()
      const { sound } = trying
      if (!sound) return say('Choose a sound in the pane first; it then takes the place of the selected ones.')
      const other = soundToTry(sound, trying)
      withChosen('swapped', (now) => swapClips(now, { swaps: ids().map((id) => ({ id, sound: other })) }))
    },
    /** Puts another event of the same recording in the place of each chosen sound. */
    swapEvent: async (direction: 1 | -1) => {
      const chosen = clips().filter((clip) => clip.speed === 1 && !clip.reverse)
      if (chosen.length === 0) return say('Select a sound first that is played straight on; then the next event of its recording takes its place.')
      const swaps = await Promise.all(
        chosen.map(async (clip) => {
          const events = await eventsOf(clip.soundId)
          const [from, to] = fileSpan(clip)
          const at = events.findIndex((event) => event[0] < to && event[2] > from)
          const next = events[(at + direction + events.length) % Math.max(1, events.length)]
          return next && events.length > 1
            ? [{ id: clip.id, sound: { id: clip.soundId, name: clip.name, recorded: clip.recorded, from: next[0], sync: next[1], to: next[2] } }]
            : []
        }),
      )
      if (swaps.flat().length === 0) return say('Its recording has no other event.')
      dispatch(edit((now) => swapClips(now, { swaps: swaps.flat() })))
    },
    /** Puts what sounds most alike in the place of the chosen sound, but lighter or heavier. */
    swapAlike: async (how: 'lighter' | 'heavier') => {
      const [clip] = clips()
      if (!clip) return say('Select a sound first; then another one like it takes its place.')
      const [own, near] = await Promise.all([fetch(`/api/sounds/${encodeURIComponent(clip.soundId)}`), fetch(`/api/sounds?${new URLSearchParams({ q: '', like: clip.soundId })}`)])
      if (!own.ok || !near.ok) return say('The recording of this sound is not on any shelf, so nothing can be compared with it.')
      const { weight } = (await own.json()) as { weight: number }
      const page = (await near.json()) as SoundPage
      const other = page.sounds.find((sound) => sound.id !== clip.soundId && (how === 'lighter' ? sound.weight < weight - 2 : sound.weight > weight + 2))
      if (!other) return say(`Nothing like it is ${how}.`)
      dispatch(edit((now) => swapClips(now, { swaps: [{ id: clip.id, sound: prepareSound(other, UNPREPARED) }] })))
    },
    /** Lays the events of the sound chosen in the pane on the chosen cues, or on the selected one and those of its category that follow without a sound. */
    layEvents: async () => {
      const { sound, event, prepared } = store.getState().trying
      const chosen = store.getState().view.selected.flatMap((id) => doc().cue.get(id) ?? [])
      const [first] = chosen
      if (!sound || !first) return say('Choose a recording in the pane and a cue on the Sheet first; then its events are laid on that cue and the next ones.')
      const events = (await eventsOf(sound.id)).slice(event ?? 0)
      const used = new Set([...doc().clip.values()].map((clip) => clip.cueId))
      const cues =
        chosen.length > 1 ? chosen : cuesInOrder(doc()).filter((cue) => cue.category === first.category && cue.in >= first.in && (cue.id === first.id || !used.has(cue.id)))
      const places = cues
        .toSorted((a, b) => a.sync - b.sync)
        .slice(0, events.length)
        .map((cue) => ({ frame: cue.sync, cueId: cue.id }))
      if (places.length === 0) return say(`${sound.name} has no events left to lay.`)
      const whole = { ...prepareSound(sound, UNPREPARED), gain: prepared.gain }
      doAndChoose((now) => layEvents(now, { sound: whole, events, places, category: first.category, newId }))
    },
  }
}

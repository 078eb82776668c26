import {
  emptyChange,
  frameToSample,
  ok,
  rateOf,
  shortlistOf,
  shortlistSound,
  type Candidate,
  type Cue,
  type Frames,
  type ReelDocument,
} from '@yodel/core'
import { api } from '../api/api.js'
import type { AppDispatch, AppStore } from '../document/store.js'
import { keepTried, layersOf, triedIn } from '../document/tried.js'
import { tryActions } from '../document/trySlice.js'
import { edit } from '../document/edit.js'
import type { Session } from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'

/** Nothing is tried. */
const NOTHING = ok(emptyChange('Keep'))
/** Seconds heard before a try's moment, and the longest moment that is gone round. */
const TRY = { before: 0.75, longest: 6 } as const

/** Trying sounds in place, keeping them or putting them back, and the shortlist of a cue. */
export function makeTryCommands(
  dispatch: AppDispatch,
  store: AppStore,
  { transport, listening, engine }: Session,
) {
  const doc = (): ReelDocument => store.getState().document.doc
  const selectedCue = (): Cue | null => doc().cue.get(store.getState().view.selected[0] ?? '') ?? null
  const say = (text: string): void => void dispatch(viewActions.notify({ tone: 'plain', text }))
  const refuse = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))

  /** Puts the chosen sound on the selected cue's sync frame, or at the gate, and goes round the moment. */
  const tryHere = (): void => {
    const { sound, place, held } = store.getState().trying
    if (!sound) return refuse('Choose a sound first: press / and type, or arrow through the results.')
    const cue = selectedCue()
    listening.stop()
    // The next candidate is tried where the one before was, while the gate rolls on; only another cue is another place, and not for a layer.
    const stays = place !== null && (held.length > 0 || cue === null || cue.id === place.cueId)
    const frame = stays ? place.frame : (cue?.sync ?? transport.frame)
    dispatch(tryActions.tryAt(stays ? place : { cueId: cue?.id ?? null, frame }))
    const clips = triedIn(doc(), store.getState().trying)?.clips ?? []
    if (clips.length === 0) {
      const change = keepTried(doc(), store.getState().trying, (what, index) => `${what}${index}`)
      if (change?.ok === false) refuse(change.message)
      return void dispatch(tryActions.putBack())
    }
    const rate = rateOf(doc())
    const meet = frameToSample(frame as Frames, rate)
    const from = Math.max(0, Math.min(meet, ...clips.map((clip) => clip.start)) - TRY.before * 48_000)
    const end =
      Math.max(
        ...clips.map((clip) => clip.start + clip.length),
        cue ? frameToSample(cue.out as Frames, rate) : 0,
      ) + 12_000
    transport.setLoop({ from: Math.round(from), to: Math.round(Math.min(end, from + TRY.longest * 48_000)) })
    transport.play()
  }

  /** Tries a candidate in the place of the one before; the one that comes next is made ready. */
  const tryCandidate = async (candidate: Candidate, following?: Candidate): Promise<void> => {
    const ids = [candidate.soundId, ...(following ? [following.soundId] : [])]
    const asked = dispatch(api.endpoints.soundsByIds.initiate(ids, { subscribe: false }))
    const sounds = await asked.unwrap().catch(() => [])
    const sound = sounds.find((one) => one.id === candidate.soundId)
    if (!sound) return refuse(`${candidate.name} is on no shelf any more.`)
    dispatch(tryActions.choose(sound))
    dispatch(tryActions.prepare({ in: candidate.in, out: candidate.out, sync: candidate.sync }))
    if (store.getState().view.selected[0] !== candidate.cueId) dispatch(viewActions.select([candidate.cueId]))
    tryHere()
    const next = sounds.find((one) => one.id === following?.soundId)
    if (next)
      engine.prepare(next.id, following?.in ?? 0, Math.min(next.length, (following?.in ?? 0) + 4 * 48_000))
  }

  /** The shortlist of the cue that is tried for, else of the selected one, and where the tried sound stands on it; -1 for nowhere. */
  const shortlistHere = (): { list: Candidate[]; at: number } => {
    const { sound, prepared, place } = store.getState().trying
    const cueId = place?.cueId ?? selectedCue()?.id
    const list = cueId === undefined ? [] : shortlistOf(doc(), cueId)
    return {
      list,
      at: place
        ? list.findIndex(
            (one) => one.soundId === sound?.id && one.in === prepared.in && one.out === prepared.out,
          )
        : -1,
    }
  }
  const tryOnList = (list: readonly Candidate[], index: number): void => {
    const around = (at: number): Candidate | undefined => list[(at + list.length) % list.length]
    const next = around(index)
    if (next) void tryCandidate(next, around(index + 1))
  }

  const endTry = (): void => {
    const { place } = store.getState().trying
    // The keyboard goes back to the Sheet: the next press is for the next cue.
    if (document.activeElement instanceof HTMLElement && document.activeElement.closest('[data-sounds]'))
      document.activeElement.blur()
    transport.stop()
    transport.setLoop(null)
    dispatch(tryActions.putBack())
    if (place) transport.goToFrame(place.frame)
  }

  return {
    tryHere,
    /** Makes what is tried part of the reel, each layer on the first free track of its category. */
    keep: () => {
      const { trying } = store.getState()
      const kept: string[] = []
      const newId = (what: 'sound' | 'track' | 'group'): string => {
        const id = crypto.randomUUID()
        if (what === 'sound') kept.push(id)
        return id
      }
      if (!trying.place || !dispatch(edit((now) => keepTried(now, trying, newId) ?? NOTHING))) return
      endTry()
      dispatch(viewActions.select(kept))
    },
    /** Keeps the tried sound sounding while others are tried beside it. */
    hold: () => {
      const { trying } = store.getState()
      if (!trying.place || !trying.sound)
        return refuse('Try a sound first; then Shift Enter holds it, and another is tried beside it.')
      if (layersOf(trying).length === trying.held.length)
        return refuse(`${trying.sound.name} is held already; choose another to try beside it.`)
      dispatch(tryActions.hold())
    },
    putBack: endTry,
    /** Puts the chosen sound, as it is prepared, on the shortlist of the cue. */
    shortlist: () => {
      const { sound, prepared, place } = store.getState().trying
      const cueId = place?.cueId ?? selectedCue()?.id
      if (!sound || cueId === undefined)
        return refuse(sound ? 'Select a cue first; its shortlist takes the sound.' : 'Choose a sound first.')
      const { in: from, out, sync } = prepared
      const id = crypto.randomUUID()
      if (dispatch(edit((now) => shortlistSound(now, { id, cueId, sound, part: { in: from, out, sync } }))))
        say(`${sound.name} is on the shortlist.`)
    },
    tryCandidate,
    /** Tries the next candidate of the cue's shortlist, after the last one the first. */
    tryShortlist: (step: 1 | -1) => {
      const { list, at } = shortlistHere()
      if (list.length === 0) return refuse('This cue has no shortlist yet: choose a sound and press Shift L.')
      tryOnList(list, at < 0 ? (step > 0 ? 0 : list.length - 1) : at + step)
    },
    /** Where the tried sound stands on the cue's shortlist, tries the one beside it there. @returns Whether it does. */
    tryBeside: (step: 1 | -1): boolean => {
      const { list, at } = shortlistHere()
      if (at >= 0) tryOnList(list, at + step)
      return at >= 0
    },
    /** Decodes a result ahead, so that trying it makes no gap. */
    prepare: (sound: { id: string; length: number }) =>
      engine.prepare(sound.id, 0, Math.min(sound.length, 4 * 48_000)),
    trying: () => store.getState().trying.place !== null,
  }
}

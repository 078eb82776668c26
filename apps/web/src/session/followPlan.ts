import {
  gainFromDb,
  planReel,
  withBalance,
  withHeldRide,
  withRecord,
  type PlanExtras,
  type ReelDocument,
} from '@yodel/core'
import type { AppStore, RootState } from '../document/store.js'
import type { Engine } from '../engine/Engine.js'
import { hitsOn, performedFollower } from '../document/performed.js'
import { draftTriedIn, shownEntry } from '../document/drafted.js'
import { stackTriedIn, triedIn, withTriedTracks } from '../document/tried.js'

/** The guide of the picture, if it has one; its gain is a matter of the view. */
export type Guide = Omit<NonNullable<PlanExtras['guide']>, 'gain'>

/** Everything that what is heard depends on. Cues don't sound: typing their words must not touch the audio thread. */
function heardOf({ document, trying, view, perform, stacking, drafting, recording }: RootState) {
  const { clip, track, ride, insert } = document.doc
  const { place, held, sound, prepared, matched } = trying
  const { pulled, guide } = view
  return [
    clip,
    track,
    ride,
    insert,
    place,
    held,
    place && sound,
    place && prepared,
    place && matched,
    shownEntry(drafting),
    drafting.shown && document.doc.cue,
    stacking.place,
    stacking.place && stacking.chosen,
    stacking.place && stacking.plan,
    stacking.place && stacking.found,
    pulled,
    view.riding?.writing && view.riding,
    view.compared,
    perform.on,
    perform.takes,
    perform.sounds,
    guide,
    recording.taking && recording.settings,
  ] as const
}

/** A document whose sounds are not heard. */
const silent = (doc: ReelDocument): ReelDocument => ({ ...doc, clip: new Map() })

/**
 * Keeps what is heard in step with the store: with the action itself, and not when the page has been drawn after it.
 *
 * @returns A way to say which guide there is, and a way to end it.
 */
export function followPlan(
  store: AppStore,
  engine: Engine,
): { setGuide: (guide: Guide | null) => void; end: () => void } {
  let guide: Guide | null = null
  let heard: readonly unknown[] = []
  const follow = performedFollower()
  const plan = (): void => {
    const state = store.getState()
    const { doc } = state.document
    const { pulled, riding } = state.view
    const compared = state.view.compared?.heard ? state.view.compared : null
    const tried =
      draftTriedIn(doc, shownEntry(state.drafting), state.drafting.onsets) ??
      stackTriedIn(doc, state.stacking) ??
      triedIn(doc, state.trying)
    // What is being hit is heard at once, by itself; takes are heard with the reel.
    const performed = follow(tried?.doc ?? doc, hitsOn(state.perform), state.perform)
    const present = compared ? withBalance(doc, compared.then) : pulled ? withRecord(doc, pulled) : doc
    // While a take rolls only what is wanted is heard: what comes out of the loudspeaker goes into the microphone.
    const { guide: hasGuide, sounds: hasSounds } = state.recording.taking
      ? state.recording.settings
      : { guide: true, sounds: true }
    const ridden = riding?.writing ? withHeldRide(present, riding) : present
    engine.setPlan(
      planReel(withTriedTracks(withTriedTracks(hasSounds ? ridden : silent(ridden), tried), performed), {
        ...(compared ? { gain: gainFromDb(compared.db) } : {}),
        ...(guide ? { guide: { ...guide, gain: hasGuide ? state.view.guide : 0 } } : {}),
        ...(tried || performed ? { tries: [...(tried?.clips ?? []), ...(performed?.clips ?? [])] } : {}),
      }),
    )
  }
  const look = (): void => {
    const now = heardOf(store.getState())
    if (now.every((value, index) => value === heard[index])) return
    heard = now
    plan()
  }
  look()
  const end = store.subscribe(look)
  return {
    end,
    setGuide: (next) => {
      // Planning thousands of sounds once more would be felt while a reel opens, before it is known whether there is one.
      if (next === null && guide === null) return
      guide = next
      plan()
    },
  }
}

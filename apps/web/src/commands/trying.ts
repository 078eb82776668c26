import {
  emptyChange,
  eventFor,
  firstToTry,
  frames,
  frameToSample,
  ok,
  samplesIn,
  type Cue,
  type Sound,
} from '@yodel/core'
import { keepTried, layersOf, triedIn } from '../document/tried.js'
import { draftActions } from '../document/draftSlice.js'
import { searchText } from '../document/searchSlice.js'
import { stackActions } from '../document/stackSlice.js'
import { tryActions } from '../document/trySlice.js'
import type { CommandContext } from './context.js'
import type { PickSound } from '../session/Parts.js'
import { eventsOf } from './events.js'
import { loopAround } from './loopAround.js'

/** Commands of {@link tryingCommands}. */
export type TryingCommands = ReturnType<typeof tryingCommands>

/** Nothing is tried. */
const NOTHING = ok(emptyChange('Keep'))
/** So much of a recording is decoded ahead. */
const AHEAD = samplesIn(4)

/** Trying sounds in place, keeping them or putting them back. */
export function tryingCommands(context: CommandContext) {
  const { transport, listening, engine, parts, doc, rate, cueHere, edit, select, refuse, dispatch, state } =
    context

  const end = (how: 'keep' | 'putBack'): void => {
    const { place } = state().trying
    // The keyboard goes back to the Sheet: the next press is for the next cue.
    parts.get('results')?.leave()
    transport.stop()
    transport.setLoop(null)
    dispatch(tryActions[how]())
    if (place) transport.goToFrame(place.frame)
  }

  /** The cue that is tried for: the one here, else the one for which a try goes round already. */
  const cueTried = (): Cue | null => cueHere() ?? doc().cue.get(state().trying.place?.cueId ?? '') ?? null
  const frameHere = (): number => cueTried()?.sync ?? transport.frame
  const firstHere: PickSound = (found) =>
    firstToTry(found, doc(), {
      place: frameToSample(frames(frameHere()), rate()),
      category: cueTried()?.category ?? null,
    })

  /** Takes the one event of a recording that suits a cue. @returns false when something else is to be tried by then */
  const takeEventFor = async (here: Cue, sound: Sound): Promise<boolean> => {
    const events = await eventsOf(dispatch, sound.id)
    if (state().trying.sound?.id !== sound.id || cueTried()?.id !== here.id) return false
    const alone = eventFor(here, events, rate())
    dispatch(tryActions.suit(alone))
    return true
  }
  const start = (here: Cue | null): void => {
    const { place, held } = state().trying
    listening.stop()
    dispatch(stackActions.putBack())
    dispatch(draftActions.show(null))
    // The next candidate is tried where the one before was, while the gate rolls on; only another cue is another place, and not for a layer.
    const stays = place !== null && (held.length > 0 || here === null || here.id === place.cueId)
    const next = stays ? place : { cueId: here?.id ?? null, frame: frameHere() }
    dispatch(tryActions.tryAt(next))
    const clips = triedIn(doc(), state().trying)?.clips ?? []
    if (clips.length === 0) {
      const change = keepTried(doc(), state().trying, (what, index) => `${what}${index}`)
      if (change?.ok === false) refuse(change.message)
      return void dispatch(tryActions.putBack())
    }
    transport.setLoop(loopAround(next.frame, clips, here, rate()))
    transport.play()
  }

  return {
    /** Puts the chosen sound on the selected cue's sync frame, or at the gate, and goes round the moment; of several events the one that suits the cue. */
    here: () => {
      const { sound, event, suits, whole, prepared } = state().trying
      // Of all sounds there is no best one.
      const results = searchText(state().search) === '' ? undefined : parts.get('results')
      if (!sound && results) return results.tryFirst(firstHere)
      if (!sound) return refuse('Choose a sound first: press / and type, or arrow through the results.')
      const here = cueTried()
      // What suited another cue says nothing at the gate.
      if (!here) dispatch(tryActions.suit(null))
      const isPart = !suits && (event !== null || prepared.in !== null || prepared.out !== null)
      if (!here || sound.events < 2 || whole || isPart) return start(here)
      void takeEventFor(here, sound).then((goesOn) => goesOn && start(here))
    },
    /** Makes what is tried part of the reel, each layer on the first free track of its category. */
    keep: () => {
      const { trying } = state()
      const kept: string[] = []
      const newId = (what: 'sound' | 'track' | 'group'): string => {
        const id = crypto.randomUUID()
        if (what === 'sound') kept.push(id)
        return id
      }
      if (!trying.place || !edit((now) => keepTried(now, trying, newId) ?? NOTHING)) return
      end('keep')
      select(kept)
    },
    /** Keeps the tried sound sounding while others are tried beside it. */
    hold: () => {
      const { trying } = state()
      if (!trying.place || !trying.sound) {
        return refuse('Try a sound first; then Shift Enter holds it, and another is tried beside it.')
      }
      if (layersOf(trying).length === trying.held.length) {
        return refuse(`${trying.sound.name} is held already; choose another to try beside it.`)
      }
      dispatch(tryActions.hold())
    },
    putBack: () => end('putBack'),
    /** Decodes a recording ahead from a sample on, so that trying it makes no gap. */
    prepare: (sound: { id: string; length: number }, from = 0) =>
      engine.prepare(sound.id, from, Math.min(sound.length, from + AHEAD)),
    isTrying: () => state().trying.place !== null,
  }
}

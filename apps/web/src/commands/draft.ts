import {
  chain,
  coverageOf,
  cueCode,
  cuesInOrder,
  draftCue,
  keepTake,
  layDraft,
  nearUses,
  stepsOf,
  takeStem,
  type Cue,
  type FindSounds,
  type FoundSound,
  type Performed,
  type RankedSound,
  type ReelDocument,
  type SoundEvent,
} from '@yodel/core'
import { messageOf } from '../api/api.js'
import { poolsApi } from '../api/poolsApi.js'
import { choicesAbove, draftActions, type DraftEntry } from '../document/draftSlice.js'
import { draftTriedIn, keepDrafted } from '../document/drafted.js'
import { stackActions } from '../document/stackSlice.js'
import { tryActions } from '../document/trySlice.js'
import type { CommandContext } from './context.js'
import { eventsOf } from './events.js'
import { loopAround } from './loopAround.js'

/** Commands of {@link draftCommands}. */
export type DraftCommands = ReturnType<typeof draftCommands>

/** Seconds within which a recording is not used again. */
const NEAR_S = 60
/** So many takes of one thing go round in steps. */
/** How long is waited before the server is asked again that did not answer. */
const AGAIN_MS = 1000
const TAKES = 8

/** A first draft of the whole reel: first choices for all open cues, walked through with three keys. */
export function draftCommands(context: CommandContext) {
  const { transport, marks, doc, rate, edit, select, refuse, tell, dispatch, state, newId } = context
  const drafting = () => state().drafting
  /** Tells one draft from the next, so that one that was ended stops looking. */
  let run = 0

  const entryOf = (cueId: string): DraftEntry | undefined =>
    drafting().entries.find((entry) => entry.cueId === cueId)
  const performedBy = (now: ReelDocument, { cueId, ranked, at, events }: DraftEntry): Performed[] => {
    const cue = now.cue.get(cueId)
    const choice = ranked[at]?.sound
    if (!cue || !choice) return []
    const takes = ranked
      .map(({ sound }) => sound)
      .filter(({ name }) => takeStem(name) === takeStem(choice.name))
      .slice(0, TAKES)
    return layDraft(now, cue, choice, { steps: stepsOf(now, cue, marks.current.onsets), takes, events })
  }
  /** Events of a long recording, where its choice would be laid step by step. */
  const eventsFor = async (cue: Cue, sound: FoundSound | undefined): Promise<readonly SoundEvent[]> =>
    sound && sound.events > 1 && stepsOf(doc(), cue, marks.current.onsets).length > 0
      ? eventsOf(dispatch, sound.id)
      : []

  const find: FindSounds = async (params) => {
    const asked = dispatch(poolsApi.endpoints.firstSounds.initiate(params, { subscribe: false }))
    return (await asked.unwrap()).sounds
  }
  const rank = (cue: Cue): Promise<RankedSound[]> => {
    const near = new Set(nearUses(doc(), cue.sync, NEAR_S).keys())
    for (const { cueId, ranked, at, state: settled } of drafting().entries) {
      const other = doc().cue.get(cueId)
      const isNear = other && Math.abs(other.sync - cue.sync) <= NEAR_S * rate().nominal
      const choice = ranked[at]
      if (isNear && choice && settled !== 'skipped') near.add(choice.sound.id)
    }
    const { num, den } = rate()
    const steps = stepsOf(doc(), cue, marks.current.onsets).length
    const context = { seconds: ((cue.out - cue.in) * den) / num, near, steps }
    return draftCue(cue, context, find)
  }
  /** Looks for all cues that wait, one after the other: the hands come first. */
  const goOn = async (): Promise<void> => {
    const mine = ++run
    const isEnded = (): boolean => mine !== run || !drafting().on
    const lookOn = async (): Promise<void> => {
      for (let next = drafting().waiting[0]; next !== undefined; next = drafting().waiting[0]) {
        const cue = doc().cue.get(next)
        const ranked = cue ? await rank(cue) : []
        const events = cue ? await eventsFor(cue, ranked[0]?.sound) : []
        if (isEnded()) return
        dispatch(draftActions.drafted({ cueId: next, ranked, events }))
        const choices = drafting().entries.filter((one) => one.ranked.length > 0).length
        // The first is shown by itself, unless the hands are at something else by now.
        if (ranked.length > 0 && choices === 1 && !transport.rolling && !state().trying.place) show(next)
      }
    }
    while (!isEnded()) {
      const trouble = await lookOn().then(
        () => null,
        (error: unknown) => messageOf(error),
      )
      if (isEnded()) return
      if (trouble !== drafting().trouble) dispatch(draftActions.brokeOff(trouble))
      if (trouble === null) return
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS))
    }
  }

  /** Shows the choice for a cue: its place, drawn and heard like a try, gone round. */
  const show = (cueId: string): void => {
    const cue = doc().cue.get(cueId)
    const entry = entryOf(cueId)
    if (!cue || !entry) return
    dispatch(tryActions.putBack())
    dispatch(stackActions.putBack())
    select([cueId])
    dispatch(draftActions.show({ cueId, performed: performedBy(doc(), entry) }))
    const laid = draftTriedIn(doc(), drafting())?.clips ?? []
    transport.goToFrame(cue.sync)
    if (laid.length === 0) return
    transport.setLoop(loopAround(cue.sync, laid, cue, rate()))
    transport.play()
  }
  const stop = (): void => {
    transport.stop()
    transport.setLoop(null)
    dispatch(draftActions.show(null))
  }
  /** Goes to the next cue that has a choice and about which nothing was said; ends the walk after the last. */
  const goNext = (): void => {
    const order = cuesInOrder(doc()).map(({ id }) => id)
    const from = order.indexOf(drafting().shown?.cueId ?? '')
    const open = new Set(
      drafting().entries.flatMap(({ cueId, ranked, state: said }) =>
        said === 'open' && ranked.length > 0 ? [cueId] : [],
      ),
    )
    const next = [...order.slice(from + 1), ...order.slice(0, from + 1)].find((id) => open.has(id))
    if (next !== undefined) return show(next)
    stop()
    tell(
      drafting().waiting.length > 0
        ? 'That is all so far; more is being looked for.'
        : 'That was the last choice of the draft.',
    )
  }

  return {
    isWalking: () => drafting().shown !== null,
    /** Begins a draft of all cues that have no sound, or ends it. */
    toggle: () => {
      if (drafting().on) {
        run++
        stop()
        return void dispatch(draftActions.end())
      }
      const open = cuesInOrder(doc()).filter(
        (cue) => cue.state !== 'omitted' && coverageOf(doc(), cue) === 'nothing',
      )
      if (open.length === 0) return refuse('Every cue has a sound already: there is nothing to draft.')
      dispatch(draftActions.begin(open.map(({ id }) => id)))
      void goOn()
    },
    show,
    stop,
    next: goNext,
    /** Means the next candidate of the shown cue, or the one before. */
    beside: async (by: 1 | -1) => {
      const { shown } = drafting()
      const entry = shown && entryOf(shown.cueId)
      const cue = shown && doc().cue.get(shown.cueId)
      if (!entry || !cue) return
      const at = Math.max(0, Math.min(entry.ranked.length - 1, entry.at + by))
      if (at === entry.at)
        return refuse(by > 0 ? 'That was the last candidate.' : 'That is the first candidate.')
      const events = await eventsFor(cue, entry.ranked[at]?.sound)
      dispatch(draftActions.choose({ cueId: entry.cueId, at, events }))
      show(entry.cueId)
    },
    /** Means a candidate by its place. */
    choose: async (at: number) => {
      const { shown } = drafting()
      const cue = shown && doc().cue.get(shown.cueId)
      if (!cue) return
      const events = await eventsFor(cue, entryOf(cue.id)?.ranked[at]?.sound)
      dispatch(draftActions.choose({ cueId: cue.id, at, events }))
      show(cue.id)
    },
    /** Keeps what is shown, and goes on to the next cue. */
    keep: () => {
      const { shown } = drafting()
      if (!shown || !edit((now) => keepDrafted(now, shown.cueId, shown.performed, newId))) return
      dispatch(draftActions.settle({ ids: [shown.cueId], as: 'kept' }))
      goNext()
    },
    /** Leaves the shown cue as it is, and goes on to the next. */
    skip: () => {
      const { shown } = drafting()
      if (!shown) return
      dispatch(draftActions.settle({ ids: [shown.cueId], as: 'skipped' }))
      goNext()
    },
    /** Keeps all choices that are as sure as the line, as one step. */
    keepAbove: () => {
      const sure = choicesAbove(drafting())
      const those = sure.filter((entry) => performedBy(doc(), entry).length > 0)
      if (those.length === 0) return refuse('No choice of the draft is that sure.')
      stop()
      const label = `Keep ${those.length} ${those.length === 1 ? 'choice' : 'choices'} of the draft`
      const lay = those.map(
        (entry) => (now: ReelDocument) =>
          keepTake(now, {
            ...{ performed: performedBy(now, entry), cues: 'none', words: '', newId, cueId: entry.cueId },
          }),
      )
      if (!edit((now) => chain(now, label, lay))) return
      dispatch(draftActions.settle({ ids: those.map(({ cueId }) => cueId), as: 'kept' }))
      const first = those.map(({ cueId }) => doc().cue.get(cueId)).find((cue) => cue !== undefined)
      tell(`${label.replace('Keep', 'Kept')}${first ? `, from ${cueCode(first)} on` : ''}.`)
    },
  }
}

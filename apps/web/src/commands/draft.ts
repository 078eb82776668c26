import {
  chain,
  cueContext,
  cuesInOrder,
  draftCue,
  isToDraft,
  stepsOf,
  type Cue,
  type FindSounds,
  type FoundSound,
  type RankedSound,
  type ReelDocument,
  type SoundEvent,
} from '@yodel/core'
import { answerOf } from '../api/answerOf.js'
import { isRefused, messageOf } from '../api/api.js'
import { poolsApi } from '../api/poolsApi.js'
import { draftActions, type DraftEntry } from '../document/draftSlice.js'
import { choicesAbove, draftTriedIn, isOpen, keepDrafted, shownEntry } from '../document/drafted.js'
import { stackActions } from '../document/stackSlice.js'
import { tryActions } from '../document/trySlice.js'
import type { CommandContext } from './context.js'
import { eventsOf } from './events.js'
import { loopAround } from './loopAround.js'

/** Commands of {@link draftCommands}. */
export type DraftCommands = ReturnType<typeof draftCommands>

/** How long is waited before the server is asked again that did not answer. */
const AGAIN_MS = 1000

/** A first draft of the whole reel: first choices for all open cues, walked through with three keys. */
export function draftCommands(context: CommandContext) {
  const { transport, marks, doc, rate, edit, select, refuse, tell, dispatch, state, newId } = context
  const drafting = () => state().drafting

  /** Events of a long recording, where its choice would be laid step by step. */
  const eventsFor = async (cue: Cue, sound: FoundSound | undefined): Promise<readonly SoundEvent[]> =>
    sound && sound.events > 1 && stepsOf(doc(), cue, marks.current.onsets).length > 0
      ? eventsOf(dispatch, sound.id)
      : []
  const find: FindSounds = async (params) => {
    const asked = dispatch(poolsApi.endpoints.firstSounds.initiate(params))
    return (await answerOf(asked)).sounds
  }
  const rank = async (cue: Cue): Promise<RankedSound[]> => {
    const choices = new Map(
      drafting().entries.flatMap(({ cueId, ranked, at, skipped }) => {
        const choice = ranked[at]
        return choice && !skipped ? [[cueId, choice.sound.id] as const] : []
      }),
    )
    try {
      return await draftCue(cue, cueContext(doc(), cue, choices, marks.current.onsets), find)
    } catch (error) {
      // What the server will not have, asking again does not help.
      if (isRefused(error)) return []
      throw error
    }
  }
  /** Looks for all cues that wait, one after the other: the hands come first. */
  const lookOn = async (isEnded: () => boolean): Promise<void> => {
    for (let next = drafting().waiting[0]; next !== undefined; next = drafting().waiting[0]) {
      const cue = doc().cue.get(next)
      const ranked = cue ? await rank(cue) : []
      const events = cue ? await eventsFor(cue, ranked[0]?.sound) : []
      if (isEnded()) return
      dispatch(draftActions.drafted({ cueId: next, ranked, events, onsets: marks.current.onsets }))
      const choices = drafting().entries.filter((one) => one.ranked.length > 0).length
      // The first is shown by itself, unless the hands are at something else by now.
      if (ranked.length > 0 && choices === 1 && !transport.rolling && !state().trying.place) show(next)
    }
  }
  /** Goes on until all is looked for or the draft is ended; the server that does not answer is asked again. */
  const goOn = async (): Promise<void> => {
    const mine = drafting().id
    const isEnded = (): boolean => mine === null || drafting().id !== mine
    while (!isEnded()) {
      const trouble = await lookOn(isEnded).then(
        () => null,
        (error: unknown) => messageOf(error),
      )
      if (isEnded()) return
      if (trouble !== drafting().trouble) dispatch(draftActions.stuck(trouble))
      if (trouble === null) return
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS))
    }
  }

  /** Shows the choice for a cue: its place, drawn and heard like a try, gone round. */
  const show = (cueId: string): void => {
    const cue = doc().cue.get(cueId)
    if (!cue) return
    dispatch(tryActions.putBack())
    dispatch(stackActions.putBack())
    select([cueId])
    dispatch(draftActions.show(cueId))
    const laid = draftTriedIn(doc(), shownEntry(drafting()), drafting().onsets)?.clips ?? []
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
  /** Goes to the next cue whose choice can be kept; ends the walk after the last. */
  const goNext = (): void => {
    const order = cuesInOrder(doc()).map(({ id }) => id)
    const from = order.indexOf(drafting().shown ?? '')
    const open = new Set(
      drafting()
        .entries.filter((entry) => isOpen(doc(), entry))
        .map(({ cueId }) => cueId),
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
  /** Means a candidate of the shown cue, by its place. */
  const choose = async (at: number): Promise<void> => {
    const entry = shownEntry(drafting())
    const cue = doc().cue.get(entry?.cueId ?? '')
    if (!entry || !cue) return
    const events = await eventsFor(cue, entry.ranked[at]?.sound)
    // Somebody may have gone on meanwhile.
    if (drafting().shown !== cue.id) return
    dispatch(draftActions.say({ cueId: cue.id, at, events }))
    show(cue.id)
  }

  return {
    isWalking: () => drafting().shown !== null,
    /** Begins a draft of all cues that have no sound, or ends it. */
    toggle: () => {
      if (drafting().id !== null) {
        if (drafting().shown !== null) stop()
        return void dispatch(draftActions.end())
      }
      const open = cuesInOrder(doc()).filter((cue) => isToDraft(doc(), cue))
      if (open.length === 0) return refuse('Every cue has a sound already: there is nothing to draft.')
      dispatch(draftActions.begin(open.map(({ id }) => id)))
      void goOn()
    },
    stop,
    next: goNext,
    choose,
    /** Means the next candidate of the shown cue, or the one before. */
    beside: async (by: 1 | -1) => {
      const entry = shownEntry(drafting())
      if (!entry) return
      const at = entry.at + by
      if (!entry.ranked[at])
        return refuse(by > 0 ? 'That was the last candidate.' : 'That is the first candidate.')
      await choose(at)
    },
    /** Keeps what is shown, and goes on to the next cue. */
    keep: () => {
      const entry = shownEntry(drafting())
      if (!entry) return
      if (!isOpen(doc(), entry)) refuse('This cue has a sound by now: the choice was not laid over it.')
      else if (!edit((now) => keepDrafted(now, entry, drafting().onsets, newId))) return
      goNext()
    },
    /** Leaves the shown cue as it is, and goes on to the next. */
    skip: () => {
      const { shown } = drafting()
      if (shown === null) return
      dispatch(draftActions.say({ cueId: shown, skipped: true }))
      goNext()
    },
    /** Keeps all choices that are as sure as the line, as one step. */
    keepAbove: () => {
      const those: readonly DraftEntry[] = choicesAbove(doc(), drafting())
      if (those.length === 0) return refuse('No choice of the draft is that sure.')
      stop()
      const choices = `${those.length} ${those.length === 1 ? 'choice' : 'choices'} of the draft`
      const lay = those.map(
        (entry) => (now: ReelDocument) => keepDrafted(now, entry, drafting().onsets, newId),
      )
      if (edit((now) => chain(now, `Keep ${choices}`, lay))) tell(`Kept ${choices}.`)
    },
  }
}

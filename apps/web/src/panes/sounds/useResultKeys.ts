import { useEffect, useEffectEvent, useState, type KeyboardEvent } from 'react'
import { actionOf, type Action } from '../../actions/action.js'
import { RESULT_ACTIONS, SEARCH_ACTIONS, type ResultHands } from '../../actions/resultActions.js'
import type { PickSound } from '../../session/Parts.js'
import { useKeyboard, useOwnKeys } from '../../actions/useKeys.js'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector, useAppStore } from '../../document/store.js'
import { searchText } from '../../document/searchSlice.js'
import { tryActions } from '../../document/trySlice.js'
import { viewActions } from '../../document/viewSlice.js'
import { useEventSteps } from './EventBar.js'
import { useSoundHands } from './hands.js'
import { useMarked, type Marked } from './useMarked.js'
import type { Search } from './useSearch.js'

/** What is done by key in the field of the search and in the list of its results. */
export interface ResultKeys {
  /** Results that are marked, and choosing one by its place, which listens to it or tries it. */
  readonly marked: Marked
  readonly hands: ResultHands
  readonly inSearch: (event: KeyboardEvent) => void
  readonly inList: (event: KeyboardEvent) => void
}

const NOTHING_FOUND = 'No sound was found for these words.'

/** Chooses results and goes through them by key; the tables of keys are in actions/resultActions.ts. */
export function useResultKeys(search: Search): ResultKeys {
  const choose = useChoose(search)
  const marked = useMarked(search, choose)
  const hands = useResultHands(search, marked)
  const keyboard = useKeyboard()
  const inSearch = useOwnKeys(SEARCH_ACTIONS)
  const inList = useOwnKeys(RESULT_ACTIONS)
  const keys =
    (actions: readonly Action<ResultHands>[]) =>
    (event: KeyboardEvent): void => {
      const action = event.ctrlKey || event.metaKey ? null : actionOf(actions, event, keyboard)
      if (!action) return
      event.preventDefault()
      event.stopPropagation()
      action.run(hands)
    }
  return { marked, hands, inSearch: keys(inSearch), inList: keys(inList) }
}

function useChoose({ sounds }: Search): (index: number) => void {
  const dispatch = useAppDispatch()
  const { listening, reel } = useSoundHands()
  const trying = useAppSelector((state) => state.trying.place !== null)
  const [hear] = api.useLazySoundQuery()
  return (index) => {
    const chosen = sounds[index]
    if (!chosen) return
    dispatch(tryActions.choose(chosen))
    // The index has not come to it yet: it is listened to now, so that it has its sync point and its loudness.
    if (!chosen.measured) {
      hear(chosen.id)
        .unwrap()
        .then((heard) => dispatch(tryActions.heard(heard)))
        .catch(() => undefined)
    }
    const next = sounds[index + 1]
    if (next) reel?.prepare(next)
    // While trying, the next candidate takes its place in the loop; otherwise it is heard by itself.
    if (!trying) listening.play(chosen)
    else reel?.tryHere()
  }
}

/** @returns {@link ResultHands.tryFirst}: what is asked waits while the results are still those of the search before, and is dropped when something else is selected. */
function useTryFirst(
  { sounds, shown, error }: Search,
  choose: (index: number) => void,
): ResultHands['tryFirst'] {
  const store = useAppStore()
  const { reel } = useSoundHands()
  const selected = useAppSelector((state) => state.view.selected)
  const asked = useAppSelector((state) => searchText(state.search))
  const [wanted, setWanted] = useState<{ pick: PickSound; selected: readonly string[] } | null>(null)
  const isThere = shown === asked
  const tryFirst = useEffectEvent((pick: PickSound) => {
    setWanted(null)
    const first = pick(sounds)
    if (error) return
    if (!first) return store.dispatch(viewActions.notify({ tone: 'plain', text: NOTHING_FOUND }))
    choose(sounds.findIndex(({ id }) => id === first.id))
    reel?.tryHere()
  })
  useEffect(() => {
    if (wanted && wanted.selected !== selected) setWanted(null)
    else if (wanted && (isThere || error)) void tryFirst(wanted.pick)
  }, [wanted, selected, isThere, error])
  return (pick) => setWanted({ pick, selected: store.getState().view.selected })
}

function useResultHands(search: Search, { choose, extend }: Marked): ResultHands {
  const { sounds } = search
  const dispatch = useAppDispatch()
  const { listening, reel } = useSoundHands()
  const sound = useAppSelector((state) => state.trying.sound)
  const trying = useAppSelector((state) => state.trying.place !== null)
  const currentKit = useAppSelector((state) => state.search.currentKit)
  const { data: kits } = api.useKitsQuery()
  const [rate] = api.useEditSoundsMutation()
  const [fill] = api.useFillKitMutation()
  const { step: stepEvent } = useEventSteps(sound)
  const tryFirst = useTryFirst(search, choose)
  const tell = (text: string): void => void dispatch(viewActions.notify({ tone: 'plain', text }))
  const at = sound ? sounds.findIndex((candidate) => candidate.id === sound.id) : -1
  const leave = (): void => {
    const focused = document.activeElement
    if (focused instanceof HTMLElement) focused.blur()
  }
  return {
    step: (by) => choose(Math.max(0, Math.min(sounds.length - 1, at + by))),
    tryFirst,
    stepEvent,
    enter: () => {
      if (at < 0) choose(0)
      if (trying) reel?.keep()
      else if (reel) reel.tryHere()
      else if (sound) listening.play(sound)
    },
    mark: extend,
    hold: () => reel?.hold(),
    escape: () => {
      if (trying) return reel?.putBack()
      listening.stop()
      leave()
    },
    fillKit: () => {
      const kit = kits?.find((one) => one.id === currentKit)
      if (!sound) return tell('Choose a sound first.')
      if (!kit)
        return tell('There is no current kit: choose one under About, or make one on the page Sounds.')
      void fill({ id: kit.id, ids: [sound.id], put: true })
      tell(`${sound.name} is in ${kit.name}.`)
    },
    shuffle: () => choose(Math.floor(Math.random() * sounds.length)),
    rate: (rating) => sound && void rate({ ids: [sound.id], edit: { rating } }),
    leave,
  }
}

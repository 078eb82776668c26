import type { KeyboardEvent } from 'react'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { useEventSteps } from './EventBar.js'
import { useSoundHands } from './hands.js'
import { tryActions } from '../../document/trySlice.js'
import type { Search } from './useSearch.js'

/** Chooses results and goes through them by key: ↓ ↑ results, ← → events (in the list), Enter tries or keeps, Esc puts back, Alt 0 to 5 rates, Alt K fills the kit, Alt R shuffles. */
export function useResultKeys(search: Search): {
  choose: (index: number) => void
  onKeyDown: (event: KeyboardEvent) => void
} {
  const dispatch = useAppDispatch()
  const { listening, reel } = useSoundHands()
  const { sound, place } = useAppSelector((state) => state.trying)
  const currentKit = useAppSelector((state) => state.search.currentKit)
  const { data: kits } = api.useKitsQuery()
  const [rate] = api.useEditSoundsMutation()
  const [fill] = api.useFillKitMutation()
  const [hear] = api.useLazySoundQuery()
  const { step } = useEventSteps(sound)
  const { sounds } = search
  const choose = (index: number): void => {
    const chosen = sounds[index]
    if (!chosen) return
    dispatch(tryActions.choose(chosen))
    // The index has not come to it yet: it is listened to now, so that it has its sync point and its loudness.
    if (!chosen.measured)
      void hear(chosen.id)
        .unwrap()
        .then((heard) => dispatch(tryActions.heard(heard)))
        .catch(() => undefined)
    const next = sounds[index + 1]
    if (next) reel?.prepare(next)
    // While trying, the next candidate takes its place in the loop; otherwise it is heard by itself.
    if (place === null) listening.play(chosen)
    else reel?.tryHere()
  }
  const say = (text: string): void => void dispatch(viewActions.notify({ tone: 'plain', text }))
  const onKeyDown = (event: KeyboardEvent): void => {
    const typing = event.target instanceof HTMLInputElement
    const at = sound ? sounds.findIndex((candidate) => candidate.id === sound.id) : -1
    const plain: Record<string, (() => void) | null> = {
      ArrowDown: () => choose(Math.min(sounds.length - 1, at + 1)),
      ArrowUp: () => choose(Math.max(0, at - 1)),
      // In the field the arrows belong to the text.
      ArrowLeft: typing ? null : () => step(-1),
      ArrowRight: typing ? null : () => step(1),
      Enter: () => {
        if (at < 0) choose(0)
        if (place !== null && event.shiftKey) reel?.hold()
        else if (place !== null) reel?.keep()
        else if (reel) reel.tryHere()
        else if (sound) listening.play(sound)
      },
      Escape: () => {
        if (place !== null) reel?.putBack()
        else {
          listening.stop()
          ;(event.target as HTMLElement).blur()
        }
      },
    }
    const withAlt: Record<string, (() => void) | null> = {
      ArrowLeft: () => step(-1),
      ArrowRight: () => step(1),
      k: () => {
        const kit = kits?.find((one) => one.id === currentKit)
        if (!sound || !kit)
          return say(
            sound
              ? 'There is no current kit: choose one under About, or make one on the page Sounds.'
              : 'Choose a sound first.',
          )
        void fill({ id: kit.id, ids: [sound.id], put: true })
        say(`${sound.name} is in ${kit.name}.`)
      },
      r: () => choose(Math.floor(Math.random() * sounds.length)),
      ...Object.fromEntries(
        [0, 1, 2, 3, 4, 5].map((rating) => [
          String(rating),
          () => sound && void rate({ ids: [sound.id], edit: { rating } }),
        ]),
      ),
    }
    if (event.ctrlKey || event.metaKey) return
    const run = (event.altKey ? withAlt : plain)[event.key.length === 1 ? event.key.toLowerCase() : event.key]
    if (!run) return
    event.preventDefault()
    event.stopPropagation()
    run()
  }
  return { choose, onKeyDown }
}

import { SAMPLE_RATE, shortlistSound, spotCue, type Sound } from '@yodel/core'
import { beforeEach, expect } from 'vitest'
import { after, placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { tryActions, type TryState } from '../document/trySlice.js'
import { viewActions } from '../document/viewSlice.js'
import { serverIs } from './serverIs.js'
import { setStage, settle, type Stage } from './stage.js'

/** A sound of a second, its attack after a quarter. */
export const sound = (id: string): Sound =>
  ({
    ...{
      id,
      name: id,
      path: `${id}.wav`,
      length: SAMPLE_RATE,
      sync: SAMPLE_RATE / 4,
      channels: 2,
      category: 'Levers',
    },
    ...{ description: '', keywords: '', loudness: -20, measured: true, weight: 50, events: 1 },
  }) as Sound

const NO_PART = { in: null, out: null, sync: null }
/** A reel with a cue, its shortlist of two, and a sound. */
export const reel = (() => {
  let doc = after(
    testReel(),
    spotCue(testReel(), { id: 'q', category: 'FX', in: 100, out: 150, words: 'door' }),
  )
  doc = placed(doc, 'a', 400)
  for (const id of ['one', 'two']) {
    doc = after(doc, shortlistSound(doc, { id: `l-${id}`, cueId: 'q', sound: sound(id), part: NO_PART }))
  }
  return doc
})()

/** What the server would answer, by the beginning of what it is asked. */
export const answers = new Map<string, unknown>()
/** The stage as it stands. */
export let stage: Stage
/** Sets the stage with another reel. */
export const setTrying = (doc = reel): void => void (stage = setStage(doc))
/** Sets the stage anew before each test of a file, with a server that answers what is in `answers`. */
export function onTryStage(): void {
  serverIs((url) => {
    const key = [...answers.keys()].find((start) => (url.pathname + url.search).startsWith(start))
    return key === undefined ? new Response('{}', { status: 404 }) : Response.json(answers.get(key))
  })
  beforeEach(() => {
    answers.clear()
    setTrying()
  })
}
/** What is tried. */
export const trying = (): TryState => stage.store.getState().trying
/** Chooses a sound of the pane. */
export const choose = (id: string): void => void stage.store.dispatch(tryActions.choose(sound(id)))
/** Selects records and nothing else. */
export const select = (...ids: string[]): void => void stage.store.dispatch(viewActions.select(ids))
/** Waits for what is asked of the server. */
export const until = async (holds: () => boolean): Promise<void> => {
  for (let tries = 0; tries < 50 && !holds(); tries++) await settle()
  expect(holds()).toBe(true)
}

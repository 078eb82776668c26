import { spotCue, type Clip, type Cue } from '@yodel/core'
import { after, placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { viewActions } from '../document/viewSlice.js'
import { setStage, settle, type Stage } from './stage.js'

/** Samples of a frame. */
export const FRAME = 2000
/** Two sounds that meet on one track, one on a track of its own, and two cues. */
export const reel = (() => {
  let doc = placed(testReel(), 'a', 100)
  doc = placed(doc, 'b', 124, { trackId: 't-a' })
  doc = placed(doc, 'c', 110)
  doc = after(doc, spotCue(doc, { id: 'q', category: 'FX', in: 100, out: 150, words: 'door' }))
  return after(doc, spotCue(doc, { id: 'q2', category: 'BG', in: 400, out: 450 }))
})()

/** The stage as it stands. */
export let stage: Stage
/** Sets the stage anew. */
export const setPlaced = (): void => void (stage = setStage(reel))
/** A clip of the reel, by id. */
export const clip = (id: string): Clip => stage.doc().clip.get(id) as Clip
/** A cue of the reel, by id. */
export const cue = (id: string): Cue => stage.doc().cue.get(id) as Cue
/** Selects records and nothing else. */
export const select = (...ids: string[]): void => void stage.store.dispatch(viewActions.select(ids))
/** Plays for so many milliseconds. */
export const roll = async (ms: number): Promise<void> => {
  stage.transport.play()
  await settle()
  stage.clock.pass(ms)
}

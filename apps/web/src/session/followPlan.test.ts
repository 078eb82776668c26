import { editCue, editTrack, shapeClips, spotCue, trackSchema, type Sound, type Track } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { after, placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { tryActions } from '../document/trySlice.js'
import { viewActions } from '../document/viewSlice.js'
import { setStage, type Stage } from '../test/stage.js'
import { followPlan } from './followPlan.js'

const reel = after(
  placed(testReel(), 'a', 100),
  spotCue(testReel(), { id: 'q', category: 'FX', in: 50, out: 60 }),
)
const sound = {
  ...{ id: 'bell', name: 'Bell', path: 'bell.wav', length: 48_000, sync: 4800, channels: 2 },
  ...{ description: '', keywords: '', category: 'Bells', loudness: -20, measured: true },
} as Sound

let stage: Stage
let kept: ReturnType<typeof followPlan>
beforeEach(() => {
  stage = setStage(reel)
  kept = followPlan(stage.store, stage.engine.asEngine())
})
const voices = (): { mediaId: string; start: number }[] =>
  stage.engine.plan.strips.flatMap((strip) => [...strip.voices])

describe('what is heard', () => {
  it('is the document, at once, and follows an edit within the same action', () => {
    expect(voices()).toMatchObject([{ start: 188_000 }])
    stage.does((doc) => shapeClips(doc, { ids: ['a'], fields: { mute: true } }))
    expect(voices()).toEqual([])
  })

  it('is left alone by what does not sound: words, cues, selections, a guide that is not there', () => {
    const { length } = stage.engine.plans
    stage.does((doc) => editCue(doc, { id: 'q', fields: { words: 'door' } }))
    stage.store.dispatch(viewActions.select(['a']))
    stage.store.dispatch(viewActions.zoomTo(4))
    kept.setGuide(null)
    expect(stage.engine.plans).toHaveLength(length)
  })

  it('has the guide of the picture beside, at the level of the view, once there is one', () => {
    const tracks = ['guide-p', 'guide-p+3'].map((mediaId) => ({ mediaId, length: 480_000 }))
    kept.setGuide({ tracks, start: 1000 })
    for (const { mediaId } of tracks)
      expect(voices()).toContainEqual(expect.objectContaining({ mediaId, start: 1000 }))
    stage.store.dispatch(viewActions.setGuide(0))
    expect(voices().some(({ mediaId }) => mediaId === 'guide-p')).toBe(false)
    kept.setGuide(null)
    stage.store.dispatch(viewActions.setGuide(1))
    expect(voices()).toHaveLength(1)
  })

  it('has what is tried in place, and no trace of it when it is put back', () => {
    stage.store.dispatch(tryActions.choose(sound))
    const before = voices()
    stage.store.dispatch(tryActions.tryAt({ cueId: 'q', frame: 50 }))
    expect(voices()).toContainEqual(expect.objectContaining({ mediaId: 'bell', start: 50 * 2000 - 4800 }))
    stage.store.dispatch(tryActions.putBack())
    expect(voices()).toEqual(before)
  })

  it('has what a hand pulls before it is let go, and does not write it', () => {
    const track = stage.doc().track.get('t-a') as Track
    const level = (): number | undefined => stage.engine.plan.strips[0]?.level
    expect(level()).toBe(1)
    stage.store.dispatch(viewActions.pull(trackSchema.parse({ ...track, level: -6.0206 })))
    expect(level()).toBeCloseTo(0.5, 4)
    expect(stage.doc().track.get('t-a')?.level).toBe(0)
    stage.store.dispatch(viewActions.pull(null))
    expect(level()).toBe(1)
  })

  it('is an earlier balance while that is heard, at the level that makes it as loud', () => {
    const then = after(reel, editTrack(reel, { id: 't-a', fields: { level: -20 } }))
    const compared = { name: 'Before', seq: 1, then, heard: true, db: 6.0206 }
    stage.store.dispatch(viewActions.compare(compared))
    expect(stage.engine.plan.strips[0]?.level).toBeCloseTo(0.1, 4)
    expect(stage.engine.plan.gain).toBeCloseTo(2, 4)
    stage.store.dispatch(viewActions.compare({ ...compared, heard: false }))
    expect([stage.engine.plan.strips[0]?.level, stage.engine.plan.gain]).toEqual([1, 1])
  })

  it('follows no more once it has ended', () => {
    kept.end()
    const { length } = stage.engine.plans
    stage.does((doc) => shapeClips(doc, { ids: ['a'], gainBy: 3 }))
    expect(stage.engine.plans).toHaveLength(length)
  })
})

import {
  clipsByGroup,
  spotCue,
  syncPlace,
  type FoundLayers,
  type StackLayer,
  type StackPlan,
} from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { after } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { stackActions, variationsListed } from '../document/stackSlice.js'
import { stackTriedIn } from '../document/tried.js'
import { viewActions } from '../document/viewSlice.js'
import { followPlan } from '../session/followPlan.js'
import { setStage, type Stage } from '../test/stage.js'
import { stackLookOf } from '../sheet/stackLook.js'

const layer = (id: string, fields: Partial<StackLayer> = {}): StackLayer => ({
  ...{ id, name: id, category: 'FX', source: { of: 'search', what: id, called: '' }, seconds: [0, 60] },
  ...{
    lies: 'sync',
    later: [0, 0],
    gain: [-6, 0],
    pitch: [-1, 1],
    tempo: [1, 1],
    fadeIn: null,
    fadeOut: null,
  },
  ...{ reverse: 0, there: 1 },
  ...fields,
})
const plan: StackPlan = {
  ...{ id: '00000000-0000-4000-8000-000000000001', version: 1, name: 'Thud' },
  layers: [layer('hit'), layer('tail', { lies: 'begins', later: [0.1, 0.5] }), layer('low')],
}
const sounds = (name: string) =>
  Array.from({ length: 9 }, (_, index) => ({
    ...{ id: `${name}${index}`, name: `${name} ${index}`, length: 40_000 + index * 3000, sync: 6000 },
    ...{ part: null, weight: 1 },
  }))
const found: FoundLayers = { hit: sounds('hit'), tail: sounds('tail'), low: sounds('low') }
const SYNC = 100 * 2000

let stage: Stage
const { fetch } = globalThis
const stacking = () => stage.store.getState().stacking
const stackIds = () => [...stage.doc().stack.keys()]
const layersOf = (id = stackIds()[0] ?? '') => clipsByGroup(stage.doc()).get(id) ?? []
const tell = (...actions: Parameters<Stage['store']['dispatch']>[0][]): void =>
  actions.forEach((action) => stage.store.dispatch(action))

beforeEach(() => {
  const cue = spotCue(testReel(), { id: 'q', category: 'FX', in: 100, out: 150, words: 'Door slams' })
  stage = setStage(after(testReel(), cue))
  tell(stackActions.choosePlan(plan.id), stackActions.setPlan(plan), stackActions.setFound(found))
})
afterEach(() => Object.assign(globalThis, { fetch }))

/** The first variation, kept on the cue. */
function keep(): void {
  tell(viewActions.select(['q']))
  stage.commands.stacks.step(1)
  stage.commands.stacks.here()
  stage.commands.stacks.keep()
}

describe('looking through variations', () => {
  it('hears them by themselves, tries them on the cue once one is tried, and keeps what is heard as one step', () => {
    const { stacks } = stage.commands
    const { end } = followPlan(stage.store, stage.engine.asEngine())
    tell(viewActions.select(['q']))
    stacks.step(1)
    expect([stacking().chosen?.seed, stacking().place]).toEqual([1, null])
    stacks.here()
    const tried = stackTriedIn(stage.doc(), stacking())
    expect([tried?.clips.length, stage.doc().clip.size]).toEqual([3, 0])
    stage.commands.doing.step(1)
    expect(stacking().chosen?.seed).toBe(2)
    const heard = stackTriedIn(stage.doc(), stacking())?.clips.map(({ soundId, start, gain }) => [
      soundId,
      start,
      gain,
    ])
    expect(stage.engine.plan.strips.flatMap(({ voices }) => voices.map(({ start }) => start)).sort()).toEqual(
      heard?.map(([, start]) => start).sort(),
    )
    end()
    stage.commands.doing.enter()
    expect(
      layersOf()
        .map(({ soundId, start, gain }) => [soundId, start, gain])
        .sort(),
    ).toEqual(heard?.sort())
    expect(layersOf().every(({ cueId }) => cueId === 'q')).toBe(true)
    expect([...stage.doc().stack.values()]).toMatchObject([{ name: 'Thud', planId: plan.id, variation: '2' }])
    expect([stacking().place, stage.selected()]).toEqual([null, layersOf().map(({ id }) => id)])
    stage.commands.undo()
    expect([stage.doc().clip.size, stage.doc().stack.size, stage.doc().track.size]).toEqual([0, 0, 0])
  })
  it('are put back without a trace', () => {
    stage.commands.stacks.step(1)
    stage.commands.stacks.here()
    stage.commands.doing.leave()
    expect([stacking().place, stackTriedIn(stage.doc(), stacking()), stage.doc().clip.size]).toEqual([
      null,
      null,
      0,
    ])
  })
  it('shakes the others while some are held', () => {
    stage.commands.stacks.step(1)
    const held = () =>
      stackTriedIn(stage.doc(), stacking())?.clips.find(({ soundId }) => soundId.startsWith('hit'))
    stage.commands.stacks.here()
    const first = held()
    tell(stackActions.toggleHeld('hit'), stackActions.shake())
    const all = new Set<string>()
    for (const one of variationsListed(stacking()).slice(0, 20)) {
      stage.commands.stacks.choose(one)
      expect(held()).toEqual(first)
      all.add(JSON.stringify(stackTriedIn(stage.doc(), stacking())?.clips.map(({ soundId }) => soundId)))
    }
    expect([stacking().from, all.size > 10]).toEqual([101, true])
  })
  it('says why there is nothing: no plan, no sound for any layer', () => {
    tell(stackActions.setFound({ hit: [], tail: [], low: [] }))
    stage.commands.stacks.step(1)
    expect(stage.told()).toBe('None of the layers of Thud finds a sound.')
    stage.commands.stacks.here()
    expect([stage.told(), stacking().place]).toEqual([
      'Thud: nothing of it would be laid (none of its layers finds a sound).',
      null,
    ])
    tell(stackActions.setPlan(null))
    stage.commands.stacks.here()
    expect(stage.told()).toBe('Choose a plan under Stacks, and one of its variations.')
  })
})

describe('a stack on the Sheet', () => {
  beforeEach(keep)

  it('gives its place to the next variation, and to the one before', async () => {
    const before = layersOf().map(({ soundId }) => soundId)
    stage.commands.shape.gainBy(-5)
    await stage.commands.swap.forNext(1)
    expect(stage.doc().stack.get(stackIds()[0] ?? '')?.variation).toBe('2')
    expect(layersOf().map(({ soundId }) => soundId)).not.toEqual(before)
    expect(layersOf().some((clip) => syncPlace(clip) === SYNC)).toBe(true)
    expect(layersOf().every(({ gain }) => gain <= -5 && gain >= -11)).toBe(true)
    expect(stage.selected()).toEqual(layersOf().map(({ id }) => id))
    await stage.commands.swap.forNext(-1)
    expect(layersOf().map(({ soundId }) => soundId)).toEqual(before)
  })
  it('whose plan is gone, or that was stacked by hand, says so', async () => {
    tell(stackActions.choosePlan(null))
    globalThis.fetch = () => Promise.resolve(Response.json([]))
    const { Request: Plain } = globalThis
    // Outside of a browser a request needs its host said.
    globalThis.Request = class extends Plain {
      constructor(input: RequestInfo | URL, init?: RequestInit) {
        super(typeof input === 'string' ? new URL(input, 'http://yodel') : input, init)
      }
    }
    await stage.commands.swap.forNext(1)
    expect(stage.told()).toBe('The plan of Thud is gone, so it has no other variations.')
    globalThis.Request = Plain
    stage.commands.shape.ungroup()
    expect([stage.doc().stack.size, stage.doc().clip.size]).toEqual([0, 3])
    stage.commands.shape.stack()
    expect([...stage.doc().stack.values()]).toMatchObject([{ name: 'Door slams', planId: '' }])
    await stage.commands.stacks.swap(1)
    expect(stage.told()).toBe('Door slams was stacked by hand: it has no variations.')
  })
  it('is drawn as its longest layer while it is closed, and layer by layer once it is opened', () => {
    const looks = () =>
      layersOf().map((clip) => stackLookOf(stage.doc(), clip, stage.store.getState().view.openStacks))
    const longest = layersOf().reduce((a, b) => (b.length > a.length ? b : a))
    expect(layersOf().filter((_, index) => looks()[index]?.leads)).toEqual([longest])
    stage.commands.stacks.open()
    expect(looks()).toEqual([null, null, null])
    tell(viewActions.select([]))
    stage.commands.stacks.open()
    expect(stage.told()).toBe('Select a stack first; then it can be opened to its layers.')
  })
})

import { frames, frameToSample, FRAME_RATES, type Pool } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { keptTakes, performActions } from '../document/performSlice.js'
import { rememberTakesOf } from '../session/rememberTakes.js'
import { setStage, settle, type Stage } from '../test/stage.js'

const sampleOf = (frame: number): number => frameToSample(frames(frame), FRAME_RATES['24'])
const FRAME = sampleOf(1)
const boots: Pool = {
  ...{ id: 'p1', key: 0, name: 'Boots', category: 'FOL', pick: 'order', held: false, gain: [0, 0] },
  ...{ pitch: [0, 0], members: ['b1', 'b2'].map((id) => ({ soundId: id, name: id, part: null, weight: 1 })) },
}
const rain: Pool = { ...boots, id: 'p2', key: 3, name: 'Rain', category: 'BG', held: true }
const sounds = Object.fromEntries(
  ['b1', 'b2'].map((id) => [id, { id, name: id, length: 9600, sync: 480 }] as const),
)

let stage: Stage
const perform = () => stage.store.getState().perform
const hitsOf = (take = 0) => perform().takes[take]?.hits.map(({ at }) => at / FRAME) ?? []
/** Plays from a frame and hits some keys, each so many frames after the one before. */
async function run(from: number, presses: readonly (readonly [key: number, after: number])[]): Promise<void> {
  stage.transport.goToFrame(from)
  stage.transport.play()
  await settle()
  for (const [key, after] of presses) {
    stage.clock.pass((after * 1000) / 24)
    stage.commands.perform.hit(key)
  }
  stage.transport.stop()
}

beforeEach(() => {
  stage = setStage()
  stage.store.dispatch(performActions.begin([]))
  stage.store.dispatch(performActions.setPools({ pools: [boots, rain], sounds }))
})

describe('performing', () => {
  it('remembers each hit with the frame that is seen, and hears it at once; a stop makes it a take', async () => {
    await run(100, [
      [0, 12],
      [0, 12],
      [0, 6],
    ])
    expect(stage.hits.played.map(({ soundId }) => soundId)).toEqual(['b1', 'b2', 'b1'])
    // A refresh is on its way while a key goes down: what is seen, is what counts.
    const [first = 0, second = 0, third = 0] = hitsOf()
    expect([second - first, third - second]).toEqual([12, 6])
    expect(Math.abs(first - 112)).toBeLessThanOrEqual(1)
    expect([perform().current, perform().chosen]).toEqual([[], perform().takes[0]?.id])
    expect(stage.doc().clip.size).toBe(setStage().doc().clip.size)
  })
  it('only hears what is hit while nothing rolls', () => {
    stage.commands.perform.hit(0)
    expect([stage.hits.played.length, perform().current, perform().takes]).toEqual([1, [], []])
  })
  it('is louder the harder a pad is hit', () => {
    for (const velocity of [127, 64]) stage.commands.perform.hit(0, velocity)
    expect(stage.hits.played.map(({ gain }) => gain)).toEqual([0, -11.9])
  })
  it('ends what is held when its key is let go, and knows how long that was', async () => {
    stage.transport.play()
    await settle()
    const release = stage.commands.perform.hit(3)
    stage.clock.pass(250)
    release?.()
    expect(stage.hits.played[0]?.ended).toBe(true)
    stage.transport.stop()
    expect(perform().takes[0]?.hits[0]?.length).toBe(12_000)
  })
  it('says what can’t be hit: nothing on the key, nothing that may be picked, gone, not loaded', () => {
    expect(stage.commands.perform.hit(9)).toBeUndefined()
    stage.hits.ready = false
    stage.commands.perform.hit(0)
    expect(stage.told()).toBe('b1 is not loaded yet.')
    stage.store.dispatch(performActions.setPools({ pools: [boots], sounds: {} }))
    stage.commands.perform.hit(0)
    expect(stage.told()).toMatch(/^The recording of b\d is gone\.$/)
    stage.store.dispatch(performActions.setPools({ pools: [{ ...boots, members: [] }], sounds }))
    stage.commands.perform.hit(0)
    expect(stage.told()).toBe('Boots holds nothing that may be picked.')
  })
  it('takes off how late a hand is, once that was measured against onsets', async () => {
    stage.session.marks.current = { onsets: [110, 122, 134, 146, 158, 170].map(frames), cuts: [] }
    stage.commands.perform.measureLag()
    expect(stage.told()).toContain('Hit at least 5 times')
    await run(100, [[0, 13], ...Array.from({ length: 5 }, () => [0, 12] as const)])
    const late = Math.round((((hitsOf()[0] ?? 0) - 110) * 1000) / 24)
    stage.commands.perform.measureLag()
    expect(Math.abs(perform().lag - late)).toBeLessThanOrEqual(1)
    await run(100, [[0, 13]])
    expect(Math.abs((hitsOf(1)[0] ?? 0) - 110)).toBeLessThan(0.05)
  })
})

describe('a take', () => {
  beforeEach(() =>
    run(100, [
      [0, 10],
      [0, 1],
      [0, 11],
    ]),
  )
  it('is moved, thinned, pulled and softened; what is switched off is not kept', () => {
    const [first = 0] = hitsOf()
    stage.commands.perform.shift({ frames: -2, tenths: 5 })
    expect(hitsOf()[0]).toBeCloseTo(first - 1.5, 3)
    stage.commands.perform.thin(3)
    expect(hitsOf()).toHaveLength(2)
    stage.session.marks.current = { onsets: [Math.round(first)].map(frames), cuts: [] }
    stage.commands.perform.pull('onsets', 4)
    expect(hitsOf()[0]).toBe(Math.round(first))
    stage.commands.perform.soften(-3)
    expect(perform().takes[0]?.hits.map(({ gain }) => gain)).toEqual([0, -3])
    stage.commands.perform.setOn(perform().takes[0]?.id ?? '', false)
    stage.commands.perform.keep('run', 'Walks')
    expect(stage.told()).toContain('There is nothing to keep')
  })
  it('is kept as one step, with its cue, on the frames that were seen, and taken back as one', () => {
    const before = stage.doc()
    const places = hitsOf()
    stage.commands.perform.keep('run', 'Walks up')
    const fresh = [...stage.doc().clip.values()].filter(({ id }) => !before.clip.has(id))
    expect(
      fresh.map(({ start, sync, offset }) => (start + sync - offset) / FRAME).toSorted((a, b) => a - b),
    ).toEqual(places)
    const cues = [...stage.doc().cue.values()].filter(({ id }) => !before.cue.has(id))
    expect(cues).toMatchObject([{ words: 'Walks up', category: 'FOL', in: Math.floor(places[0] ?? 0) }])
    expect(perform().takes).toEqual([])
    stage.commands.undo()
    expect(stage.doc().clip.size).toBe(before.clip.size)
  })
  it('is replaced only where it is performed anew', async () => {
    const old = hitsOf()
    stage.store.dispatch(performActions.setPunch(true))
    await run(100, [
      [0, 20],
      [0, 4],
    ])
    expect(perform().takes).toHaveLength(1)
    expect(hitsOf().slice(0, 2)).toEqual(old.slice(0, 2))
    expect(hitsOf()).toHaveLength(4)
  })
  it('outlives its page, also while it is being performed', async () => {
    const end = rememberTakesOf(stage.store, 'r')
    stage.transport.play()
    await settle()
    stage.commands.perform.hit(0)
    const left = keptTakes('r')
    expect(left.map(({ hits }) => hits.length)).toEqual([3, 1])
    stage.store.dispatch(performActions.begin(left))
    expect([perform().on, perform().takes.length]).toEqual([true, 2])
    for (const { id } of perform().takes) stage.commands.perform.drop(id)
    expect(keptTakes('r')).toEqual([])
    end()
  })
})

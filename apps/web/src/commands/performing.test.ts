import { frames, frameToSample, FRAME_RATES, type Pool } from '@yodel/core'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { performActions } from '../document/performSlice.js'
import { rememberTakes } from '../session/rememberTakes.js'
import { installStorage, setStage, settle, type Stage } from '../test/stage.js'

const sampleOf = (frame: number): number => frameToSample(frames(frame), FRAME_RATES['24'])
const FRAME = sampleOf(1)
const boots: Pool = {
  ...{
    id: 'p1',
    version: 1,
    key: 0,
    name: 'Boots',
    category: 'FOL',
    pick: 'order',
    held: false,
    gain: [0, 0],
  },
  ...{
    live: '',
    pitch: [0, 0],
    members: ['b1', 'b2'].map((id) => ({ soundId: id, name: id, part: null, weight: 1 })),
  },
}
const rain: Pool = { ...boots, id: 'p2', key: 3, name: 'Rain', category: 'BG', held: true }
const soundOf = (id: string) => ({ id, name: id, length: 9600, sync: 480 })
const sounds = { b1: soundOf('b1'), b2: soundOf('b2') }

let stage: Stage
/** What the server says when it is asked for both recordings. */
const knows = (...ids: ('b1' | 'b2')[]): unknown =>
  stage.store.dispatch(performActions.setSounds({ asked: ['b1', 'b2'], found: ids.map((id) => sounds[id]) }))
let kept: Map<string, string>
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
  kept = installStorage()
  stage.store.dispatch(performActions.begin())
  stage.store.dispatch(performActions.setPools([boots, rain]))
  knows('b1', 'b2')
  stage.commands.perform.toggle()
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
  it('ends what is held when its key is let go, or the reel stops: on the frame that is seen, however slowly it rolls', async () => {
    stage.transport.setSpeed(0.5)
    stage.transport.goToFrame(100)
    stage.transport.play()
    await settle()
    stage.clock.pass(100)
    const release = stage.commands.perform.hit(3)
    stage.clock.pass(1000)
    release?.()
    expect(stage.hits.played[0]?.ended).toBe(true)
    stage.commands.perform.hit(3)
    stage.clock.pass(500)
    stage.transport.stop()
    const lengths = perform().takes[0]?.hits.map(({ length }) => (length ?? 0) / FRAME) ?? []
    expect(Math.abs((lengths[0] ?? 0) - 12)).toBeLessThanOrEqual(1)
    expect(Math.abs((lengths[1] ?? 0) - 6)).toBeLessThanOrEqual(1)
    expect(perform().takes[0]?.rolled).toBe(0.5)
  })
  it('says what can’t be hit: nothing on the key, nothing that may be picked, gone, not loaded', () => {
    expect(stage.commands.perform.hit(9)).toBeUndefined()
    stage.hits.ready = false
    stage.commands.perform.hit(0)
    expect(stage.told()).toBe('b1 is not loaded yet.')
    knows()
    stage.commands.perform.hit(0)
    expect(stage.told()).toMatch(/^The recording of b\d is gone\.$/)
    stage.store.dispatch(performActions.setPools([{ ...boots, members: [] }]))
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
    // The take has it taken off as well: measured once more, the hand is as late as it is.
    expect(Math.abs((hitsOf()[0] ?? 0) - 110)).toBeLessThan(0.05)
    stage.commands.perform.measureLag()
    expect(Math.abs(perform().lag - late)).toBeLessThanOrEqual(1)
    await run(100, [[0, 13]])
    expect(Math.abs((hitsOf(1)[0] ?? 0) - 110)).toBeLessThan(0.05)
    // The same hand is as late when the reel rolls at half speed, which is half as many frames.
    stage.transport.setSpeed(0.5)
    const { lag } = perform()
    await run(100, [[0, 20]])
    const shown = hitsOf(2)[0] ?? 0
    expect(Math.abs(shown + (lag * 24) / 1000 / 2 - 110)).toBeLessThanOrEqual(1)
  })
})

describe('the exercise', () => {
  const STEPS = [110, 122, 134, 146, 158, 170, 182, 194, 206]
  /** Lets the reel roll up to each step and a bit further, and hits. */
  function hitSteps(steps: readonly number[], lateMs: number): void {
    for (const step of steps) {
      const now = stage.transport.sample / FRAME
      stage.clock.pass(((step - now) * 1000) / 24 / stage.transport.speed + lateMs)
      stage.commands.perform.hit(3)
    }
  }
  it('rolls ten seconds in which something happens, and says how late the hand is; nothing is a take or taken off unasked', async () => {
    stage.session.marks.current = { onsets: STEPS.map(frames), cuts: [] }
    stage.transport.goToFrame(40)
    stage.commands.perform.beginExercise()
    await settle()
    expect(stage.transport.frame).toBe(74)
    hitSteps(STEPS, 80)
    expect(perform().exercise).toMatchObject({ state: 'running', hits: { length: 9 } })
    stage.clock.pass(12_000)
    stage.clock.pass(20)
    const { exercise } = perform()
    const lag = exercise?.state === 'done' ? exercise.lag : null
    expect([stage.transport.rolling, lag?.hits, perform().takes, perform().lag]).toEqual([false, 9, [], 0])
    // What is seen is a whole frame, so a step is told to 42 ms.
    expect(Math.abs((lag?.ms ?? 0) - 80)).toBeLessThanOrEqual(42)
    stage.commands.perform.takeLag(lag)
    expect([perform().exercise, perform().lag]).toEqual([null, Math.round(lag?.ms ?? 0)])
  })
  it('says so where nothing happens, and where too little was hit; it can be left', async () => {
    stage.commands.perform.beginExercise()
    expect([stage.told(), perform().exercise]).toEqual([
      expect.stringContaining('Nowhere in this reel'),
      null,
    ])
    stage.session.marks.current = { onsets: STEPS.map(frames), cuts: [] }
    stage.commands.perform.beginExercise()
    await settle()
    hitSteps(STEPS.slice(0, 2), 60)
    stage.transport.stop()
    expect(perform().exercise).toEqual({ state: 'done', lag: null })
    stage.commands.perform.leaveExercise()
    expect([perform().exercise, perform().lag]).toEqual([null, 0])
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
  it('is what was hit, whatever becomes of its pool afterwards; recordings that are gone are named', () => {
    const places = hitsOf()
    stage.store.dispatch(performActions.setPools([]))
    const before = stage.doc()
    knows('b1')
    stage.commands.perform.keep('none', '')
    expect(stage.told()).toContain('These recordings are gone, and can’t be laid: b2.')
    expect(stage.doc()).toBe(before)
    knows('b1', 'b2')
    stage.commands.perform.keep('none', '')
    const fresh = [...stage.doc().clip.values()].filter(({ id }) => !before.clip.has(id))
    expect(fresh.map(({ soundId }) => soundId).toSorted()).toEqual(['b1', 'b1', 'b2'])
    expect(fresh).toHaveLength(places.length)
  })
  it('outlives its page, also while it is being performed; no page takes those of another that lives', async () => {
    const held = new Set<string>()
    const locks = {
      request: (name: string, act: () => unknown) => (held.add(name), Promise.resolve(act())),
      query: () => Promise.resolve({ held: [...held].map((name) => ({ name })) }),
    }
    vi.stubGlobal('navigator', { locks })
    const begin = (): (() => void) =>
      rememberTakes(
        stage.store,
        'r',
        () => 1,
        () => undefined,
      )
    const end = begin()
    stage.transport.play()
    await settle()
    stage.commands.perform.hit(0)
    end()
    // Another page begins with nothing of its own: first that one lives, then it has gone.
    const [own = ''] = [...kept.keys()].filter((key) => key.startsWith('yodel-takes:r:'))
    const other = 'yodel-takes:r:another page'
    kept.set(other, kept.get(own) ?? '')
    kept.delete(own)
    for (const [lives, takes] of [
      [true, []],
      [false, [3, 1]],
    ] as const) {
      held.clear()
      if (lives) held.add(other)
      stage.store.dispatch(performActions.begin())
      const stop = begin()
      await settle()
      await settle()
      expect(perform().takes.map(({ hits }) => hits.length)).toEqual(takes)
      stop()
    }
    expect(kept.has(other)).toBe(false)
    const last = begin()
    for (const { id } of perform().takes) stage.commands.perform.drop(id)
    expect([...kept.keys()].filter((key) => key.startsWith('yodel-takes:'))).toEqual([])
    last()
    vi.unstubAllGlobals()
  })
})

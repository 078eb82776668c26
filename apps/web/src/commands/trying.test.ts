import { shortlistOf, shortlistSound, spotCue, UNPREPARED, type Sound } from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { after, placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { api } from '../api/api.js'
import { searchActions } from '../document/searchSlice.js'
import { preparationToKeep, tryActions } from '../document/trySlice.js'
import { viewActions, type PaneName } from '../document/viewSlice.js'
import type { PickSound } from '../session/Parts.js'
import { setStage, settle, type Stage } from '../test/stage.js'

const sound = (id: string): Sound =>
  ({
    ...{ id, name: id, path: `${id}.wav`, length: 48_000, sync: 12_000, channels: 2, category: 'Levers' },
    ...{ description: '', keywords: '', loudness: -20, measured: true, weight: 50, events: 1 },
  }) as Sound

const NO_PART = { in: null, out: null, sync: null }
const reel = (() => {
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

/** What the server would answer, by the beginning of what it is asked; what is asked is kept. */
const asked: string[] = []
const answers = new Map<string, unknown>()
const { fetch, Request: PlainRequest } = globalThis
beforeEach(() => {
  asked.length = 0
  answers.clear()
  // Outside of a browser a request needs its host said.
  globalThis.Request = class extends PlainRequest {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(typeof input === 'string' ? new URL(input, 'http://yodel') : input, init)
    }
  }
  globalThis.fetch = async (input) => {
    const url = new URL(input instanceof PlainRequest ? input.url : String(input), 'http://yodel')
    asked.push(url.pathname + url.search)
    const key = [...answers.keys()].find((start) => (url.pathname + url.search).startsWith(start))
    await Promise.resolve()
    return key === undefined ? new Response('{}', { status: 404 }) : Response.json(answers.get(key))
  }
  stage = setStage(reel)
})
afterEach(() => {
  Object.assign(globalThis, { fetch, Request: PlainRequest })
})

let stage: Stage
const trying = () => stage.store.getState().trying
const choose = (id: string): void => void stage.store.dispatch(tryActions.choose(sound(id)))
const select = (...ids: string[]): void => void stage.store.dispatch(viewActions.select(ids))
const until = async (holds: () => boolean): Promise<void> => {
  for (let tries = 0; tries < 50 && !holds(); tries++) await settle()
  expect(holds()).toBe(true)
}

describe('trying in place', () => {
  it('needs a sound, and goes round the moment of the selected cue', async () => {
    stage.commands.tries.here()
    expect(stage.told()).toMatch(/Choose a sound first/)
    select('q')
    choose('bell')
    stage.commands.tries.here()
    await settle()
    expect(trying().place).toEqual({ cueId: 'q', frame: 100 })
    // Three quarters of a second before the sound begins, a quarter after the cue ends.
    expect(stage.transport.loop).toEqual({ from: 200_000 - 12_000 - 36_000, to: 300_000 + 12_000 })
    expect(stage.transport.rolling).toBe(true)
    expect(stage.commands.tries.isTrying()).toBe(true)
  })

  it('goes round the frame that it is tried on, however early the sound begins before it', () => {
    stage.transport.goToFrame(900)
    stage.store.dispatch(tryActions.choose({ ...sound('train'), length: 960_000, sync: 480_000 }))
    stage.commands.tries.here()
    expect(stage.transport.loop).toEqual({ from: 1_800_000 - 144_000, to: 1_800_000 + 144_000 })
  })

  it('has a background begin and end with its cue', () => {
    stage = setStage(after(reel, spotCue(reel, { id: 'bg', category: 'BG', in: 300, out: 324 })))
    select('bg')
    stage.store.dispatch(tryActions.choose({ ...sound('rain'), length: 960_000, sync: 480_000 }))
    stage.commands.tries.here()
    stage.commands.tries.keep()
    const [id = ''] = stage.selected()
    expect(stage.doc().clip.get(id)).toMatchObject({ start: 600_000, length: 48_000, offset: 0 })
  })

  it('is for the same cue right after keeping, until the gate is moved', () => {
    select('q')
    choose('bell')
    stage.commands.tries.here()
    stage.commands.tries.keep()
    choose('gong')
    stage.commands.tries.here()
    stage.commands.tries.keep()
    const kept = stage.doc().clip.get(stage.selected()[0] ?? '')
    expect([kept?.soundId, kept?.cueId]).toEqual(['gong', 'q'])
    stage.transport.goToFrame(130)
    choose('bell')
    stage.commands.tries.here()
    expect(trying().place).toEqual({ cueId: null, frame: 130 })
  })

  it('tries the next one where the one before was, and keeps what is heard, once', async () => {
    stage.transport.goToFrame(900)
    choose('bell')
    stage.commands.tries.here()
    await settle()
    stage.clock.pass(700)
    choose('gong')
    stage.commands.tries.here()
    expect(trying().place).toEqual({ cueId: null, frame: 900 })
    stage.commands.tries.keep()
    const [id = ''] = stage.selected()
    expect(stage.doc().clip.get(id)).toMatchObject({ soundId: 'gong', start: 900 * 2000 - 12_000 })
    expect([trying().place, stage.transport.loop, stage.transport.frame]).toEqual([null, null, 900])
    stage.commands.tries.keep()
    expect(stage.store.getState().document.pending).toHaveLength(1)
  })

  it('holds a layer and tries another beside it; both are kept as one group', () => {
    select('q')
    stage.commands.tries.hold()
    expect(stage.told()).toMatch(/Try a sound first/)
    choose('bell')
    stage.commands.tries.here()
    stage.commands.tries.hold()
    stage.commands.tries.hold()
    expect(stage.told()).toMatch(/bell is held already/)
    choose('gong')
    stage.commands.tries.here()
    stage.commands.tries.keep()
    const kept = stage.selected().map((id) => stage.doc().clip.get(id))
    expect(kept.map((clip) => clip?.soundId)).toEqual(['bell', 'gong'])
    expect(new Set(kept.map((clip) => clip?.group)).size).toBe(1)
  })

  it('asks for the best result where none is chosen, and knows what is done with until another is chosen', () => {
    const picked: unknown[] = []
    const found = [sound('gong'), sound('bell')]
    const tryFirst = (pick: PickSound): void => void picked.push(pick(found)?.id, pick([]))
    stage.session.parts.offer('results', { tryFirst, leave: () => undefined } as never)
    select('q')
    stage.commands.tries.here()
    expect([picked, stage.told()]).toEqual([[], expect.stringMatching(/Choose a sound first/)])
    stage.store.dispatch(searchActions.search({ query: 'bell' }))
    stage.commands.tries.here()
    expect(picked).toEqual(['gong', undefined])
    choose('bell')
    stage.commands.tries.here()
    stage.commands.tries.keep()
    expect(trying()).toMatchObject({ done: true, place: null, held: [], sound: { id: 'bell' } })
    choose('gong')
    expect(trying().done).toBe(false)
    stage.commands.tries.here()
    stage.commands.tries.putBack()
    expect(trying().done).toBe(true)
  })

  it('of a row takes the one event that the cue has room for, the whole where it was asked for', async () => {
    answers.set('/api/sounds/row/events', {
      ...{
        byHand: false,
        events: [
          [0, 4000, 90_000],
          [480_000, 484_000, 570_000],
        ],
      },
    })
    const row = { ...sound('row'), events: 2, length: 960_000 }
    stage = setStage(after(reel, spotCue(reel, { id: 'long', category: 'FX', in: 300, out: 700 })))
    select('q')
    stage.store.dispatch(tryActions.choose(row))
    stage.commands.tries.here()
    await until(() => trying().place !== null)
    expect(trying()).toMatchObject({ event: 0, prepared: { in: 0, sync: 4000, out: 90_000 } })
    // Nobody chose it: on a cue with room for both it is the whole, and it is not remembered with the sound.
    expect(preparationToKeep(trying())).toEqual(UNPREPARED)
    stage.commands.tries.putBack()
    select('long')
    stage.commands.tries.here()
    await until(() => trying().place !== null)
    expect(trying()).toMatchObject({ event: null, prepared: UNPREPARED, place: { cueId: 'long' } })
    stage.commands.tries.putBack()
    select('q')
    stage.store.dispatch(tryActions.takeEvent(null))
    stage.commands.tries.here()
    expect(trying()).toMatchObject({ event: null, place: { cueId: 'q' }, prepared: { in: null, out: null } })
    // Something else is chosen before the events are there.
    stage.commands.tries.putBack()
    stage.store.dispatch(tryActions.choose({ ...row, id: 'other row' }))
    stage.commands.tries.here()
    choose('bell')
    await settle()
    expect(trying()).toMatchObject({ sound: { id: 'bell' }, event: null, place: null })
  })

  it('puts back without a trace, and gives the keyboard to the Sheet', () => {
    let left = 0
    stage.session.parts.offer('results', { leave: () => void left++ } as never)
    select('q')
    choose('bell')
    stage.commands.tries.here()
    stage.commands.doing.leave()
    expect([left, trying().place, stage.doc(), stage.selected()]).toEqual([1, null, reel, ['q']])
    stage.commands.doing.leave()
    expect(stage.selected()).toEqual([])
  })
})

describe('keys that depend on what one is doing', () => {
  it('step through frames; while trying, through the results', () => {
    const steps: number[] = []
    stage.session.parts.offer('results', { step: (by: number) => void steps.push(by) } as never)
    stage.commands.doing.step(1)
    expect(stage.transport.frame).toBe(1)
    choose('bell')
    stage.commands.tries.here()
    stage.commands.doing.step(1)
    stage.commands.doing.step(-1)
    expect(steps).toEqual([1, -1])
  })

  it('type the words of the cue; while trying, keep', () => {
    select('q')
    stage.commands.doing.enter()
    expect(stage.store.getState().view.typing).toBe('q')
    choose('bell')
    stage.commands.tries.here()
    stage.commands.doing.enter()
    expect(stage.doc().clip.size).toBe(2)
  })

  it('search, also while the balance stands in the place of the sounds', () => {
    let focused = 0
    const pane = () => stage.store.getState().view.pane
    stage.commands.look.pane('balance')
    expect(pane()).toBe('balance')
    stage.commands.look.search()
    expect(pane()).toBe('sounds')
    stage.session.parts.offer('search', { focus: () => void focused++ })
    expect(focused).toBe(1)
    stage.commands.look.search()
    expect([focused, pane()]).toEqual([2, 'sounds'])
  })
})

describe('the shortlist', () => {
  it('takes the chosen sound as it is prepared', () => {
    stage.commands.shortlist.add()
    expect(stage.told()).toBe('Choose a sound first.')
    choose('bell')
    stage.commands.shortlist.add()
    expect(stage.told()).toMatch(/Select a cue first/)
    select('q')
    stage.store.dispatch(tryActions.prepare({ in: 100, out: 900 }))
    stage.commands.shortlist.add()
    expect(shortlistOf(stage.doc(), 'q').at(-1)).toMatchObject({
      soundId: 'bell',
      in: 100,
      out: 900,
      sync: null,
    })
    stage.commands.shortlist.add()
    expect(stage.told()).toMatch(/bell: nothing was changed .it is on the shortlist of FX 001 already/)
    // It did not come from the list: the next one is the next result.
    stage.commands.tries.here()
    expect(stage.commands.shortlist.tryBeside(1)).toBe(false)
  })

  it('is tried one after the other, round and round, the next one made ready', async () => {
    answers.set('/api/sounds/by-ids', [sound('one'), sound('two')])
    select('q')
    stage.commands.shortlist.tryNext()
    await until(() => trying().sound?.id === 'one')
    expect(stage.engine.prepared.at(-1)?.id).toBe('two')
    expect(stage.commands.shortlist.tryBeside(1)).toBe(true)
    await until(() => trying().sound?.id === 'two')
    stage.commands.doing.step(1)
    await until(() => trying().sound?.id === 'one')
    stage.commands.tries.putBack()
    select('a')
    stage.commands.shortlist.tryNext()
    expect(stage.told()).toMatch(/no shortlist yet/)
  })

  it('has its sounds also where all sounds are asked for anew before it is answered', async () => {
    answers.set('/api/sounds/by-ids', [sound('one'), sound('two')])
    select('q')
    stage.commands.shortlist.tryNext()
    stage.store.dispatch(api.util.invalidateTags(['Sounds']))
    await until(() => trying().sound?.id === 'one')
  })

  it('says when a sound of it is on no shelf any more', async () => {
    answers.set('/api/sounds/by-ids', [])
    select('q')
    stage.commands.shortlist.tryNext()
    await until(() => stage.told() === 'one is on no shelf any more.')
  })
})

describe('swapping', () => {
  it('puts the chosen sound in the place of the selected ones', () => {
    stage.commands.swap.forChosen()
    expect(stage.told()).toMatch(/Choose a sound in the pane/)
    choose('bell')
    stage.commands.swap.forChosen()
    expect(stage.told()).toMatch(/then it can be swapped/)
    select('a')
    stage.commands.swap.forChosen()
    expect(stage.doc().clip.get('a')).toMatchObject({ soundId: 'bell', start: 800_000 - 12_000 })
  })

  it('goes on to the next event of the same recording, round and round', async () => {
    const events = [
      [0, 1000, 20_000],
      [24_000, 25_000, 40_000],
    ]
    answers.set('/api/sounds/s/events', { events, edited: false })
    select('a')
    await stage.commands.swap.forNext(1)
    expect(stage.doc().clip.get('a')).toMatchObject({ offset: 24_000, sync: 25_000, length: 16_000 })
    await stage.commands.swap.forNext(1)
    expect(stage.doc().clip.get('a')).toMatchObject({ offset: 0, sync: 1000 })
    select()
    await stage.commands.swap.forNext(1)
    expect(stage.told()).toMatch(/played straight on/)
  })

  it('takes what is like it, but lighter, and says when nothing is', async () => {
    answers.set('/api/sounds/s', { ...sound('s'), weight: 50 })
    answers.set('/api/sounds?', {
      sounds: [{ ...sound('s') }, { ...sound('near'), weight: 49 }, { ...sound('light'), weight: 30 }],
    })
    select('a')
    await stage.commands.swap.forAlike('lighter')
    expect(stage.doc().clip.get('a')?.soundId).toBe('light')
    answers.set('/api/sounds/light', { ...sound('light'), weight: 99 })
    await stage.commands.swap.forAlike('heavier')
    expect(stage.told()).toBe('Nothing like it on the shelves is heavier.')
  })
})

describe('the events of a long recording', () => {
  const events = [0, 1, 2].map((at) => [at * 10_000, at * 10_000 + 500, at * 10_000 + 8000])

  it('are laid at the gate one press after the other, and begin again', async () => {
    await stage.commands.events.layNext()
    expect(stage.told()).toMatch(/Choose a recording/)
    answers.set('/api/sounds/steps/events', { events, edited: false })
    choose('steps')
    for (const frame of [600, 620, 640]) {
      stage.transport.goToFrame(frame)
      await stage.commands.events.layNext()
    }
    const laid = [...stage.doc().clip.values()].filter((clip) => clip.soundId === 'steps')
    expect(laid.map((clip) => [clip.offset, clip.start + clip.sync - clip.offset])).toEqual([
      [0, 600 * 2000],
      [10_000, 620 * 2000],
      [20_000, 640 * 2000],
    ])
    expect(stage.told()).toMatch(/That was the last event of steps/)
    expect(trying().event).toBe(0)
  })

  it('are laid on the selected cue and the next ones of its category that are empty', async () => {
    answers.set('/api/sounds/steps/events', { events, edited: false })
    for (const [id, at] of [
      ['x', 500],
      ['y', 520],
      ['z', 540],
    ] as const) {
      stage.does((doc) => spotCue(doc, { id, category: 'FX', in: at, out: at + 5 }))
    }
    choose('steps')
    await stage.commands.events.lay()
    expect(stage.told()).toMatch(/and a cue on the Sheet first/)
    select('x')
    await stage.commands.events.lay()
    expect(stage.selected()).toHaveLength(3)
    expect(stage.selected().map((id) => stage.doc().clip.get(id)?.cueId)).toEqual(['x', 'y', 'z'])
  })

  it('show what is not shown at the right; what is shown gives way to the sounds, and they to the Sheet', () => {
    const after = (name: PaneName): PaneName | null => {
      stage.commands.look.pane(name)
      return stage.store.getState().view.pane
    }
    const names = ['history', 'notes', 'notes', 'sounds', 'sounds', 'balance'] as const
    expect(names.map(after)).toEqual(['history', 'notes', 'sounds', null, 'sounds', 'balance'])
  })
})

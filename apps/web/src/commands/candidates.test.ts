import { shortlistOf, spotCue } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { api } from '../api/api.js'
import { tryActions } from '../document/trySlice.js'
import { answers, choose, onTryStage, select, sound, stage, trying, until } from '../test/tryStage.js'

onTryStage()

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
})

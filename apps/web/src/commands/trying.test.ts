import { spotCue, UNPREPARED } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { after } from '../../../../packages/core/src/test/after.js'
import { searchActions } from '../document/searchSlice.js'
import { preparationToKeep, tryActions } from '../document/trySlice.js'
import type { PaneName } from '../document/viewSlice.js'
import type { PickSound } from '../session/Parts.js'
import { settle } from '../test/stage.js'
import {
  answers,
  choose,
  onTryStage,
  reel,
  select,
  setTrying,
  sound,
  stage,
  trying,
  until,
} from '../test/tryStage.js'

onTryStage()

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
    setTrying(after(reel, spotCue(reel, { id: 'bg', category: 'BG', in: 300, out: 324 })))
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
    setTrying(after(reel, spotCue(reel, { id: 'long', category: 'FX', in: 300, out: 700 })))
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
    // What is tried next for the cue of a sound that was kept, the gate rolling on, has one event as well.
    stage.commands.tries.keep()
    choose('gong')
    stage.commands.tries.here()
    stage.store.dispatch(tryActions.choose(row))
    stage.commands.tries.here()
    await until(() => trying().event === 0)
    expect(trying().place).toEqual({ cueId: 'q', frame: 100 })
    stage.commands.tries.putBack()
    select()
    stage.commands.tries.here()
    expect(trying()).toMatchObject({ event: null, place: { cueId: null } })
    // Something else is chosen before the events are there.
    stage.commands.tries.putBack()
    select('q')
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

  it('show what is not shown at the right; what is shown gives way to the sounds, and they to the Sheet', () => {
    const after = (name: PaneName): PaneName | null => {
      stage.commands.look.pane(name)
      return stage.store.getState().view.pane
    }
    const names = ['history', 'notes', 'notes', 'sounds', 'sounds', 'balance'] as const
    expect(names.map(after)).toEqual(['history', 'notes', 'sounds', null, 'sounds', 'balance'])
  })
})

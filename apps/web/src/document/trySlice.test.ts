import { UNPREPARED, type Sound } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { preparationToKeep, tryActions, tryReducer, type TryState } from './trySlice.js'

const sound = (id: string, fields: Partial<Sound> = {}): Sound =>
  ({ id, name: id, length: 48_000, measured: true, ...fields }) as Sound

let state: TryState
beforeEach(() => {
  state = tryReducer(undefined, tryActions.reset())
})
type Action = Parameters<typeof tryReducer>[1]
const does = (...actions: Action[]): TryState => (state = actions.reduce(tryReducer, state))

describe('the chosen sound', () => {
  it('is prepared anew when it is another, and stays prepared when it is the same', () => {
    does(tryActions.choose(sound('a')), tryActions.prepare({ gain: -3, in: 100 }))
    does(tryActions.choose(sound('a')))
    expect(state.prepared).toMatchObject({ gain: -3, in: 100 })
    does(tryActions.choose(sound('b')))
    expect(state.prepared).toMatchObject({ gain: 0, in: null })
    does(tryActions.prepare({ gain: 3 }), tryActions.resetPreparation())
    expect(state.prepared.gain).toBe(0)
  })

  it('takes what was measured of it, unless another has been chosen meanwhile', () => {
    does(tryActions.choose(sound('a', { measured: false })), tryActions.heard(sound('a', { sync: 480 })))
    expect(state.sound).toMatchObject({ measured: true, sync: 480 })
    does(tryActions.choose(sound('b')), tryActions.heard(sound('a', { sync: 960 })))
    expect(state.sound?.id).toBe('b')
  })

  it('may be one event of its recording, or whole again', () => {
    does(tryActions.choose(sound('a')), tryActions.takeEvent({ index: 2, event: [100, 150, 900] }))
    expect(state).toMatchObject({ event: 2, prepared: { in: 100, sync: 150, out: 900 } })
    does(tryActions.takeEvent(null))
    expect(state).toMatchObject({ event: null, prepared: { in: null, sync: null, out: null } })
  })

  it('may be the event that suits a cue: that is remembered only once a part of it is set, and stays before what was remembered', () => {
    const before = { ...UNPREPARED, gain: -3 }
    does(tryActions.choose(sound('a')), tryActions.suit({ index: 0, event: [0, 50, 900] }))
    does(tryActions.remember(before))
    expect(state).toMatchObject({ event: 0, prepared: { gain: -3, in: 0, sync: 50, out: 900 } })
    expect(preparationToKeep(state)).toEqual(before)
    does(tryActions.prepare({ out: 800 }))
    expect(preparationToKeep(state)).toEqual({ ...before, in: 0, sync: 50, out: 800 })
    does(tryActions.suit(null))
    expect(state.prepared.out).toBe(800)
    does(tryActions.choose(sound('b')), tryActions.suit({ index: 1, event: [0, 50, 900] }))
    does(tryActions.remember({ ...before, in: 20 }))
    expect(preparationToKeep(state)).toEqual({ ...before, in: 20 })
  })

  it('is tried at a place with layers beside it, and put back without a trace', () => {
    does(tryActions.hold())
    expect(state.held).toEqual([])
    does(tryActions.choose(sound('a')), tryActions.tryAt({ cueId: 'q', frame: 9 }), tryActions.hold())
    does(tryActions.choose(sound('b')), tryActions.hold())
    expect(state.held.map((layer) => layer.sound.id)).toEqual(['a', 'b'])
    does(tryActions.drop(0))
    expect(state.held.map((layer) => layer.sound.id)).toEqual(['b'])
    does(tryActions.putBack())
    expect(state).toMatchObject({ place: null, held: [], sound: { id: 'b' } })
  })

  it('loops and is brought to one loudness by choice', () => {
    does(tryActions.toggleLoop(), tryActions.toggleMatched())
    expect(state).toMatchObject({ loop: true, matched: true })
    does(tryActions.toggleLoop(), tryActions.toggleMatched())
    expect(state).toMatchObject({ loop: false, matched: false })
  })
})

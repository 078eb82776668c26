import type { Sound } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { tryActions, tryReducer, type TryState } from './trySlice.js'

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

import {
  cuesInOrder,
  editCue,
  expectOk,
  recordsOf,
  spotCue,
  type Change,
  type LoggedChange,
  type ReelState,
} from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { testReel } from '../../../../../packages/core/src/test/testReel.js'
import { makeStore, type AppStore } from '../../app/store.js'
import { documentActions, saveStateOf } from './documentSlice.js'
import { edit, turn } from './edits.js'

/** A store with the test reel open, as the server would have sent it. The listener that sends is not started. */
function opened(log: ReelState['log'] = []): AppStore {
  const store = makeStore()
  store.dispatch(
    documentActions.opened({ reelId: 'r', state: { seq: 1, me: 'Me', records: recordsOf(testReel()), log } }),
  )
  return store
}
const spot = (store: AppStore, id: string, at: number): boolean =>
  store.dispatch(edit((doc) => spotCue(doc, { id, category: 'FX', in: at, out: at + 5 })))
const ids = (store: AppStore): string[] => cuesInOrder(store.getState().document.doc).map((cue) => cue.id)
const acknowledge = (store: AppStore, seq: number, missed: LoggedChange[] = []): void => {
  const first = store.getState().document.pending[0]
  store.dispatch(
    documentActions.acknowledged({
      changeId: first?.changeId ?? '',
      seq,
      missed,
      at: '2020-01-01T00:00:00Z',
    }),
  )
}

describe('the open reel', () => {
  it('shows an edit at once and keeps it pending until the server has it', () => {
    const store = opened()
    spot(store, 'a', 10)
    spot(store, 'b', 20)
    expect(ids(store)).toEqual(['a', 'b'])
    expect(store.getState().document).toMatchObject({
      save: 'saving',
      pending: [{ role: 'do' }, { role: 'do' }],
    })
    acknowledge(store, 2)
    acknowledge(store, 3)
    expect(store.getState().document).toMatchObject({
      save: 'saved',
      pending: [],
      seq: 3,
      undo: [{ seq: 2 }, { seq: 3 }],
    })
  })

  it('refuses an edit that breaks a rule, says why, and stays as it was', () => {
    const store = opened()
    spot(store, 'a', 10)
    const before = store.getState().document
    expect(store.dispatch(edit((doc) => editCue(doc, { id: 'a', fields: { out: 3 } })))).toBe(false)
    expect(store.getState().document).toBe(before)
    expect(store.getState().view.notices.map((notice) => notice.text)).toEqual([
      'cue FX 1: the end must lie after the beginning (in 10, out 3).',
    ])
  })

  it('undoes and redoes what is still on its way, and names the log number once it is known', async () => {
    const store = opened()
    spot(store, 'a', 10)
    await store.dispatch(turn('undo'))
    expect(ids(store)).toEqual([])
    await store.dispatch(turn('redo'))
    await store.dispatch(turn('undo'))
    expect(store.getState().document.pending.map((item) => [item.role, item.of?.seq ?? null])).toEqual([
      ['do', null],
      ['undo', null],
      ['redo', null],
      ['undo', null],
    ])
    acknowledge(store, 2)
    expect(store.getState().document.pending.map((item) => item.of?.seq)).toEqual([2, 2, 2])
    expect(ids(store)).toEqual([])
  })

  it('forgets what could be redone when something new is done', async () => {
    const store = opened()
    spot(store, 'a', 10)
    await store.dispatch(turn('undo'))
    spot(store, 'b', 20)
    await store.dispatch(turn('redo'))
    expect(ids(store)).toEqual(['b'])
  })

  it('takes in what others did before its own change', () => {
    const store = opened()
    spot(store, 'a', 10)
    const theirs: Change = expectOk(spotCue(testReel(), { id: 'x', category: 'BG', in: 5, out: 500 }))
    acknowledge(store, 3, [
      {
        seq: 2,
        changeId: '00000000-0000-4000-8000-000000000000',
        author: 'Idris',
        at: '',
        role: 'do',
        target: null,
        change: theirs,
      } as LoggedChange,
    ])
    expect(ids(store)).toEqual(['x', 'a'])
    expect(store.getState().document.seq).toBe(3)
  })

  it('can undo what it did before it was opened only with the server, and says so', async () => {
    const store = opened(
      [1, 2].map((seq) => ({
        seq,
        author: 'Me',
        at: '',
        role: 'do' as const,
        target: null,
        label: seq === 1 ? 'Make reel' : 'Spot FX 001',
      })),
    )
    const turning = store.dispatch(turn('undo'))
    expect(saveStateOf(store.getState().document)).toBe('saving')
    await turning
    expect(saveStateOf(store.getState().document)).toBe('saved')
    expect(store.getState().view.notices[0]?.text).toMatch(
      /^Can’t undo “Spot FX 001”. The server does not answer/,
    )
    expect(store.getState().document.undo).toHaveLength(1)
  })
})

import { editCue, expectOk, invert, recordsOf } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { after } from '../../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../../packages/core/src/test/testReel.js'
import { PAUSES_MS } from './syncMachine.js'
import { saveStateOf } from './syncState.js'
import {
  NONE,
  answer,
  commits,
  does,
  ids,
  log,
  news,
  open,
  reset,
  spot,
  state,
  step,
  theirs,
  waiting,
} from './test/machine.js'

beforeEach(() => open())

describe('opening', () => {
  it('asks for the reel, and shows it with what can be undone', () => {
    expect(state).toMatchObject({ phase: 'open', reelId: 'r', me: 'Ines', task: null })
    open(testReel(), 4, [
      log(1, 'Make reel'),
      log(2, 'Spot'),
      log(3, 'Edit'),
      log(4, 'Edit', 'Ines', 'undo', 3),
    ])
    expect(state.undo.map(({ seq, label }) => [seq, label])).toEqual([[2, 'Spot']])
    expect(state.redo.map(({ seq }) => seq)).toEqual([3])
    expect(state.savedAt).toBe('2026-01-04')
  })

  it('tries again by itself while the server is away, ever more slowly, and says so', () => {
    reset()
    step('open', { reelId: 'r' })
    for (const ms of [...PAUSES_MS, PAUSES_MS.at(-1)]) {
      step('openFailed', { task: state.task?.id ?? 0, why: 'It is away.', kind: 'away' })
      expect(state).toMatchObject({ phase: 'opening', problem: 'It is away.', task: { kind: 'pause', ms } })
      step('pauseOver', { task: state.task?.id ?? 0 })
      expect(state.task).toMatchObject({ kind: 'open', reelId: 'r' })
    }
  })

  it('stops where the server knows no such reel', () => {
    reset()
    step('open', { reelId: 'r' })
    step('openFailed', { task: state.task?.id ?? 0, why: 'There is no reel r.', kind: 'missing' })
    expect(state).toMatchObject({ phase: 'opening', problem: 'There is no reel r.', task: null })
  })

  it('does again what waited in the browser, but for what the log holds already', () => {
    const here = after(testReel(), { ok: true, value: spot(testReel(), 'a') })
    const second = spot(here, 'b', 50)
    reset()
    step('open', { reelId: 'r' })
    const waited = [
      { changeId: 'ca', role: 'do' as const, of: null, change: spot(testReel(), 'a') },
      { changeId: 'cb', role: 'do' as const, of: null, change: second },
      {
        changeId: 'cu',
        role: 'undo' as const,
        of: { seq: null, changeId: 'ca' },
        change: invert(spot(testReel(), 'a')),
      },
    ]
    const reel = {
      seq: 2,
      me: 'Ines',
      records: recordsOf(here),
      log: [log(1, 'Make'), log(2, 'Spot FX 001')],
    }
    step('opened', {
      task: state.task?.id ?? 0,
      reel,
      waiting: { ...NONE, pending: waited, since: [{ seq: 2, changeId: 'ca' }] },
    })
    expect(waiting()).toEqual(['cb', 'cu'])
    expect(state.pending[1]).toMatchObject({ role: 'undo', of: { seq: 2 } })
    expect(ids()).toEqual(['b'])
    expect(state.redo).toMatchObject([{ seq: 2 }])
    expect(state.task).toMatchObject({ kind: 'send', item: { changeId: 'cb' }, base: 2 })
  })

  it('takes nothing of an answer to a reel that was left', () => {
    reset()
    step('open', { reelId: 'r' })
    const old = state.task?.id ?? 0
    step('close', undefined)
    step('open', { reelId: 's' })
    step('opened', { task: old, reel: { seq: 9, me: 'X', records: [], log: [] }, waiting: NONE })
    expect(state).toMatchObject({ phase: 'opening', reelId: 's' })
    expect(state.task?.id).not.toBe(old)
  })
})

describe('sending', () => {
  it('shows an edit at once, sends one change after the other, and says saved when none waits', () => {
    does('a')
    does('b', 50)
    expect([ids(), waiting(), saveStateOf(state)]).toEqual([['a', 'b'], ['a', 'b'], 'saving'])
    expect(state.task).toMatchObject({ kind: 'send', item: { changeId: 'a' }, base: 1, target: null })
    commits(2)
    expect(state.task).toMatchObject({ kind: 'send', item: { changeId: 'b' }, base: 2 })
    commits(3)
    expect([waiting(), saveStateOf(state), state.settled.seq, state.savedAt]).toEqual([[], 'saved', 3, 'now'])
    expect(state.undo.map(({ seq }) => seq)).toEqual([2, 3])
  })

  it('waits and sends again while the server is away or full, and says which', () => {
    does('a')
    answer({ kind: 'away' })
    expect([saveStateOf(state), state.task?.kind]).toEqual(['away', 'pause'])
    does('b', 50)
    step('pauseOver', { task: state.task?.id ?? 0 })
    answer({ kind: 'full' })
    expect([saveStateOf(state), state.failures]).toEqual(['full', 2])
    step('pauseOver', { task: state.task?.id ?? 0 })
    commits(2)
    expect([state.failures, state.server, waiting()]).toEqual([0, 'here', ['b']])
  })

  it('takes an answer once, however often it comes', () => {
    does('a')
    const task = state.task?.id ?? 0
    const committed = { kind: 'committed', seq: 2, missed: [], at: '' } as const
    step('answered', { task, answer: committed })
    const once = state
    expect(step('answered', { task, answer: committed })).toBe(once)
  })

  it('sets aside what can never be stored, with its reason, and the rest goes on', () => {
    does('bad')
    does('good', 50)
    answer({ kind: 'refused', why: 'The server met an error of its own.' })
    expect([ids(), waiting()]).toEqual([['good'], ['good']])
    expect(state.aside).toMatchObject([{ changeId: 'bad', why: 'The server met an error of its own.' }])
    expect(news()[0]).toMatch(/“Spot FX 001” could not be saved.*kept under History/)
    // The cue that is left is numbered as it was shown.
    expect(state.doc.cue.get('good')?.number).toBe(2)
  })

  it('sets aside with it what was built on it, and forgets an undo of it', () => {
    does('bad')
    step('done', {
      changeId: 'words',
      change: expectOk(editCue(state.doc, { id: 'bad', fields: { words: 'w' } })),
    })
    step('turn', { role: 'undo', changeId: 'u' })
    answer({ kind: 'refused', why: 'No.' })
    expect(state.aside.map(({ changeId }) => changeId)).toEqual(['bad', 'words'])
    expect([waiting(), state.undo, state.redo]).toEqual([[], [], []])
  })

  it('does again what was set aside, or throws it away', () => {
    does('bad')
    answer({ kind: 'refused', why: 'No.' })
    step('retried', { changeId: 'bad', as: 'again' })
    expect([ids(), waiting(), state.aside]).toEqual([['bad'], ['again'], []])
    answer({ kind: 'refused', why: 'No.' })
    step('discarded', { changeId: 'again' })
    expect([ids(), state.aside]).toEqual([[], []])
  })

  it('keeps what can’t be done again, and says why', () => {
    does('a')
    commits(2)
    step('done', {
      changeId: 'w',
      change: expectOk(editCue(state.doc, { id: 'a', fields: { words: 'mine' } })),
    })
    answer({ kind: 'refused', why: 'No.' })
    step('received', {
      reelId: 'r',
      changes: [theirs(3, expectOk(editCue(state.doc, { id: 'a', fields: { words: 'theirs' } })))],
    })
    step('retried', { changeId: 'w', as: 'w2' })
    expect(state.aside).toHaveLength(1)
    expect(news()[0]).toMatch(/still can’t be done.*words of FX 001/)
  })

  it('stops, and keeps what waits, when the reel is not on the server any more', () => {
    does('a')
    answer({ kind: 'missing' })
    expect([saveStateOf(state), state.task, waiting()]).toEqual(['missing', null, ['a']])
    does('b', 50)
    expect([state.task, waiting()]).toEqual([null, ['a', 'b']])
  })
})

describe('the browser’s own disk', () => {
  it('is behind with every change, and level once the very queue is written', () => {
    expect(step('written', { pending: state.pending, aside: state.aside, ok: true }).disk).toBe('kept')
    does('a')
    const { pending, aside } = state
    expect(state.disk).toBe('writing')
    does('b', 50)
    step('written', { pending, aside, ok: true })
    expect(state.disk).toBe('writing')
    step('written', { pending: state.pending, aside: state.aside, ok: false })
    expect(state.disk).toBe('failed')
  })

  it('gives up what another page has left behind, each change once', () => {
    does('a')
    const left = { changeId: 'left', role: 'do' as const, of: null, change: spot(testReel(), 'l', 90) }
    step('adopted', { pending: [left, ...state.pending], aside: [], since: [] })
    expect([ids(), waiting()]).toEqual([
      ['a', 'l'],
      ['a', 'left'],
    ])
    expect(state.doc.cue.get('l')?.number).toBe(2)
  })
})

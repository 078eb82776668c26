import {
  cuesInOrder,
  editCue,
  expectOk,
  invert,
  recordsOf,
  spotCue,
  type Change,
  type ReelDocument,
} from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { after } from '../../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../../packages/core/src/test/testReel.js'
import { PAUSES_MS, syncSteps, type Answer } from './syncMachine.js'
import { CLOSED, saveStateOf, type Logged, type SyncState } from './syncState.js'

let state: SyncState
type Steps = typeof syncSteps
const step = <K extends keyof Steps>(name: K, payload: Parameters<Steps[K]>[1]): SyncState =>
  (state = (syncSteps[name] as (state: SyncState, payload: unknown) => SyncState)(state, payload))
const NONE = { pending: [], aside: [], since: [] }

const log = (
  seq: number,
  label: string,
  author = 'Ines',
  role: 'do' | 'undo' | 'redo' = 'do',
  target: number | null = null,
) => ({
  ...{ seq, author, at: `2026-01-0${seq}`, role, target, label },
})
function open(doc: ReelDocument = testReel(), seq = 1, lines: ReturnType<typeof log>[] = []): void {
  state = CLOSED
  step('open', { reelId: 'r' })
  const reel = { seq, me: 'Ines', records: recordsOf(doc), log: lines }
  step('opened', { task: state.task?.id ?? 0, reel, waiting: NONE })
}
const spot = (doc: ReelDocument, id: string, at = 10): Change =>
  expectOk(spotCue(doc, { id, category: 'FX', in: at, out: at + 5 }))
const does = (id: string, at?: number): SyncState =>
  step('done', { changeId: id, change: spot(state.doc, id, at) })
const answer = (given: Answer): SyncState => step('answered', { task: state.task?.id ?? 0, answer: given })
const commits = (seq: number, missed: Logged[] = []): SyncState =>
  answer({ kind: 'committed', seq, missed, at: 'now' })
const theirs = (seq: number, change: Change, author = 'Idris'): Logged => ({
  ...{ seq, changeId: `theirs${seq}`, author, at: '', role: 'do', target: null, change },
})
const ids = (): string[] => cuesInOrder(state.doc).map((cue) => cue.id)
const waiting = (): string[] => state.pending.map((item) => item.changeId)
const news = (): string[] => state.news.map(({ text }) => text)

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
    state = CLOSED
    step('open', { reelId: 'r' })
    for (const ms of [...PAUSES_MS, PAUSES_MS.at(-1)]) {
      step('openFailed', { task: state.task?.id ?? 0, why: 'It is away.', away: true })
      expect(state).toMatchObject({ phase: 'opening', problem: 'It is away.', task: { kind: 'pause', ms } })
      step('pauseOver', { task: state.task?.id ?? 0 })
      expect(state.task).toMatchObject({ kind: 'open', reelId: 'r' })
    }
  })

  it('stops where the server knows no such reel', () => {
    state = CLOSED
    step('open', { reelId: 'r' })
    step('openFailed', { task: state.task?.id ?? 0, why: 'There is no reel r.', away: false })
    expect(state).toMatchObject({ phase: 'opening', problem: 'There is no reel r.', task: null })
  })

  it('does again what waited in the browser, but for what the log holds already', () => {
    const here = after(testReel(), { ok: true, value: spot(testReel(), 'a') })
    const second = spot(here, 'b', 50)
    state = CLOSED
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
    state = CLOSED
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

describe('what others did', () => {
  it('comes before one’s own unsent changes, which are fitted to it; a cue gets another number, and that is told', () => {
    does('a')
    commits(3, [theirs(2, spot(testReel(), 'x'))])
    expect(ids()).toEqual(['a', 'x'])
    open()
    does('a')
    step('received', { reelId: 'r', changes: [theirs(2, spot(testReel(), 'x'))] })
    expect(state.doc.cue.get('a')?.number).toBe(2)
    expect(news()).toEqual(['“Spot FX 001” became “Spot FX 002”: somebody else has that number.'])
    expect(state.undo).toMatchObject([{ label: 'Spot FX 002' }])
  })

  it('makes a change in conflict be sent again, as it fits now', () => {
    does('a')
    answer({ kind: 'conflict', missed: [theirs(2, spot(testReel(), 'x'))], why: 'Taken.' })
    expect(state.task).toMatchObject({
      kind: 'send',
      base: 2,
      item: { changeId: 'a', change: { label: 'Spot FX 002' } },
    })
  })

  it('is not mine to undo', () => {
    step('received', { reelId: 'r', changes: [theirs(2, spot(testReel(), 'x'))] })
    step('turn', { role: 'undo', changeId: 'u' })
    expect([ids(), waiting()]).toEqual([['x'], []])
  })

  it('is my own where I did it in another page', () => {
    step('received', { reelId: 'r', changes: [theirs(2, spot(testReel(), 'x'), 'Ines')] })
    step('turn', { role: 'undo', changeId: 'u' })
    expect([ids(), state.pending[0]?.of]).toEqual([[], { seq: 2, changeId: 'theirs2' }])
  })

  it('is asked for where something was missed, before anything is sent', () => {
    const first = theirs(2, spot(testReel(), 'x'))
    const second = theirs(3, spot(after(testReel(), { ok: true, value: first.change }), 'y', 50))
    step('received', { reelId: 'r', changes: [second] })
    expect(state.task).toMatchObject({ kind: 'catchUp', since: 1 })
    does('a', 90)
    answer({ kind: 'caughtUp', changes: [first, second] })
    expect([ids(), state.settled.seq, state.task?.kind]).toEqual([['x', 'y', 'a'], 3, 'send'])
  })

  it('that doesn’t fit makes the whole reel be fetched anew, with what waits kept', () => {
    does('a', 90)
    const strange = theirs(2, invert(spot(testReel(), 'never')))
    step('received', { reelId: 'r', changes: [strange] })
    expect(state.standing).toBe('astray')
    commits(3, [strange])
    expect(state.task).toMatchObject({ kind: 'open', reelId: 'r' })
    const known = after(testReel(), { ok: true, value: spot(testReel(), 'a', 90) })
    const reel = {
      seq: 3,
      me: 'Ines',
      records: recordsOf(known),
      log: [log(1, 'Make'), log(3, 'Spot FX 001')],
    }
    step('opened', {
      task: state.task?.id ?? 0,
      reel,
      waiting: { ...NONE, since: [{ seq: 3, changeId: 'a' }] },
    })
    expect([state.standing, ids(), waiting(), state.settled.seq]).toEqual(['level', ['a'], [], 3])
  })

  it('can’t be seen in a conflict: then the reel is fetched once, and after that the change set aside', () => {
    does('a')
    answer({ kind: 'conflict', missed: [], why: 'Something.' })
    expect(state.task?.kind).toBe('open')
    const reel = { seq: 1, me: 'Ines', records: recordsOf(testReel()), log: [] }
    step('opened', { task: state.task?.id ?? 0, reel, waiting: NONE })
    expect(state.task).toMatchObject({ kind: 'send', item: { changeId: 'a' } })
    answer({ kind: 'conflict', missed: [], why: 'Something.' })
    expect([waiting(), state.aside]).toMatchObject([[], [{ changeId: 'a', why: 'Something.' }]])
  })

  it('of another reel is passed over', () => {
    const before = state
    expect(step('received', { reelId: 'other', changes: [theirs(2, spot(testReel(), 'x'))] })).toBe(before)
  })
})

describe('undo and redo', () => {
  it('turn what is still on its way, as what they are', () => {
    does('a')
    for (const [role, changeId] of [
      ['undo', 'u1'],
      ['redo', 'r1'],
      ['undo', 'u2'],
    ] as const)
      step('turn', { role, changeId })
    expect(state.pending.map(({ role, of }) => [role, of?.changeId ?? null])).toEqual([
      ['do', null],
      ['undo', 'a'],
      ['redo', 'a'],
      ['undo', 'a'],
    ])
    commits(2)
    expect(state.pending.map(({ of }) => of?.seq)).toEqual([2, 2, 2])
    expect(state.task).toMatchObject({ kind: 'send', target: 2 })
  })

  it('forget what could be redone when something new is done', () => {
    does('a')
    step('turn', { role: 'undo', changeId: 'u' })
    does('b')
    step('turn', { role: 'redo', changeId: 'r' })
    expect(ids()).toEqual(['b'])
  })

  it('wait for the body of an act from before the page was opened; until then it says saving', () => {
    const here = after(testReel(), { ok: true, value: spot(testReel(), 'a') })
    open(here, 2, [log(1, 'Make'), log(2, 'Spot FX 001')])
    step('turn', { role: 'undo', changeId: 'u' })
    expect([ids(), saveStateOf(state), state.turns.length]).toEqual([['a'], 'saving', 1])
    step('bodyRead', { reelId: 'r', seq: 7, change: null })
    expect(state.turns).toHaveLength(1)
    step('bodyRead', { reelId: 'r', seq: 2, change: spot(testReel(), 'a') })
    expect([ids(), state.pending[0]?.of?.seq]).toEqual([[], 2])
  })

  it('say why they can’t: the server is away, or somebody has changed it since', () => {
    const here = after(testReel(), { ok: true, value: spot(testReel(), 'a') })
    open(here, 2, [log(1, 'Make'), log(2, 'Spot FX 001')])
    step('turn', { role: 'undo', changeId: 'u' })
    step('bodyRead', { reelId: 'r', seq: 2, change: null })
    expect(news()).toEqual([
      'Can’t undo “Spot FX 001”. The server does not answer, so what was done before the reload can’t be fetched.',
    ])
    expect([state.turns, state.undo.length]).toEqual([[], 1])
    open()
    does('a')
    commits(2)
    step('received', {
      reelId: 'r',
      changes: [theirs(3, expectOk(editCue(state.doc, { id: 'a', fields: { words: 'kept' } })))],
    })
    step('turn', { role: 'undo', changeId: 'u' })
    expect([ids(), news()[0]]).toEqual([
      ['a'],
      expect.stringMatching(/^Can’t undo “Spot FX 001”\. .*changed in the meantime/),
    ])
  })

  it('pass over an act of which others have left nothing', () => {
    does('a')
    does('b', 50)
    commits(2)
    commits(3)
    step('received', { reelId: 'r', changes: [theirs(4, invert(spot(testReel(), 'x')))] })
    open()
    does('a')
    commits(2)
    does('b', 50)
    commits(3)
    const cue = state.doc.cue.get('b')!
    step('received', {
      reelId: 'r',
      changes: [theirs(4, { label: 'Delete', added: [], updated: [], removed: [cue] })],
    })
    step('turn', { role: 'undo', changeId: 'u1' })
    expect(news()[0]).toMatch(/Nothing of it is left/)
    step('turn', { role: 'undo', changeId: 'u2' })
    expect(ids()).toEqual([])
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

import { editCue, expectOk, invert, recordsOf } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { after } from '../../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../../packages/core/src/test/testReel.js'
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
  spot,
  state,
  step,
  theirs,
  waiting,
} from './test/machine.js'

beforeEach(() => open())

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

  it.each(['away', 'failed'] as const)(
    'is asked for again when the server is %s, with the reel on screen',
    (kind) => {
      does('a')
      answer({ kind: 'conflict', missed: [], why: 'Something.' })
      step('openFailed', { task: state.task?.id ?? 0, why: 'An error.', kind })
      expect([state.phase, state.server, state.task?.kind, waiting()]).toEqual([
        'open',
        'away',
        'pause',
        ['a'],
      ])
      step('pauseOver', { task: state.task?.id ?? 0 })
      expect(state.task?.kind).toBe('open')
    },
  )

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

import {
  apply,
  documentOf,
  invert,
  isEmpty,
  rebaseChange,
  stacksFromLog,
  type Change,
  type ReelState,
} from '@yodel/core'
import { lost, rebasePending } from './rebasePending.js'
import { actOf, isSame, pushAct } from './stacks.js'
import {
  CLOSED,
  type Act,
  type Logged,
  type News,
  type Pending,
  type Settled,
  type Stacks,
  type SyncState,
  type Task,
} from './syncState.js'

/** What came of a task that asks the server. */
export type Answer =
  /** Written under this number; `missed` is what others did since the task's base. */
  | {
      readonly kind: 'committed'
      readonly seq: number
      readonly missed: readonly Logged[]
      readonly at: string
    }
  /** Not written: it meets what others did, or is to be checked against it first. */
  | { readonly kind: 'conflict'; readonly missed: readonly Logged[]; readonly why: string }
  /** Never to be written as it is. */
  | { readonly kind: 'refused'; readonly why: string }
  | { readonly kind: 'caughtUp'; readonly changes: readonly Logged[] }
  /** The server was not reached, or its disk is full: to be tried again. */
  | { readonly kind: 'away' | 'full' }
  /** There is no such reel any more. */
  | { readonly kind: 'missing' }

/** Changes that waited in the browser from an earlier visit, and what of the log there has been since. */
export interface Waiting {
  readonly pending: readonly Pending[]
  readonly aside: SyncState['aside']
  /** The log from where the waiting changes began: which of them it holds already. */
  readonly since: readonly Pick<Logged, 'changeId' | 'seq'>[]
}

type Step<P> = (state: SyncState, payload: P) => SyncState

/** Pauses before the server is tried again, in milliseconds; the last one over and over. */
export const PAUSES_MS = [300, 1000, 2000, 4000] as const

// Tasks are numbered on, so that an answer for the reel before is never taken for one of the next.
const close: Step<void> = (state) => ({ ...CLOSED, tasks: state.tasks })

const open: Step<{ reelId: string }> = (state, { reelId }) =>
  withTask({ ...close(state, undefined), reelId, phase: 'opening' }, { kind: 'open', reelId })

/** The reel as the server has it, and what waits here. A reel that had gone astray is brought level by it, too. */
const opened: Step<{ task: number; reel: ReelState; waiting: Waiting }> = (
  state,
  { task, reel, waiting },
) => {
  if (state.task?.id !== task || state.task.kind !== 'open') return state
  const numbers = new Map(waiting.since.map(({ changeId, seq }) => [changeId, seq]))
  const settled = settledOf(reel)
  const mine = [...state.pending, ...waiting.pending].filter((item) => !numbers.has(item.changeId))
  return onTop({
    ...state,
    phase: 'open',
    me: reel.me,
    settled,
    pending: mine.map((item) => withNumber(item, numbers)),
    aside: [...state.aside, ...waiting.aside],
    savedAt: reel.log.at(-1)?.at ?? null,
    server: 'here',
    failures: 0,
    standing: 'level',
    task: null,
    problem: null,
    disk: 'writing',
  })
}

/** The reel could not be opened. Where the server is only away, it is tried again by itself. */
const openFailed: Step<{ task: number; why: string; kind: 'away' | 'missing' | 'failed' }> = (
  state,
  { task, why, kind },
) => {
  if (state.task?.id !== task || state.task.kind !== 'open') return state
  // A reel that is being looked at stays on screen, and whatever error the server has, it is asked again.
  if (state.phase === 'open')
    return kind === 'missing'
      ? { ...state, phase: 'missing', task: null }
      : pause({ ...state, server: 'away' })
  const failed: SyncState = { ...state, problem: why }
  return kind === 'away' ? pause({ ...failed, server: 'away' }) : { ...failed, task: null }
}

const pauseOver: Step<{ task: number }> = (state, { task }) => {
  if (state.task?.id !== task || state.task.kind !== 'pause') return state
  if (state.phase === 'opening') return withTask(state, { kind: 'open', reelId: state.reelId ?? '' })
  return goOn({ ...state, task: null })
}

/**
 * Changes of other pages that were found waiting while this one was open. The log comes with them from where both
 * they and this page stand: what it holds beyond this page is taken in first, for they may build on it.
 */
const adopted: Step<Omit<Waiting, 'since'> & { since: readonly Logged[] }> = (
  state,
  { pending, aside, since },
) => {
  if (state.phase !== 'open') return state
  const level = take(state, since)
  const numbers = new Map(since.map(({ changeId, seq }) => [changeId, seq]))
  const known = new Set(level.pending.map((item) => item.changeId))
  const fresh = pending.filter((item) => !numbers.has(item.changeId) && !known.has(item.changeId))
  return onTop({
    ...level,
    pending: [...level.pending, ...fresh.map((item) => withNumber(item, numbers))],
    aside: [...level.aside, ...aside],
  })
}

/** Something was done here: shown at once, sent after. */
const done: Step<{ changeId: string; change: Change }> = (state, { changeId, change }) =>
  add({ ...state, turns: [] }, { changeId, role: 'do', of: null, change })

/** Undo or redo is pressed. */
const turn: Step<{ role: 'undo' | 'redo'; changeId: string }> = (state, press) =>
  doTurns({ ...state, turns: [...state.turns, press] })

/** The body of the act on top was read for an undo or redo that waits; null when it could not be. */
const bodyRead: Step<{ reelId: string; seq: number; change: Change | null }> = (
  state,
  { reelId, seq, change },
) => {
  const [press] = state.turns
  const act = press && state[press.role].at(-1)
  if (state.reelId !== reelId || act?.seq !== seq) return state
  if (!change) {
    const why = 'The server does not answer, so what was done before the reload can’t be fetched.'
    return tell({ ...state, turns: [] }, cannot(press?.role ?? 'undo', act, why))
  }
  const withBody = (one: Act): Act => (one.seq === seq ? { ...one, change } : one)
  const known = (stacks: Stacks): Stacks => ({
    undo: stacks.undo.map(withBody),
    redo: stacks.redo.map(withBody),
  })
  return doTurns({ ...state, ...known(state), settled: { ...state.settled, ...known(state.settled) } })
}

/** An answer to the task under way. */
const answered: Step<{ task: number; answer: Answer }> = (state, { task: id, answer }) => {
  const { task } = state
  if (task?.id !== id) return state
  if (answer.kind === 'away' || answer.kind === 'full') return pause({ ...state, server: answer.kind })
  const free: SyncState = { ...state, task: null, server: 'here', failures: 0 }
  if (answer.kind === 'missing') return { ...free, phase: 'missing' }
  if (answer.kind === 'caughtUp') return goOn(take({ ...free, standing: 'level' }, answer.changes))
  if (task.kind !== 'send') return goOn(free)
  const { item } = task
  switch (answer.kind) {
    case 'committed': {
      const own = { ...item, target: task.target, seq: answer.seq, author: state.me, at: answer.at }
      return goOn({ ...take(free, [...answer.missed, own], item), savedAt: answer.at, reopenedFor: null })
    }
    case 'conflict':
      if (answer.missed.some((entry) => entry.seq > state.settled.seq)) return goOn(take(free, answer.missed))
      // Nothing that could be seen is in its way: the page may have strayed from the server. Once it starts afresh.
      if (state.reopenedFor === item.changeId) return goOn(setAside(free, item, answer.why))
      return goOn({ ...free, standing: 'astray', reopenedFor: item.changeId })
    case 'refused':
      return goOn(setAside(free, item, answer.why))
  }
}

/** What the log has got: from an answer, or from a live channel. What is known already is passed over; after a gap the rest is asked for. */
const received: Step<{ reelId: string; changes: readonly Logged[] }> = (state, { reelId, changes }) =>
  state.reelId === reelId && state.phase === 'open' ? goOn(take(state, changes)) : state

/** `pending` and `aside`, as they were, are on disk, or could not be written. */
const written: Step<Pick<SyncState, 'pending' | 'aside'> & { ok: boolean }> = (
  state,
  { pending, aside, ok },
) => (state.pending === pending && state.aside === aside ? { ...state, disk: ok ? 'kept' : 'failed' } : state)

/** Does what was set aside again, on the reel as it is now. */
const retried: Step<{ changeId: string; as: string }> = (state, { changeId, as }) => {
  const one = state.aside.find((aside) => aside.changeId === changeId)
  if (!one || state.phase !== 'open') return state
  const fitted = rebaseChange(state.doc, one.change)
  if (!fitted.ok)
    return tell(state, {
      tone: 'problem',
      text: `“${one.change.label}” still can’t be done. ${fitted.message}`,
    })
  const aside = state.aside.filter((other) => other !== one)
  if (isEmpty(fitted.value.change)) return { ...state, aside, disk: 'writing' }
  return add(
    { ...state, aside, turns: [] },
    { changeId: as, role: 'do', of: null, change: fitted.value.change },
  )
}

/** Throws away what was set aside. */
const discarded: Step<{ changeId: string }> = (state, { changeId }) => ({
  ...state,
  aside: state.aside.filter((aside) => aside.changeId !== changeId),
  disk: 'writing',
})

/**
 * Every event that the reel and its sync know, each with what it makes of the state. All are pure: what is to be
 * done about the server stands in the state's `task`, what is to be read in `turns`, what is to be told in `news`.
 */
export const syncSteps = {
  ...{ open, close, opened, openFailed, pauseOver, adopted },
  ...{ done, turn, bodyRead, answered, received, written, retried, discarded },
}

type NewTask = Task extends infer Each ? (Each extends Task ? Omit<Each, 'id'> : never) : never

const withTask = (state: SyncState, task: NewTask): SyncState => ({
  ...state,
  tasks: state.tasks + 1,
  task: { ...task, id: state.tasks + 1 } as Task,
})

/** The next thing to do about the server, where nothing is under way. */
function goOn(state: SyncState): SyncState {
  if (state.phase !== 'open' || state.task) return state
  if (state.standing === 'astray') return withTask(state, { kind: 'open', reelId: state.reelId ?? '' })
  if (state.standing === 'behind') return withTask(state, { kind: 'catchUp', since: state.settled.seq })
  const [item] = state.pending
  if (!item) return state
  return withTask(state, { kind: 'send', item, base: state.settled.seq, target: item.of?.seq ?? null })
}

function pause(state: SyncState): SyncState {
  const ms = PAUSES_MS[Math.min(state.failures, PAUSES_MS.length - 1)] ?? 4000
  return withTask({ ...state, failures: state.failures + 1 }, { kind: 'pause', ms })
}

const tell = (state: SyncState, ...news: News[]): SyncState => ({ ...state, news })

/** Appends a change to what waits, done on the document. It was computed on this very document, so it fits. */
function add(state: SyncState, item: Pending): SyncState {
  if (state.phase !== 'open' && state.phase !== 'missing') return state
  const after = apply(state.doc, item.change)
  if (!after.ok) return setAside({ ...state, pending: [...state.pending, item] }, item, after.message)
  const act: Act = { seq: null, changeId: item.changeId, label: item.change.label, change: item.change }
  return goOn({
    ...state,
    ...pushAct(state, item, act),
    doc: after.value,
    pending: [...state.pending, item],
    disk: 'writing',
  })
}

/** Takes in what the log has got beyond what is known, and does what waits again on top of it. */
function take(state: SyncState, changes: readonly Logged[], sent: Pending | null = null): SyncState {
  const [only] = changes
  const [first, ...others] = state.pending
  // What is nearly always so: one's own change, as it was sent, is the next of the log, and nothing else waits.
  if (
    changes.length === 1 &&
    only &&
    first &&
    first === sent &&
    others.length === 0 &&
    only.seq === state.settled.seq + 1
  ) {
    const numbered = (one: Act): Act => (one.changeId === only.changeId ? { ...one, seq: only.seq } : one)
    const stacks = { undo: state.undo.map(numbered), redo: state.redo.map(numbered) }
    return {
      ...state,
      ...stacks,
      pending: others,
      settled: { ...stacks, doc: state.doc, seq: only.seq },
      disk: 'writing',
    }
  }
  let { settled, pending } = state
  for (const entry of changes) {
    if (entry.seq <= settled.seq) continue
    if (entry.seq !== settled.seq + 1) return onTop({ ...state, settled, pending, standing: 'behind' })
    const next = settle(settled, entry, state.me)
    if (!next) return onTop({ ...state, settled, pending, standing: 'astray' })
    settled = next
    const numbers = new Map([[entry.changeId, entry.seq]])
    pending = pending
      .filter((item) => item.changeId !== entry.changeId)
      .map((item) => withNumber(item, numbers))
  }
  return settled === state.settled ? state : onTop({ ...state, settled, pending })
}

/** The reel with one more line of the log; null where that line doesn't fit, so that this is not the server's reel. */
function settle(settled: Settled, entry: Logged, me: string): Settled | null {
  const after = apply(settled.doc, entry.change)
  if (!after.ok) return null
  const { role, target } = entry
  const of = target === null ? null : { seq: target, changeId: null }
  const stacks = entry.author === me ? pushAct(settled, { role, of }, actOf(entry)) : settled
  return { doc: after.value, seq: entry.seq, undo: stacks.undo, redo: stacks.redo }
}

/** Does what waits on top of what is settled. */
function onTop(state: SyncState): SyncState {
  const { aside, news, ...rest } = rebasePending(state.settled, state.pending)
  const next: SyncState = { ...state, ...rest, aside: [...state.aside, ...aside], disk: 'writing' }
  // What is on top of the stacks may have changed under a press that waits.
  return goOn(doTurns(news.length > 0 ? tell(next, ...news) : next))
}

/** Takes a change out of what waits, keeps it to be read, and does the rest without it. */
function setAside(state: SyncState, item: Pending, why: string): SyncState {
  const present = state.pending.find((one) => one.changeId === item.changeId)
  if (!present) return state
  const belongs = (one: Pending): boolean => one === present || one.of?.changeId === item.changeId
  const next = onTop({
    ...state,
    pending: state.pending.filter((one) => !belongs(one)),
    aside: [...state.aside, { changeId: item.changeId, change: present.change, why }],
  })
  const told = next.news === state.news ? [] : next.news
  return tell(next, lost(present.change, why), ...told)
}

/** Does the presses of undo and redo that wait, as far as the bodies of their acts are known. */
function doTurns(state: SyncState): SyncState {
  const [press, ...later] = state.turns
  if (!press) return state
  const act = state[press.role].at(-1)
  if (!act || !state.reelId) return doTurns({ ...state, turns: later })
  if (!act.change) return state
  return doTurns(doTurn({ ...state, turns: later }, press, act, act.change))
}

function doTurn(state: SyncState, press: SyncState['turns'][number], act: Act, change: Change): SyncState {
  const { role, changeId } = press
  const fitted = rebaseChange(state.doc, role === 'undo' ? invert(change) : change)
  if (!fitted.ok) return tell(state, cannot(role, act, fitted.message))
  const of = { seq: act.seq, changeId: act.changeId }
  if (!isEmpty(fitted.value.change)) return add(state, { changeId, role, of, change: fitted.value.change })
  // Others have done so already: the next press is for the act before.
  const without = (stacks: Stacks): Stacks => ({
    ...stacks,
    [role]: stacks[role].filter((one) => !isSame(one, of)),
  })
  const cleared = { ...state, ...without(state), settled: { ...state.settled, ...without(state.settled) } }
  return tell(cleared, cannot(role, act, 'Nothing of it is left to change.'))
}

const cannot = (role: 'undo' | 'redo', act: Act, why: string): News => ({
  tone: 'problem',
  text: `Can’t ${role} “${act.label}”. ${why}`,
})

/** A change on its way with the number of the act that it belongs to, once that is known. */
function withNumber(item: Pending, numbers: ReadonlyMap<string, number>): Pending {
  const seq = item.of?.seq ?? numbers.get(item.of?.changeId ?? '') ?? null
  return item.of && seq !== item.of.seq ? { ...item, of: { ...item.of, seq } } : item
}

/** A reel as the server sends it. */
function settledOf({ seq, me, records, log }: ReelState): Settled {
  const labels = new Map(log.map((entry) => [entry.seq, entry.label]))
  const act = (number: number): Act => ({
    seq: number,
    changeId: null,
    label: labels.get(number) ?? '',
    change: null,
  })
  const stacks = stacksFromLog(log, me)
  return { doc: documentOf(records), seq, undo: stacks.undo.map(act), redo: stacks.redo.map(act) }
}

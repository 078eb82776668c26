// The machine under a test: one state, and the events of which its tests are made.
import { cuesInOrder, expectOk, recordsOf, spotCue, type Change, type ReelDocument } from '@yodel/core'
import { testReel } from '../../../../../../packages/core/src/test/testReel.js'
import { syncSteps, type Answer } from '../syncMachine.js'
import { CLOSED, type Logged, type SyncState } from '../syncState.js'

/** The state as the last event left it. */
export let state: SyncState
type Steps = typeof syncSteps
/** An event happens. */
export const step = <K extends keyof Steps>(name: K, payload: Parameters<Steps[K]>[1]): SyncState =>
  (state = (syncSteps[name] as (state: SyncState, payload: unknown) => SyncState)(state, payload))
/** Closes the reel. */
export const reset = (): void => void (state = CLOSED)
/** Nothing waits. */
export const NONE = { pending: [], aside: [], since: [] }

/** A line of the log as an opened reel has it. */
export const log = (
  seq: number,
  label: string,
  author = 'Ines',
  role: 'do' | 'undo' | 'redo' = 'do',
  target: number | null = null,
) => ({
  ...{ seq, author, at: `2026-01-0${seq}`, role, target, label },
})
/** Opens a reel as the server has it, with nothing waiting. */
export function open(doc: ReelDocument = testReel(), seq = 1, lines: ReturnType<typeof log>[] = []): void {
  reset()
  step('open', { reelId: 'r' })
  const reel = { seq, me: 'Ines', records: recordsOf(doc), log: lines }
  step('opened', { task: state.task?.id ?? 0, reel, waiting: NONE })
}
/** A change that drops a cue. */
export const spot = (doc: ReelDocument, id: string, at = 10): Change =>
  expectOk(spotCue(doc, { id, category: 'FX', in: at, out: at + 5 }))
/** Drops a cue here; the change is called like the cue. */
export const does = (id: string, at?: number): SyncState =>
  step('done', { changeId: id, change: spot(state.doc, id, at) })
/** The task under way is answered. */
export const answer = (given: Answer): SyncState =>
  step('answered', { task: state.task?.id ?? 0, answer: given })
/** What was sent is written under a number. */
export const commits = (seq: number, missed: Logged[] = []): SyncState =>
  answer({ kind: 'committed', seq, missed, at: 'now' })
/** A line of the log by somebody else. */
export const theirs = (seq: number, change: Change, author = 'Idris'): Logged => ({
  ...{ seq, changeId: `theirs${seq}`, author, at: '', role: 'do', target: null, change },
})
/** Ids of the cues shown, in order. */
export const ids = (): string[] => cuesInOrder(state.doc).map((cue) => cue.id)
/** Ids of the changes that wait. */
export const waiting = (): string[] => state.pending.map((item) => item.changeId)
/** What was told last. */
export const news = (): string[] => state.news.map(({ text }) => text)

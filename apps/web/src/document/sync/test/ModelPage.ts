import { apply, checkChange, isEmpty, type Change, type ReelDocument, type Result } from '@yodel/core'
import { syncSteps, type Waiting } from '../syncMachine.js'
import { CLOSED, type Pending, type SyncState, type Task } from '../syncState.js'
import type { Queue } from '../WaitingStore.js'
import type { ModelLog } from './ModelLog.js'

/** What is around a page: the log, luck, and the disk of its browser. */
interface Surroundings {
  readonly log: ModelLog
  chance(share: number): boolean
  away(): boolean
  leftBehind(browser: number): Queue[]
  takenOver(kept: ReadonlySet<Queue>): void
}

/** A page of a browser: its state, what of it is on disk, and the answers that are on their way to it. */
export class ModelPage {
  state: SyncState = CLOSED
  disk: Queue = { seq: 0, pending: [], aside: [] }
  /** Changes done here, so that none can vanish unseen; with the ids of cues that each adds or words. */
  readonly did: Pending[] = []
  readonly answers: (() => void)[] = []
  /** An act was passed over because nothing of it was left; the stacks then differ from the log's by it. */
  passedOver = false
  private readonly taken = new Set<Queue>()
  private asked = 0
  private read = ''

  constructor(
    private readonly world: Surroundings,
    readonly me: string,
    readonly browser: number,
  ) {
    this.step('open', { reelId: 'r' })
  }

  step<K extends keyof typeof syncSteps>(name: K, payload: Parameters<(typeof syncSteps)[K]>[1]): void {
    const before = this.state
    this.state = (syncSteps[name] as (state: SyncState, payload: unknown) => SyncState)(before, payload)
    if (
      this.state.news !== before.news &&
      this.state.news.some(({ text }) => text.includes('Nothing of it'))
    ) {
      this.passedOver = true
    }
    this.ask()
  }

  /** Writes what waits, as it is now, to disk. */
  write(): void {
    if (this.state.phase !== 'open') return
    const { settled, pending, aside } = this.state
    this.disk = { seq: settled.seq, pending, aside }
    this.world.takenOver(this.taken)
    this.step('written', { pending, aside, ok: true })
  }

  edit(compute: (doc: ReelDocument) => Result<Change>, changeId: string): void {
    if (this.state.phase !== 'open') return
    const change = compute(this.state.doc)
    if (!change.ok || isEmpty(change.value)) return
    const after = apply(this.state.doc, change.value)
    if (!after.ok || !checkChange(after.value, change.value).ok) return
    this.did.push({ changeId, role: 'do', of: null, change: change.value })
    this.step('done', { changeId, change: change.value })
  }

  /** Puts the answer of a task that has been begun among those on their way; a lost one is an answer that the server is away. */
  private ask(): void {
    const { task, turns, reelId } = this.state
    const act = turns[0] && this.state[turns[0].role].at(-1)
    const wanted = act && !act.change && act.seq !== null ? `${turns[0]?.changeId} ${act.seq}` : ''
    if (wanted && wanted !== this.read) {
      const seq = act?.seq ?? 0
      const lost = this.world.chance(0.2)
      const change = lost ? null : (this.world.log.entries[seq - 1]?.change ?? null)
      this.answers.push(() => this.step('bodyRead', { reelId: reelId ?? '', seq, change }))
    }
    this.read = wanted
    if (!task || task.id <= this.asked) return
    this.asked = task.id
    this.answers.push(() => this.answer(task))
  }

  private answer(task: Task): void {
    const { world } = this
    const reached = !world.away()
    if (task.kind === 'pause') return this.step('pauseOver', { task: task.id })
    if (task.kind === 'open') return this.open(task.id, reached)
    if (!reached)
      return this.step('answered', { task: task.id, answer: { kind: world.chance(0.2) ? 'full' : 'away' } })
    const { log } = world
    const answer =
      task.kind === 'send'
        ? log.commit(this.me, task)
        : ({ kind: 'caughtUp', changes: log.since(task.since) } as const)
    const arrives = world.chance(0.12) ? ({ kind: 'away' } as const) : answer
    const tell = (): void => this.step('answered', { task: task.id, answer: arrives })
    // On its way while others go on; now and then it comes twice.
    this.answers.push(tell)
    if (world.chance(0.1)) this.answers.push(tell)
  }

  private open(task: number, reached: boolean): void {
    const { world } = this
    if (!reached)
      return this.step('openFailed', {
        task,
        why: 'away',
        kind: this.state.phase === 'open' && world.chance(0.3) ? 'failed' : 'away',
      })
    const found = this.state.phase === 'opening' ? world.leftBehind(this.browser) : []
    const seqs = [
      ...found.map(({ seq }) => seq),
      ...(this.state.pending.length > 0 ? [this.state.settled.seq] : []),
    ]
    const since = seqs.length > 0 ? world.log.since(Math.min(...seqs)) : []
    const reel = world.log.open(this.me)
    this.answers.push(() => {
      if (this.state.task?.id !== task) return
      for (const kept of found) this.taken.add(kept)
      this.step('opened', { task, reel, waiting: joined(found, since) })
    })
  }

  /** Takes over what pages of this browser that have gone left behind. */
  adopt(): void {
    if (this.state.phase !== 'open') return
    const found = this.world.leftBehind(this.browser).filter((kept) => !this.taken.has(kept))
    for (const kept of found) this.taken.add(kept)
    if (found.length === 0) return
    const since = this.world.log.since(Math.min(this.state.settled.seq, ...found.map(({ seq }) => seq)))
    this.step('adopted', { ...joined(found, since), since })
  }

  settledDown(): boolean {
    const { phase, task, pending, turns } = this.state
    return (
      phase === 'open' && !task && pending.length === 0 && turns.length === 0 && this.answers.length === 0
    )
  }
}

const joined = (found: readonly Queue[], since: Waiting['since']): Waiting => ({
  pending: found.flatMap(({ pending }) => pending),
  aside: found.flatMap(({ aside }) => aside),
  since,
})

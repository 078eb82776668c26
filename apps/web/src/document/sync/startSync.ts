import { FetchFailed, catchUp, fetchBody, fetchReel, fetchSince, sendChange } from './syncWire.js'
import type { Answer, Waiting } from './syncMachine.js'
import type { News, SyncState, Task } from './syncState.js'
import type { Found, WaitingStore } from './WaitingStore.js'
import type { documentActions } from '../documentSlice.js'

type Event = ReturnType<(typeof documentActions)[keyof typeof documentActions]>

/** The store as far as syncing needs it. */
interface Around {
  readonly state: () => SyncState
  readonly subscribe: (listener: () => void) => () => void
  readonly dispatch: (event: Event) => void
  readonly actions: typeof documentActions
  readonly tell: (news: News) => void
  readonly disk: Pick<WaitingStore, 'hold' | 'leftBehind' | 'put'>
}

/** Every so many milliseconds it is looked again whether a page that has gone left something behind. */
const LOOK_AGAIN_MS = 3000

/**
 * Does what the sync machine's state asks for: its task at the server, the reading of bodies for undo, the writing
 * of what waits to the browser's database, the telling of news. It decides nothing; every outcome is an event.
 *
 * @returns Ends it.
 */
export function startSync(around: Around): () => void {
  const { state, dispatch, actions, tell } = around
  let task: Task | null = null
  let working = new AbortController()
  let reading = ''
  let { news } = state()
  const taken = new Set<string>()

  const work = (now: SyncState): void => {
    if (now.task === task) return
    working.abort()
    task = now.task
    if (!task) return
    working = new AbortController()
    const { signal } = working
    doTask(around, now, task, taken, signal).then(dispatch, (error: unknown) => {
      // Whoever breaks off a task has put another in its place.
      if (!signal.aborted) throw error
    })
  }

  const read = (now: SyncState): void => {
    const [press] = now.turns
    const act = press && now[press.role].at(-1)
    const { reelId } = now
    const wanted = act && !act.change && act.seq !== null ? `${reelId} ${act.seq} ${press.changeId}` : ''
    if (wanted === reading) return
    reading = wanted
    if (!wanted || act?.seq == null || reelId === null) return
    const { seq } = act
    void fetchBody(reelId, seq, AbortSignal.timeout(20_000)).then((change) => {
      dispatch(actions.bodyRead({ reelId, seq, change }))
    })
  }

  const look = (): void => {
    const now = state()
    work(now)
    read(now)
    writer.look(now)
    if (now.news === news) return
    news = now.news
    news.forEach(tell)
  }
  const writer = new QueueWriter(around, taken)
  const adopting = setInterval(() => void adopt(around, taken).catch(() => undefined), LOOK_AGAIN_MS)
  const end = around.subscribe(look)
  look()
  return () => {
    end()
    clearInterval(adopting)
    working.abort()
  }
}

/** Lets what was done be shown first: sending it takes a while, too. */
const shown = (): Promise<void> => new Promise((resolve) => setTimeout(resolve))

async function doTask(
  around: Around,
  now: SyncState,
  task: Task,
  taken: Set<string>,
  signal: AbortSignal,
): Promise<Event> {
  const { actions } = around
  const answered = (answer: Answer): Event => actions.answered({ task: task.id, answer })
  const reelId = now.reelId ?? ''
  switch (task.kind) {
    case 'open':
      return open(around, now, task, taken, signal)
    case 'send':
      await shown()
      return answered(await sendChange(reelId, task, signal))
    case 'catchUp':
      return answered(await catchUp(reelId, task.since, signal))
    case 'pause':
      await new Promise((resolve) => setTimeout(resolve, task.ms))
      return actions.pauseOver({ task: task.id })
  }
}

/** Fetches a reel with what waits for it: what this page or one that has gone left, as far as the log has not got it. */
async function open(
  around: Around,
  now: SyncState,
  task: Task,
  taken: Set<string>,
  signal: AbortSignal,
): Promise<Event> {
  const { actions, disk } = around
  const reelId = now.reelId ?? ''
  try {
    // A reel that is open already holds what waits; all that is wanted is to know what of it was written.
    const fresh = now.phase === 'opening'
    // Asked for at once: where nothing waits, which is nearly always, that answer will do.
    const early = fresh ? fetchReel(reelId, signal) : null
    early?.catch(() => undefined)
    if (fresh) await disk.hold(reelId).catch(() => undefined)
    const queues = fresh ? await disk.leftBehind(reelId).catch(() => []) : []
    const seqs = [...queues.map(({ seq }) => seq), ...(now.pending.length > 0 ? [now.settled.seq] : [])]
    const since = seqs.length > 0 ? await fetchSince(reelId, Math.min(...seqs), signal) : []
    // A reel must not be older than what is known of the log beside it.
    const reel = await (seqs.length === 0 && early ? early : fetchReel(reelId, signal))
    return actions.opened({ task: task.id, reel, waiting: joined(queues, since, taken) })
  } catch (error) {
    if (signal.aborted) throw error
    const { message, kind } =
      error instanceof FetchFailed ? error : { message: String(error), kind: 'failed' as const }
    return actions.openFailed({ task: task.id, why: message, kind })
  }
}

function joined(queues: readonly Found[], since: Waiting['since'], taken: Set<string>): Waiting {
  for (const { key } of queues) taken.add(key)
  return {
    pending: queues.flatMap(({ pending }) => pending),
    aside: queues.flatMap(({ aside }) => aside),
    since,
  }
}

/** Writes what waits whenever it has changed, one write after the other, and says whether it could be written. */
class QueueWriter {
  private last: SyncState | null = null
  private queued: SyncState | null = null
  private writing = false

  constructor(
    private readonly around: Around,
    private readonly taken: Set<string>,
  ) {}

  look(now: SyncState): void {
    const { last } = this
    if (now.reelId === null || (now.phase !== 'open' && now.phase !== 'missing')) return
    if (now.disk === 'kept' || (now.pending === last?.pending && now.aside === last.aside)) return
    this.last = now
    this.queued = now
    if (!this.writing) void this.drain()
  }

  private async drain(): Promise<void> {
    this.writing = true
    for (let now = this.queued; now; now = this.queued) {
      this.queued = null
      const { reelId, settled, pending, aside } = now
      const over = [...this.taken].filter((key) => key.includes(reelId ?? ''))
      const ok = await this.around.disk.put(reelId ?? '', { seq: settled.seq, pending, aside }, over).then(
        () => true,
        () => false,
      )
      if (ok) for (const key of over) this.taken.delete(key)
      this.around.dispatch(this.around.actions.written({ pending, aside, ok }))
    }
    this.writing = false
  }
}

/** Looks now and then whether another page of the open reel has gone and left something behind, and takes it over. */
async function adopt({ state, dispatch, actions, disk }: Around, taken: Set<string>): Promise<void> {
  const { phase, reelId } = state()
  if (phase !== 'open' || reelId === null) return
  const queues = (await disk.leftBehind(reelId)).filter(({ key, own }) => !own && !taken.has(key))
  if (queues.length === 0) return
  const from = Math.min(state().settled.seq, ...queues.map(({ seq }) => seq))
  const since = await fetchSince(reelId, from, AbortSignal.timeout(20_000))
  if (state().reelId !== reelId || state().phase !== 'open') return
  dispatch(actions.adopted({ ...joined(queues, since, taken), since }))
}

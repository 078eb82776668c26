import { createStore, promisifyRequest, type UseStore } from 'idb-keyval'
import { PageLocks } from './pageLocks.js'
import type { Aside, Pending } from './syncState.js'

/** What of a reel waits in a page, so that neither a reload nor a server that is away loses it. */
export interface Queue {
  /** Number of the log that the waiting changes stand on. */
  readonly seq: number
  readonly pending: readonly Pending[]
  readonly aside: readonly Aside[]
}

/** A queue as it was found. */
export interface Found extends Queue {
  readonly key: string
  /** Whether it is this page's, from when the reel was open here before. */
  readonly own: boolean
}

const PREFIX = 'waiting:'
const lockOf = (key: string): string => `yodel:${key}`

/**
 * Keeps what waits in the browser's own database: a queue for each page and reel, so that no two pages of one reel
 * can take each other's changes away. A page holds a lock under the name of its queue for as long as it lives; a
 * queue whose lock nobody holds was left behind by a page that has gone, and whoever has the reel open takes it over.
 */
export class WaitingStore {
  private readonly store: UseStore
  private readonly page = crypto.randomUUID()
  private readonly locks = new PageLocks()

  constructor(store: UseStore = createStore('keyval-store', 'keyval')) {
    this.store = store
  }

  /** Takes the lock of this page's queue of a reel. From now on no other page takes it over. */
  hold(reelId: string): Promise<void> {
    return this.locks.hold(lockOf(this.keyOf(reelId)))
  }

  /** The queues of a reel that belong to this page or to one that has gone; they stay until {@link put} replaces them. */
  async leftBehind(reelId: string): Promise<Found[]> {
    const alive = await this.locks.alive()
    return (await this.queues(reelId)).filter(({ key, own }) => own || !alive.has(lockOf(key)))
  }

  /**
   * Writes this page's queue, and in the same transaction removes those that it has taken over.
   *
   * @throws DOMException when the browser can't write, for instance because its disk is full
   */
  async put(reelId: string, queue: Queue, takenOver: readonly string[] = []): Promise<void> {
    const key = this.keyOf(reelId)
    await this.store('readwrite', (objects) => {
      for (const other of takenOver) if (other !== key) objects.delete(other)
      if (queue.pending.length + queue.aside.length > 0) objects.put(queue, key)
      else objects.delete(key)
      return promisifyRequest(objects.transaction)
    })
  }

  private keyOf(reelId: string): string {
    return `${PREFIX}${reelId}:${this.page}`
  }

  private async queues(reelId: string): Promise<Found[]> {
    // An earlier version kept one queue a reel, under the reel's name alone.
    const range = IDBKeyRange.bound(`${PREFIX}${reelId}`, `${PREFIX}${reelId}:\uffff`)
    const [keys, values] = await this.store('readonly', (objects) =>
      Promise.all([promisifyRequest(objects.getAllKeys(range)), promisifyRequest(objects.getAll(range))]),
    )
    return values.map((value: Partial<Queue>, at) => ({
      ...{ seq: 0, pending: [], aside: [], ...value },
      key: String(keys[at]),
      own: keys[at] === this.keyOf(reelId),
    }))
  }
}

import { takeAboutSchema, takeEndSchema, type TakeAbout, type TakeEnd } from '@yodel/core'
import { createStore, promisifyRequest, type UseStore } from 'idb-keyval'
import { PageLocks } from '../../document/sync/pageLocks.js'

const lockOf = (id: string): string => `yodel-take:${id}`
const aboutOf = (id: string): string => `about:${id}`
const partOf = (id: string, from: number): string => `part:${id}:${String(from).padStart(14, '0')}`
const partsOf = (id: string): IDBKeyRange => IDBKeyRange.bound(`part:${id}:`, `part:${id}:\uffff`)

/** Samples of a take from a sample of each channel on, channels interleaved. */
export interface TakePart {
  readonly from: number
  readonly samples: Float32Array<ArrayBuffer>
}

/** A take as this browser has it. */
export interface StoredTake {
  readonly about: TakeAbout
  /** How it ended; null where the page went before that. */
  readonly end: TakeEnd | null
}

/**
 * Keeps takes in the browser's own database until they stand on the reel, so that neither a killed page nor a server that is away
 * loses what was recorded. A take whose lock nobody holds was left behind by a page that has gone.
 */
export class TakeStore {
  private readonly locks = new PageLocks()
  private opened: UseStore | null = null

  /** Keeps what is known of a take, and holds it for this page. */
  async begin(about: TakeAbout): Promise<void> {
    await this.locks.hold(lockOf(about.id))
    await this.put(aboutOf(about.id), { about, end: null } satisfies StoredTake)
  }

  /** Keeps a part of it. @throws DOMException when the browser has no room */
  add(id: string, { from, samples }: TakePart): Promise<void> {
    return this.put(partOf(id, from), samples)
  }

  /** Keeps how it ended. */
  async end(about: TakeAbout, end: TakeEnd): Promise<void> {
    await this.put(aboutOf(about.id), { about, end } satisfies StoredTake)
  }

  /** The parts of a take that reach beyond a sample, in order. */
  async parts(id: string, beyond = 0, channels = 1): Promise<TakePart[]> {
    const [keys, values] = await this.store('readonly', (objects) =>
      Promise.all([
        promisifyRequest(objects.getAllKeys(partsOf(id))),
        promisifyRequest(objects.getAll(partsOf(id)) as IDBRequest<TakePart['samples'][]>),
      ]),
    )
    return values
      .map((samples, index) => ({ from: Number(String(keys[index]).split(':')[2]), samples }))
      .filter(({ from, samples }) => from + samples.length / channels > beyond)
  }

  /** Takes of a reel whose pages have gone. They are this page's from now on. */
  async adopt(reelId: string): Promise<StoredTake[]> {
    return this.locks.alone('yodel-take-adopt', async () => {
      const alive = await this.locks.alive()
      const all = await this.store('readonly', (objects) =>
        promisifyRequest(
          objects.getAll(IDBKeyRange.bound('about:', 'about:\uffff')) as IDBRequest<unknown[]>,
        ),
      )
      const left = all.flatMap((value): StoredTake[] => {
        const { about, end } = value as Partial<StoredTake>
        const read = takeAboutSchema.safeParse(about)
        if (!read.success || read.data.reelId !== reelId || alive.has(lockOf(read.data.id))) return []
        return [{ about: read.data, end: takeEndSchema.safeParse(end).data ?? null }]
      })
      for (const { about } of left) await this.locks.hold(lockOf(about.id))
      return left
    })
  }

  /** Ids of takes that some page of this browser holds. */
  async held(): Promise<ReadonlySet<string>> {
    const names = [...(await this.locks.alive())].filter((name) => name.startsWith(lockOf('')))
    return new Set(names.map((name) => name.slice(lockOf('').length)))
  }

  /** Leaves a take to whoever opens its reel next. */
  release(id: string): void {
    this.locks.release(lockOf(id))
  }

  /** Forgets a take: it stands on the reel. */
  async forget(id: string): Promise<void> {
    await this.store('readwrite', (objects) => {
      objects.delete(aboutOf(id))
      objects.delete(partsOf(id))
      return promisifyRequest(objects.transaction)
    })
    this.release(id)
  }

  /** Opened when it is needed first: a page that records nothing has no such database. */
  private get store(): UseStore {
    return (this.opened ??= createStore('yodel-takes', 'takes'))
  }

  /** @throws Error where the browser has no database, or no room */
  private async put(key: string, value: unknown): Promise<void> {
    await this.store('readwrite', (objects) => {
      objects.put(value, key)
      return promisifyRequest(objects.transaction)
    })
  }
}

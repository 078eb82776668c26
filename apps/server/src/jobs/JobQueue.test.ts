import { JOB_KINDS, type JobKind } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { openDatabase } from '../db/dataSource.js'
import { JobEntity } from '../db/entities.js'
import type { JobRow } from '../db/rows.js'
import { freshDatabase } from '../test/testServer.js'
import { JobQueue, type JobContext, type JobHandlers } from './JobQueue.js'

let database: Awaited<ReturnType<typeof freshDatabase>>
let db: DataSource
const queues: JobQueue[] = []
const errors: unknown[] = []

/** Work that goes on until it is told to end, or is aborted; what it was given is kept. */
class Work {
  readonly given: { kind: string; payload: unknown; context: JobContext }[] = []
  private readonly ends = new Map<string, (error?: Error) => void>()

  handlers(): JobHandlers {
    const does = (kind: string) => (payload: unknown, context: JobContext) => {
      this.given.push({ kind, payload, context })
      return new Promise<never>((resolve, reject) => {
        const end = (error?: Error): void => (error ? reject(error) : resolve({ peak: -1 } as never))
        this.ends.set(kind, end)
        context.signal.addEventListener('abort', () => reject(new Error('broken off')))
      })
    }
    return Object.fromEntries(
      Object.keys(JOB_KINDS).map((kind) => [kind, does(kind)]),
    ) as unknown as JobHandlers
  }
  end(kind: JobKind, error?: Error): void {
    this.ends.get(kind)?.(error)
  }
  kinds(): string[] {
    return this.given.map(({ kind }) => kind)
  }
}

/** What jobs were about heard of them. */
const told: string[] = []

function queueOf(work: Work): JobQueue {
  const log = { error: (line: unknown) => void errors.push(line), info: () => undefined } as never
  const queue = new JobQueue(db, work.handlers(), log, async ({ kind }, state, message) => {
    told.push([kind, state, message].join(' ').trim())
  })
  queues.push(queue)
  return queue
}

const row = async (id: string): Promise<JobRow> => db.getRepository(JobEntity).findOneByOrFail({ id })
async function until(holds: () => boolean | Promise<boolean>, what: string): Promise<void> {
  for (let tries = 0; tries < 200; tries++) {
    if (await holds()) return
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
  throw new Error(`never came: ${what}`)
}
const reaches = (id: string, state: string): Promise<void> =>
  until(async () => (await row(id)).state === state, `${id} ${state}`)

beforeAll(async () => {
  database = await freshDatabase()
  db = await openDatabase(database.url)
})
afterAll(async () => {
  await db.destroy()
  await database.drop()
})
beforeEach(async () => {
  told.length = 0
  await db.query('DELETE FROM job')
})
afterEach(async () => {
  for (const queue of queues.splice(0)) await queue.stop()
  expect(errors.splice(0)).toEqual([])
})

describe('the queue of long work', () => {
  it('does a job with what it was given, says how far it is, and keeps what it leaves', async () => {
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    const id = await queue.add('bounce', 'Bouncing Reel 1', { reelId: 'r' })
    await until(() => work.given.length === 1, 'its start')
    expect(work.given[0]).toMatchObject({ kind: 'bounce', payload: { reelId: 'r' } })
    work.given[0]?.context.progress(0.5, 'Mixing')
    await until(async () => (await row(id)).progress === 0.5, 'its progress')
    expect(await row(id)).toMatchObject({ state: 'running', message: 'Mixing', attempts: 1 })
    work.end('bounce')
    await reaches(id, 'done')
    expect(await row(id)).toMatchObject({ progress: 1, result: { peak: -1 } })
  })

  it('never has an hour of listening hold up a bounce', async () => {
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    const first = await queue.add('index', 'Indexing A', { shelfId: 'a' })
    const second = await queue.add('index', 'Indexing B', { shelfId: 'b' })
    await queue.add('picture', 'Preparing', { id: 'p' })
    await queue.add('bounce', 'Bouncing', { reelId: 'r' })
    await until(() => work.given.length === 3, 'one of each lane')
    expect(work.kinds().sort()).toEqual(['bounce', 'index', 'picture'])
    expect([(await row(first)).state, (await row(second)).state]).toEqual(['running', 'waiting'])
    work.end('index')
    await until(() => work.given.length === 4, 'the next of the lane')
    expect((await row(second)).state).toBe('running')
  })

  it('says why a job failed, in the first line of what went wrong', async () => {
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    const id = await queue.add('bounce', 'Bouncing', { reelId: 'r' })
    await until(() => work.given.length === 1, 'its start')
    work.end('bounce', new Error('A placed sound is on no shelf.\n  at somewhere'))
    await reaches(id, 'failed')
    expect(await row(id)).toMatchObject({ message: 'A placed sound is on no shelf.', result: null })
  })

  it('tries anew what failed or was cancelled, as if it had never been tried', async () => {
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    const id = await queue.add('picture', 'Preparing', { id: 'p' })
    await until(() => work.given.length === 1, 'its start')
    work.end('picture', Object.assign(new Error('write'), { code: 'ENOSPC' }))
    await reaches(id, 'failed')
    expect((await row(id)).message).toMatch(/^The disk is full, so what “Preparing” makes was not written/)
    await queue.resume(id)
    await until(() => work.given.length === 2, 'its second try')
    expect(await row(id)).toMatchObject({ state: 'running', attempts: 1, message: '' })
    expect(told).toEqual([expect.stringMatching(/^picture failed The disk is full/), 'picture waiting'])
    await queue.cancel(id)
    await until(() => work.given[1]?.context.signal.aborted === true, 'its end')
    await queue.resume(id)
    await until(() => work.given.length === 3, 'its third try')
    work.end('picture')
    await reaches(id, 'done')
    await queue.resume(id)
    expect((await row(id)).state).toBe('done')
  })

  it('cancels what runs, at once, and what waits, before it begins', async () => {
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    const running = await queue.add('bounce', 'Bouncing', { reelId: 'a' })
    const waiting = await queue.add('bounce', 'Bouncing', { reelId: 'b' })
    await until(() => work.given.length === 1, 'its start')
    await queue.cancel(waiting)
    await queue.cancel(running)
    expect(work.given[0]?.context.signal.aborted).toBe(true)
    await until(() => true, 'a moment')
    expect([(await row(running)).state, (await row(waiting)).state]).toEqual(['cancelled', 'cancelled'])
    await queue.cancel(running)
    expect(work.given).toHaveLength(1)
  })

  it('pauses and goes on, with its attempts counted anew', async () => {
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    const id = await queue.add('index', 'Indexing', { shelfId: 'a' })
    await until(() => work.given.length === 1, 'its start')
    await queue.pause(id)
    expect(work.given[0]?.context.signal.aborted).toBe(true)
    await new Promise((resolve) => setTimeout(resolve, 100))
    expect((await row(id)).state).toBe('paused')
    await queue.resume(id)
    await until(() => work.given.length === 2, 'its going on')
    expect(await row(id)).toMatchObject({ state: 'running', attempts: 1 })
  })

  it('stops in another process at its next beat', async () => {
    const work = new Work()
    const running = queueOf(work)
    running.start()
    const id = await running.add('index', 'Indexing', { shelfId: 'a' })
    await until(() => work.given.length === 1, 'its start')
    await queueOf(new Work()).cancel(id)
    await until(() => work.given[0]?.context.signal.aborted === true, 'the other process hears of it')
  })

  it('puts its jobs back when the server stops, and the next server takes them up', async () => {
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    const id = await queue.add('bounce', 'Bouncing', { reelId: 'r' })
    await until(() => work.given.length === 1, 'its start')
    await queue.stop()
    expect(await row(id)).toMatchObject({ state: 'waiting', attempts: 0 })
    const next = new Work()
    queueOf(next).start()
    await until(() => next.given.length === 1, 'the next server')
  })

  it('takes up what a killed server left, until three have died of it', async () => {
    const left = {
      kind: 'bounce',
      title: 'Bouncing',
      payload: { reelId: 'r' },
      state: 'running',
      message: '',
    }
    const long = new Date(Date.now() - 60_000)
    const insert = (id: string, attempts: number) =>
      db.getRepository(JobEntity).insert({ ...left, id, attempts, beatAt: long, createdAt: long } as never)
    await insert('again', 2)
    const work = new Work()
    const queue = queueOf(work)
    queue.start()
    await until(() => work.given.length === 1, 'it is taken up')
    work.end('bounce')
    await reaches('again', 'done')
    await insert('deadly', 3)
    await reaches('deadly', 'failed')
    expect((await row('deadly')).message).toMatch(/given up after 3 attempts/)
    await until(() => told.length === 1, 'what it is about hears of it')
    expect(told[0]).toMatch(/^bounce failed given up after 3 attempts/)
    expect(work.given).toHaveLength(1)
  })

  it('leaves alone what another process is doing', async () => {
    const [one, other] = [new Work(), new Work()]
    const queue = queueOf(one)
    queue.start()
    const id = await queue.add('bounce', 'Bouncing', { reelId: 'r' })
    await until(() => one.given.length === 1, 'its start')
    queueOf(other).start()
    await new Promise((resolve) => setTimeout(resolve, 200))
    expect(other.given).toHaveLength(0)
    one.end('bounce')
    await reaches(id, 'done')
  })

  it('refuses a job that was given something else than its kind needs', async () => {
    await db.getRepository(JobEntity).insert({
      ...{ id: 'odd', kind: 'bounce', title: 'Bouncing', payload: { reel: 7 } as never, state: 'waiting' },
      ...{ message: '', progress: 0, attempts: 0, createdAt: new Date() },
    } as never)
    queueOf(new Work()).start()
    await reaches('odd', 'failed')
    expect((await row('odd')).message).toMatch(/something else than a bounce needs/)
  })

  it('leaves kinds that it doesn’t know to a server that does', async () => {
    await db.getRepository(JobEntity).insert({
      ...{ id: 'later', kind: 'package', title: 'Packing', payload: {} as never, state: 'waiting' },
      ...{ message: '', progress: 0, attempts: 0, createdAt: new Date() },
    } as never)
    expect(Object.keys(JOB_KINDS)).not.toContain('package')
    queueOf(new Work()).start()
    await new Promise((resolve) => setTimeout(resolve, 200))
    expect((await row('later')).state).toBe('waiting')
  })
})

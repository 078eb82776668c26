import type { DataSource } from 'typeorm'
import { ShelfEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import type { JobQueue } from '../jobs/JobQueue.js'
import { HEARD_VERSION } from './hearShelf.js'
import type { ShelfWatcher } from './ShelfWatcher.js'

/** What indexing is started with. */
interface IndexingDeps {
  readonly db: DataSource
  readonly jobs: JobQueue
  /** Shelves that something has happened on while they were being indexed: perhaps behind the back of that run. */
  readonly again: Set<string>
}

/**
 * Starts indexing a shelf and returns the job; while that is under way or paused already, its job goes on and is the answer,
 * and the shelf is looked through once more after it.
 *
 * @throws AppError `NOT_FOUND`
 */
export async function reindex({ db, jobs, again }: IndexingDeps, shelfId: string): Promise<string> {
  const shelves = db.getRepository(ShelfEntity)
  const shelf = await shelves.findOneBy({ id: shelfId })
  if (!shelf) throw new AppError('NOT_FOUND', `There is no shelf ${shelfId}; it may have been taken out.`)
  const running = shelf.jobId === null ? null : await jobs.find(shelf.jobId)
  if (running?.state === 'paused') await jobs.resume(running.id)
  if (running?.state === 'running') again.add(shelf.id)
  if (running && ['waiting', 'running', 'paused'].includes(running.state)) return running.id
  const jobId = await jobs.add('index', `Indexing ${shelf.name}`, { shelfId: shelf.id })
  await shelves.update({ id: shelf.id }, { jobId })
  return jobId
}

/** On a start: watches all shelves, and listens to what an older version of Yodel has not heard. */
export async function wakeShelves(services: IndexingDeps & { watcher: ShelfWatcher }): Promise<void> {
  const stale = (await services.db.query(
    'SELECT DISTINCT shelf_id AS id FROM sound WHERE measured < $1 AND NOT missing',
    [HEARD_VERSION],
  )) as { id: string }[]
  for (const { id } of stale) await reindex(services, id)
  for (const shelf of await services.db.getRepository(ShelfEntity).find()) await services.watcher.watch(shelf)
}

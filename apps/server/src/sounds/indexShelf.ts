import type { JobResult } from '@yodel/core'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { ShelfEntity } from '../db/entities.js'
import { reasonOf } from '../errors.js'
import type { JobContext } from '../jobs/JobQueue.js'
import { refreshTerms } from '../search/expandWords.js'
import { hearShelf, type HearingDeps } from './hearShelf.js'
import { listRecordings } from './listRecordings.js'
import { readShelf } from './readShelf.js'
import { countSounds } from './shelves.js'
import { refreshCells } from './similarSounds.js'

/** What an index run found, by kind. */
export type IndexCounts = JobResult<'index'>

/** What the index works with. */
export interface IndexDeps extends HearingDeps {
  readonly db: DataSource
}

/**
 * Indexes a shelf in two passes. The first reads what files say of themselves, quickly, so that they can be found;
 * the second listens to what is new. What is new, changed, moved (told by content) and gone is counted; what can't be read is listed
 * with its reason, and the rest goes on. Nothing on the shelf is copied or touched. Safe to break off and to run again at any time.
 *
 * @throws Error when the shelf's folder is not there: its disk is away then, and nothing counts as gone.
 */
export async function indexShelf(
  deps: IndexDeps,
  shelfId: string,
  context: JobContext,
): Promise<IndexCounts> {
  const shelves = deps.db.getRepository(ShelfEntity)
  const shelf = await shelves.findOneByOrFail({ id: shelfId })
  const counts: IndexCounts = { fresh: 0, changed: 0, moved: 0, same: 0, gone: 0, problems: 0 }
  const problems: { path: string; reason: string }[] = []
  context.progress(0, 'Looking through the folders')
  const others = new Set(
    (await shelves.find())
      .filter((other) => other.root.startsWith(shelf.root + path.sep))
      .map((other) => other.root),
  )
  const listing = await listRecordings(shelf.root, others, context.signal).catch(async (error: unknown) => {
    context.signal.throwIfAborted()
    await shelves.update({ id: shelfId }, { away: true })
    throw new Error(
      `${shelf.root} can't be read (${reasonOf(error)}). Its sounds stay in the index; connect the disk and index again.`,
    )
  })
  await shelves.update({ id: shelfId }, { away: false })
  problems.push(...listing.problems)
  Object.assign(counts, listing.passedOver)
  await readShelf(deps, shelf, listing.files, listing.problems, counts, problems, context)
  await refreshTerms(deps.db)
  const unheard = await hearShelf(deps, shelf, context, (part) => 0.3 + 0.7 * part)
  // A file that only the second pass could not read has been seen by the first; both lists are one.
  const known = new Map([...problems, ...unheard].map((problem) => [problem.path, problem]))
  counts.problems = known.size
  await refreshTerms(deps.db)
  await refreshCells(deps.db, context.signal)
  await shelves.update(
    { id: shelfId },
    {
      problems: [...known.values()].sort((a, b) => (a.path < b.path ? -1 : 1)),
      counts: counts as never,
    },
  )
  await countSounds(deps.db, shelfId)
  return counts
}

/** Adds what another run over the same shelf found; what the first had found new is not new any more to the second. */
export function addCounts(counts: IndexCounts, next: IndexCounts): void {
  const before = counts.fresh + counts.changed + counts.moved
  for (const kind of ['fresh', 'changed', 'moved', 'gone'] as const) counts[kind] += next[kind]
  counts.same = Math.max(0, next.same - before)
  counts.problems = next.problems
}

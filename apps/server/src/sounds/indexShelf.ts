import type { JobResult } from '@yodel/core'
import { createHash } from 'node:crypto'
import { stat } from 'node:fs/promises'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { ShelfEntity, type ShelfRow } from '../db/entities.js'
import { reasonOf } from '../errors.js'
import type { JobContext } from '../jobs/JobQueue.js'
import { refreshTerms } from '../search/expandWords.js'
import { hearShelf, type HearingDeps } from './hearShelf.js'
import { listRecordings, type FoundFile } from './listRecordings.js'
import { fingerprintOf, readTags } from './readTags.js'
import { refreshCells } from './similarSounds.js'
import { writeSounds, writtenSounds, type WrittenSound } from './soundRows.js'

/** What an index run found, by kind. */
export type IndexCounts = JobResult<'index'>

/** What the index works with. */
export interface IndexDeps extends HearingDeps {
  readonly db: DataSource
}

const AT_ONCE = 8
const BATCH = 200

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
  await readAll(deps, shelf, listing.files, listing.problems, counts, problems, context)
  await refreshTerms(deps.db)
  const unheard = await hearShelf(deps, shelf, context, (part) => 0.3 + 0.7 * part)
  // A file that only the second pass could not read has been seen by the first; both lists are one.
  const known = new Map([...problems, ...unheard].map((problem) => [problem.path, problem]))
  counts.problems = known.size
  await refreshTerms(deps.db)
  await refreshCells(deps.db, context.signal)
  const [{ n }] = (await deps.db.query(
    'SELECT count(*)::int AS n FROM sound WHERE shelf_id = $1 AND NOT missing',
    [shelfId],
  )) as [{ n: number }]
  await shelves.update(
    { id: shelfId },
    {
      problems: [...known.values()].sort((a, b) => (a.path < b.path ? -1 : 1)),
      counts: counts as never,
      sounds: n,
    },
  )
  return counts
}

async function readAll(
  deps: IndexDeps,
  shelf: ShelfRow,
  files: readonly FoundFile[],
  unread: readonly { path: string }[],
  counts: IndexCounts,
  problems: { path: string; reason: string }[],
  context: JobContext,
): Promise<void> {
  const known = new Map(
    (await writtenSounds(deps.db, 's.shelf_id = $1', [shelf.id])).map((row) => [row.path, row]),
  )
  const here = new Set(files.map((file) => file.path))
  // What is not in its place any more may have been moved: it waits here, by content, for a file to claim it.
  const lost = new Map(
    [...known.values()].filter((row) => !here.has(row.path)).map((row) => [row.content, row]),
  )
  const began = Date.now()
  let batch: WrittenSound[] = []
  const flush = async (): Promise<void> => {
    const rows = batch
    batch = []
    await writeSounds(deps.db, rows)
  }
  const readOne = async (file: FoundFile): Promise<void> => {
    const before = known.get(file.path)
    if (before && before.fingerprint === fingerprintOf(file) && !before.missing) {
      counts.same++
      return
    }
    try {
      const facts = await readTags(shelf.root, file)
      const moved = before ? undefined : lost.get(facts.content)
      if (moved) lost.delete(facts.content)
      const row = before ?? moved
      if (moved) counts.moved++
      else if (!before) counts.fresh++
      // What could not be heard the last time is listed as a problem, not as a change.
      else if (!before.missing || before.measured > 0) counts.changed++
      batch.push(
        merged(
          shelf,
          file.path,
          facts,
          row,
          !before && !moved
            ? await freeId(deps.db, shelf.id, file.path, facts.content)
            : (row as WrittenSound).id,
        ),
      )
    } catch (error) {
      problems.push({ path: file.path, reason: reasonOf(error) })
    }
  }
  for (let at = 0; at < files.length; at += AT_ONCE) {
    context.signal.throwIfAborted()
    await Promise.all(files.slice(at, at + AT_ONCE).map(readOne))
    const done = Math.min(files.length, at + AT_ONCE)
    if (batch.length >= BATCH) await flush()
    const speed = Math.round(done / Math.max(0.001, (Date.now() - began) / 1000))
    context.progress(
      (0.3 * done) / files.length,
      `Read ${done.toLocaleString('en')} of ${files.length.toLocaleString('en')} files, ${speed.toLocaleString('en')} a second`,
    )
  }
  await flush()
  // A disk that went away in the middle has lost nothing: what it holds is only not there to be seen.
  if (!(await stat(shelf.root).catch(() => null)))
    throw new Error(
      `${shelf.root} went away while it was read. Its sounds stay in the index; connect the disk and index again.`,
    )
  const gone = [...lost.values()].filter(
    (row) =>
      !row.missing &&
      !unread.some(
        (problem) => row.path.startsWith(`${problem.path}${path.sep}`) || row.path === problem.path,
      ),
  )
  counts.gone = gone.length
  await writeSounds(
    deps.db,
    gone.map((row) => ({ ...row, missing: true })),
  )
}

type Facts = Awaited<ReturnType<typeof readTags>>

/** A row as it is written anew: what a person has said stays, what the file leaves open the shelf says. */
function merged(
  shelf: ShelfRow,
  file: string,
  facts: Facts,
  before: WrittenSound | undefined,
  id: string,
): WrittenSound {
  const said = (field: 'licence' | 'source' | 'category'): { value: string; from: string } => {
    if (before && before[`${field}From`] === 'person') return { value: before[field], from: 'person' }
    if (facts[field] !== '' || field === 'category') return { value: facts[field], from: 'file' }
    return { value: shelf[field], from: 'shelf' }
  }
  const same = before?.content === facts.content && before.measured > 0
  return {
    ...UNHEARD,
    ...(before ?? {}),
    ...facts,
    id,
    shelfId: shelf.id,
    shelf: shelf.name,
    path: file,
    category: said('category').value,
    categoryFrom: said('category').from,
    licence: said('licence').value,
    licenceFrom: said('licence').from,
    source: said('source').value,
    sourceFrom: said('source').from,
    missing: false,
    ...(same ? { length: before.length } : { measured: 0 }),
  }
}

const UNHEARD = {
  tags: '',
  note: '',
  rating: 0,
  sync: 0,
  peak: -144,
  measured: 0,
  loudness: -70,
  truePeak: -144,
  weight: 0,
  brightness: 0,
  bite: 0,
  noisiness: 0,
  pitch: 0,
  events: 0,
}

/** A sound's id: the same for the same place on the same shelf, so that indexing twice after a crash makes no twins; another where what stood there has moved on. */
async function freeId(db: DataSource, shelfId: string, relative: string, content: string): Promise<string> {
  const hash = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 24)
  const id = hash(`${shelfId}/${relative}`)
  const [taken] = (await db.query('SELECT path FROM sound WHERE id = $1', [id])) as { path: string }[]
  return taken && taken.path !== relative ? hash(`${shelfId}/${relative}/${content}`) : id
}

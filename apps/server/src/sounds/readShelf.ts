import { createHash } from 'node:crypto'
import { stat } from 'node:fs/promises'
import path from 'node:path'
import type { JobResult } from '@yodel/core'
import type { DataSource } from 'typeorm'
import type { ShelfRow } from '../db/rows.js'
import { reasonOf } from '../errors.js'
import type { JobContext } from '../jobs/JobQueue.js'
import type { FoundFile } from './listRecordings.js'
import type { Settings } from '../settings.js'
import { fingerprintOf, readTags } from './readTags.js'
import { countSounds } from './shelves.js'
import { writeSounds, writtenSounds, type WrittenSound } from './soundRows.js'

const AT_ONCE = 8
const BATCH = 200

/**
 * Reads what the files of a shelf say of themselves and writes it, so that they can be found.
 *
 * @param unread - Folders and files that could not be listed: what lies there is not gone.
 * @param counts - Counted up by kind.
 * @param problems - Files that could not be read are added, each with its reason.
 */
export async function readShelf(
  { db, settings }: { readonly db: DataSource; readonly settings: Pick<Settings, 'ffprobe'> },
  shelf: ShelfRow,
  files: readonly FoundFile[],
  unread: readonly { path: string }[],
  counts: JobResult<'index'>,
  problems: { path: string; reason: string }[],
  context: JobContext,
): Promise<void> {
  const known = new Map(
    (await writtenSounds(db, 's.shelf_id = $1', [shelf.id])).map((row) => [row.path, row]),
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
    await writeSounds(db, rows)
  }
  const readOne = async (file: FoundFile): Promise<void> => {
    const before = known.get(file.path)
    if (before && before.fingerprint === fingerprintOf(file) && !before.missing) {
      counts.same++
      return
    }
    try {
      const facts = await readTags(settings, shelf.root, file)
      const moved = before ? undefined : lost.get(facts.content)
      if (moved) lost.delete(facts.content)
      const row = before ?? moved
      if (moved) counts.moved++
      else if (!before) counts.fresh++
      // What could not be heard the last time is listed as a problem, not as a change.
      else if (!before.missing || before.measured > 0) counts.changed++
      const id = row?.id ?? (await freeId(db, shelf.id, file.path, facts.content))
      batch.push(merged(shelf, file.path, facts, row, id))
    } catch (error) {
      problems.push({ path: file.path, reason: reasonOf(error) })
    }
  }
  for (let at = 0; at < files.length; at += AT_ONCE) {
    context.signal.throwIfAborted()
    await Promise.all(files.slice(at, at + AT_ONCE).map(readOne))
    const done = Math.min(files.length, at + AT_ONCE)
    if (batch.length >= BATCH) await flush()
    context.progress((0.3 * done) / files.length, told(done, files.length, Date.now() - began))
  }
  await flush()
  // A disk that went away in the middle has lost nothing: what it holds is only not there to be seen.
  if (!(await stat(shelf.root).catch(() => null)))
    throw new Error(
      `${shelf.root} went away while it was read. Its sounds stay in the index; connect the disk and index again.`,
    )
  const gone = goneOf(lost.values(), unread)
  counts.gone = gone.length
  await writeSounds(
    db,
    gone.map((row) => ({ ...row, missing: true })),
  )
}

/** Reads one file of a shelf at once, ahead of the job, because somebody wants to use it. @param file - Its path below the shelf's root @returns Its id */
export async function readNow(
  { db, settings }: { readonly db: DataSource; readonly settings: Pick<Settings, 'ffprobe'> },
  shelf: ShelfRow,
  file: string,
): Promise<string> {
  const { size, mtimeMs } = await stat(path.join(shelf.root, file))
  const facts = await readTags(settings, shelf.root, { path: file, size, mtimeMs })
  const [before] = await writtenSounds(db, 's.shelf_id = $1 AND s.path = $2', [shelf.id, file])
  if (before?.fingerprint === facts.fingerprint && !before.missing) return before.id
  const id = before?.id ?? (await freeId(db, shelf.id, file, facts.content))
  await writeSounds(db, [merged(shelf, file, facts, before, id)])
  await countSounds(db, shelf.id)
  return id
}

/** Rows whose file is in its place no more, but for those that nobody could look for. */
function goneOf(lost: Iterable<WrittenSound>, unread: readonly { path: string }[]): WrittenSound[] {
  const isUnread = (file: string): boolean =>
    unread.some((problem) => file.startsWith(`${problem.path}${path.sep}`) || file === problem.path)
  return [...lost].filter((row) => !row.missing && !isUnread(row.path))
}

function told(done: number, all: number, ms: number): string {
  const [read, of, speed] = [done, all, Math.round((1000 * done) / Math.max(1, ms))].map((count) =>
    count.toLocaleString('en'),
  )
  return `Read ${read} of ${of} files, ${speed} a second`
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
  const altered = before && before.content !== facts.content ? new Date() : (before?.altered ?? null)
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
    altered,
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

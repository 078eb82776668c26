import { mkdir, rename, rm, stat, statfs, utimes, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { fileName, uniqueNames, type JobPayload, type JobResult } from '@yodel/core'
import { ShowEntity } from '../../db/entities.js'
import { explainDisk, reasonOf } from '../../errors.js'
import type { JobContext } from '../../jobs/JobQueue.js'
import { indexShelf, type IndexDeps } from '../../sounds/indexShelf.js'
import { makeShelf } from '../../sounds/shelves.js'
import { soundPlaces, writeSounds, writtenSounds, type WrittenSound } from '../../sounds/soundRows.js'
import type { FileDeps } from '../make/packSounds.js'
import { gatheredFolder, soundsOfShow } from './recordingsInUse.js'

/**
 * Copies the recordings that a show plays beside it, on a shelf of its own, and lets them be played from there: nothing in
 * its reels changes, and the disk that they came from can go home. Each recording moves over by itself, so that it can be
 * broken off and done again at any time; what can't be copied stays where it is and is named.
 *
 * @throws Error when there is no room; nothing was moved then
 */
export async function gatherSounds(
  deps: FileDeps & IndexDeps,
  { showId }: JobPayload<'gather'>,
  context: JobContext,
): Promise<JobResult<'gather'>> {
  const { db, media } = deps
  const show = await db.getRepository(ShowEntity).findOneByOrFail({ id: showId })
  const folder = await gatheredFolder(media, showId)
  await mkdir(folder, { recursive: true })
  const shelf = await makeShelf(db, folder, `Gathered for ${show.name}`)
  const ids = await soundsOfShow(db, showId)
  const rows = await writtenSounds(db, 's.id = ANY($1) AND s.shelf_id <> $2 ORDER BY s.id', [ids, shelf.id])
  const roots = new Map((await soundPlaces(db, ids)).map(({ id, root }) => [id, root]))
  await needRoom(
    folder,
    rows.reduce((sum, { size }) => sum + size, 0),
  )
  const taken = await writtenSounds(db, 's.shelf_id = $1', [shelf.id])
  const names = uniqueNames([...taken.map((row) => row.path), ...rows.map(nameFor)]).slice(taken.length)
  const left: string[] = []
  let gathered = 0
  for (const [index, row] of rows.entries()) {
    context.signal.throwIfAborted()
    context.progress(index / Math.max(1, rows.length), `Copying ${row.name}`)
    const to = names[index] as string
    try {
      await copyBeside(
        deps,
        path.join(roots.get(row.id) ?? '', row.path),
        path.join(folder, to),
        context.signal,
      )
    } catch (error) {
      context.signal.throwIfAborted()
      const told = explainDisk(error, folder)
      if (told !== error) throw told
      left.push(`${row.name} (${reasonOf(error)})`)
      continue
    }
    await moveRow(deps, row, { shelfId: shelf.id, shelf: shelf.name, path: to })
    gathered++
  }
  await indexShelf(deps, shelf.id, { ...context, progress: () => undefined })
  return { gathered, left }
}

/** Its name as it is, in a folder called after its shelf: names of one library are often those of another. */
const nameFor = ({ shelf, path: inside }: WrittenSound): string =>
  path.join(fileName(shelf), path.basename(inside))

/** Copies a file with its time of change, by which it is known again; it appears when it is whole. */
async function copyBeside(
  { files }: Pick<FileDeps, 'files'>,
  file: string,
  to: string,
  signal: AbortSignal,
): Promise<void> {
  // Hidden files are passed over by the index.
  const unfinished = path.join(path.dirname(to), `.${path.basename(to)}.part`)
  try {
    const { atimeMs, mtimeMs, size } = await stat(file)
    await mkdir(path.dirname(to), { recursive: true })
    await writeFile(unfinished, '')
    const sums = await files.run({ do: 'copy', file, out: unfinished }, { signal })
    if (sums.size !== size) throw new Error('it changed while it was copied; gather again')
    await utimes(unfinished, atimeMs / 1000, mtimeMs / 1000)
    await rename(unfinished, to)
  } finally {
    await rm(unfinished, { force: true })
  }
}

/** Lets a recording be known in another place, with everything that is known of it. */
async function moveRow(
  { db }: Pick<FileDeps, 'db'>,
  row: WrittenSound,
  place: Pick<WrittenSound, 'shelfId' | 'shelf' | 'path'>,
): Promise<void> {
  await db.transaction(async (tx) => {
    // The index may have met the copy before.
    await tx.query('DELETE FROM sound WHERE shelf_id = $1 AND path = $2 AND id <> $3', [
      ...[place.shelfId, place.path, row.id],
    ])
    await writeSounds(tx, [{ ...row, ...place, missing: false }])
  })
}

async function needRoom(folder: string, bytes: number): Promise<void> {
  const { bavail, bsize } = await statfs(folder)
  if (bytes > bavail * bsize)
    throw new Error(
      `The recordings need ${Math.ceil(bytes / 1e6)} MB, and ${Math.floor((bavail * bsize) / 1e6)} MB are free where Yodel keeps its data. Make room and gather again.`,
    )
}

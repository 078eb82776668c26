import { readdir, rm, rmdir, stat } from 'node:fs/promises'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import type { MediaStore } from './MediaStore.js'

/** As long as a package that was sent and not opened stays, so that opening it can be tried again. */
const SENT_MS = 7 * 24 * 3600 * 1000
/** What is written beside its place until it is whole. */
const UNFINISHED = /\.(part|new)$/

/**
 * Takes away what a server that was killed has left in the data folder: files and turnovers that were never whole, and
 * packages that were sent a week ago and that no job will open. Whatever is whole stays, also where this database does not
 * know it: it may be the wrong database. Only before the first job runs.
 *
 * @returns What was taken away, as paths below the data folder.
 */
export async function sweep(
  { db, media }: { readonly db: DataSource; readonly media: MediaStore },
  now: Date,
): Promise<string[]> {
  const swept: string[] = []
  const takeUnfinished = async (...parts: string[]): Promise<void> => {
    const folder = await media.folder(...parts)
    for (const name of (await readdir(folder)).filter((one) => UNFINISHED.test(one))) {
      await rm(path.join(folder, name), { recursive: true, force: true })
      swept.push(path.join(...parts, name))
    }
  }
  for (const kind of ['pcm', 'peaks', 'turnovers']) await takeUnfinished(kind)
  const pictures = await media.folder('pictures')
  for (const id of await readdir(pictures)) {
    await takeUnfinished('pictures', id)
    // Of an upload that broke off nothing else is left; a folder that holds something is not removed.
    await rmdir(path.join(pictures, id)).catch(() => undefined)
  }
  const incoming = await media.folder('incoming')
  const waiting = (await db.query(
    `SELECT payload->>'file' AS file FROM job WHERE kind = 'open' AND state IN ('waiting', 'running', 'paused')`,
  )) as { file: string }[]
  const wanted = new Set(waiting.map(({ file }) => file))
  for (const name of await readdir(incoming)) {
    const file = path.join(incoming, name)
    const sent = await stat(file)
    if (wanted.has(file) || now.getTime() - sent.mtimeMs <= SENT_MS) continue
    await rm(file, { recursive: true, force: true })
    swept.push(path.join('incoming', name))
  }
  return swept
}

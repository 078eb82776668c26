import { readdir, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import type { MediaStore } from './MediaStore.js'

/** As long as a package that was sent and not opened stays, so that opening it can be tried again. */
const SENT_MS = 7 * 24 * 3600 * 1000
/** What is written beside its place until it is whole. */
const UNFINISHED = /\.(part|new)$/

/**
 * Takes away what a server that was killed, or a person who gave up, has left in the data folder: files that were never whole,
 * folders of pictures and turnovers that nothing knows of, packages that were sent a week ago. Only before the first job runs.
 *
 * @returns What was taken away, as paths below the data folder.
 */
export async function sweep(
  { db, media }: { readonly db: DataSource; readonly media: MediaStore },
  now: Date,
): Promise<string[]> {
  const swept: string[] = []
  const take = async (...parts: string[]): Promise<void> => {
    const [kind = '', ...inside] = parts
    await rm(path.join(await media.folder(kind), ...inside), { recursive: true, force: true })
    swept.push(path.join(...parts))
  }
  const idsOf = async (table: 'picture' | 'turnover'): Promise<Set<string>> =>
    new Set(((await db.query(`SELECT id FROM ${table}`)) as { id: string }[]).map(({ id }) => id))
  for (const kind of ['pcm', 'peaks'])
    for (const name of await readdir(await media.folder(kind)))
      if (UNFINISHED.test(name)) await take(kind, name)
  const pictures = await idsOf('picture')
  for (const id of await readdir(await media.folder('pictures')))
    if (!pictures.has(id)) await take('pictures', id)
    else
      for (const name of await readdir(await media.folder('pictures', id)))
        if (UNFINISHED.test(name)) await take('pictures', id, name)
  const turnovers = await idsOf('turnover')
  for (const id of await readdir(await media.folder('turnovers')))
    if (!turnovers.has(id)) await take('turnovers', id)
  for (const name of await readdir(await media.folder('incoming'))) {
    const sent = await stat(path.join(await media.folder('incoming'), name)).catch(() => null)
    if (sent && now.getTime() - sent.mtimeMs > SENT_MS) await take('incoming', name)
  }
  return swept
}

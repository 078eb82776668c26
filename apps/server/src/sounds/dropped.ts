import { randomUUID } from 'node:crypto'
import { mkdir, rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { ShelfEntity } from '../db/entities.js'
import type { ShelfRow } from '../db/rows.js'
import { AppError, explainDisk } from '../errors.js'
import { saveUpload, type Upload } from '../http/upload.js'
import type { Settings } from '../settings.js'
import { makeShelf } from './shelves.js'

const NAME = 'Dropped here'
/** Its folder in the data folder. */
const DROPPED = 'dropped'

/** The shelf of recordings that were dropped into the browser; made when there is none. */
export async function droppedShelf(
  db: DataSource,
  { dataDir }: Pick<Settings, 'dataDir'>,
  person: string,
): Promise<ShelfRow> {
  const root = path.join(dataDir, DROPPED)
  await mkdir(root, { recursive: true })
  return (
    (await db.getRepository(ShelfEntity).findOneBy({ root })) ??
    (await makeShelf(db, root, NAME, person, true))
  )
}

/**
 * Where a dropped file goes: its path below the folder, as it was dropped.
 *
 * @throws AppError `BAD_REQUEST` for a path that leads elsewhere, or to a hidden file
 */
export function droppedFile({ dataDir }: Pick<Settings, 'dataDir'>, wanted: string): string {
  const parts = wanted.normalize('NFC').split('/')
  if (parts.some((part) => part === '' || part.startsWith('.') || /[\\\p{Cc}]/u.test(part)))
    throw new AppError(
      'BAD_REQUEST',
      `“${wanted}” can’t be the name of a recording; name the file otherwise.`,
    )
  return path.join(dataDir, DROPPED, ...parts)
}

/** Says whether a dropped file is there already, as large as the one that is to be sent: a drop that broke off goes on with the next one. */
export async function isThere(file: string, size: number): Promise<boolean> {
  return (await stat(file).catch(() => null))?.size === size
}

/** Writes a dropped recording to its place, at once when it is whole. @throws AppError as of uploads */
export async function saveDropped(
  { dataDir }: Pick<Settings, 'dataDir'>,
  upload: Upload,
  file: string,
): Promise<void> {
  // Beside the shelf: what is half there is nothing to listen to, and is swept when the server was killed.
  const incoming = path.join(dataDir, 'incoming', `${randomUUID()}.part`)
  try {
    for (const folder of [path.dirname(incoming), path.dirname(file)])
      await mkdir(folder, { recursive: true })
    await saveUpload(upload, incoming)
    await rename(incoming, file)
  } catch (error) {
    await rm(incoming, { force: true })
    throw explainDisk(error, upload.name)
  }
}

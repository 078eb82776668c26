import { randomUUID } from 'node:crypto'
import { link, mkdir, rm, stat, utimes } from 'node:fs/promises'
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
/** Bytes that a file's name may have; disks take 255, and a number may come behind it. */
const LONGEST_NAME = 240
/** Disks that come from elsewhere count time in steps of so many milliseconds (FAT). */
const CLOCK_STEP_MS = 2000

/** What a dropped file is told apart by: its path below what was dropped, its size in bytes, and when it was written, in milliseconds since 1970. */
export interface Dropped {
  readonly path: string
  readonly size: number
  readonly modified: number
}

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
 * Says whether a dropped file is there already: a drop that broke off goes on with the next one.
 *
 * @throws AppError `BAD_REQUEST` for a path that leads elsewhere, or to a hidden file, or is too long
 */
export async function isThere({ dataDir }: Pick<Settings, 'dataDir'>, file: Dropped): Promise<boolean> {
  return (await placeOf(dataDir, file)).there
}

/**
 * Keeps a dropped recording, under its name only when it is whole. What bears that name already stays: recorders begin anew with
 * their numbers, and what is placed must not become another sound.
 *
 * @throws AppError `BAD_REQUEST` for a path that leads elsewhere, or to a hidden file; else as of uploads
 */
export async function saveDropped(
  { dataDir }: Pick<Settings, 'dataDir'>,
  { path: wanted, modified }: Pick<Dropped, 'path' | 'modified'>,
  upload: Upload,
): Promise<void> {
  namesOf(wanted)
  // Beside the shelf: what is half there is nothing to listen to, and is swept when the server was killed.
  const incoming = path.join(dataDir, 'incoming', `${randomUUID()}.part`)
  try {
    await mkdir(path.dirname(incoming), { recursive: true })
    const size = await saveUpload(upload, incoming)
    await utimes(incoming, new Date(), new Date(modified))
    for (;;) {
      const { file, there } = await placeOf(dataDir, { path: wanted, size, modified })
      if (there) return
      await mkdir(path.dirname(file), { recursive: true })
      // Never over another one, also not over one that came this moment; then the next name is looked for.
      const taken = await link(incoming, file).catch((error: NodeJS.ErrnoException) => error)
      if (!taken) return
      if (taken.code !== 'EEXIST') throw taken
    }
  } catch (error) {
    throw explainDisk(error, upload.name)
  } finally {
    await rm(incoming, { force: true })
  }
}

/** Where a dropped file is, or would go: under its own name, or with a number where others bear that. */
async function placeOf(
  dataDir: string,
  { path: wanted, size, modified }: Dropped,
): Promise<{ file: string; there: boolean }> {
  const { dir, name, ext } = path.parse(path.join(dataDir, DROPPED, ...namesOf(wanted)))
  for (let number = 1; ; number++) {
    const file = path.join(dir, `${name}${number === 1 ? '' : ` ${number}`}${ext}`)
    const known = await stat(file).catch(() => null)
    if (!known) return { file, there: false }
    if (known.size === size && Math.abs(known.mtimeMs - modified) < CLOCK_STEP_MS)
      return { file, there: true }
  }
}

function namesOf(wanted: string): string[] {
  const names = wanted.normalize('NFC').split('/')
  if (names.some((name) => name === '' || name.startsWith('.') || /[\\\p{Cc}]/u.test(name)))
    throw new AppError(
      'BAD_REQUEST',
      `“${wanted}” can’t be the name of a recording; name the file otherwise.`,
    )
  if (names.some((name) => Buffer.byteLength(name) > LONGEST_NAME))
    throw new AppError(
      'BAD_REQUEST',
      `“${wanted.slice(0, 60)}…” is too long for the name of a recording; name it otherwise.`,
    )
  return names
}

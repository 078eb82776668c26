import { link, mkdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { fileName } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { ShelfEntity } from '../db/entities.js'
import type { ShelfRow } from '../db/rows.js'
import type { MediaStore } from '../media/MediaStore.js'
import { showOf } from '../shows/keptWithShow.js'
import { makeShelf } from '../sounds/shelves.js'

/** What finding and making the shelf of what was made takes. */
export interface MadeDeps {
  readonly db: DataSource
  readonly media: Pick<MediaStore, 'folder'>
}

/** The folders of a show's shelf of what was made. */
export const MADE = { variations: 'Variations', voices: 'Scratch voices', takes: 'Takes' } as const

const rootOf = async ({ db, media }: MadeDeps, reelId: string): Promise<string> =>
  path.join(await media.folder('made'), fileName(await showOf(db, reelId)))

/** The shelf of what was made for the show of a reel, or null where there is none yet. @throws AppError `REEL_MISSING` */
export async function madeShelf(deps: MadeDeps, reelId: string): Promise<ShelfRow | null> {
  return deps.db.getRepository(ShelfEntity).findOneBy({ root: await rootOf(deps, reelId) })
}

/** The shelf of what is made for the show of a reel, with its folder; made when there is none. @throws AppError `REEL_MISSING` */
export async function makeMadeShelf(deps: MadeDeps, reelId: string): Promise<ShelfRow> {
  const root = await rootOf(deps, reelId)
  await mkdir(root, { recursive: true })
  const [show] = (await deps.db.query(
    'SELECT s.name FROM show s JOIN reel r ON r.show_id = s.id WHERE r.id = $1',
    [reelId],
  )) as { name: string }[]
  return makeShelf(deps.db, root, `Made here: ${show?.name ?? ''}`)
}

/**
 * Gives a finished file its name in a folder: it appears when it is whole, and never over another one. What has that name
 * already and is the same to the last bit is it; else it gets a number.
 *
 * @param unfinished - On the same disk; it stays where it is
 * @returns Its path below the root, and whether it was not there yet
 */
export async function giveName(
  unfinished: string,
  { root, folder, name }: { readonly root: string; readonly folder: string; readonly name: string },
): Promise<{ path: string; fresh: boolean }> {
  await mkdir(path.join(root, folder), { recursive: true })
  for (let number = 1; ; number++) {
    const below = path.join(folder, `${fileName(name)}${number === 1 ? '' : ` ${number}`}.wav`)
    const file = path.join(root, below)
    const taken = await link(unfinished, file).catch((error: NodeJS.ErrnoException) => error)
    if (!taken) return { path: below, fresh: true }
    if (taken.code !== 'EEXIST') throw taken
    if ((await readFile(file)).equals(await readFile(unfinished))) return { path: below, fresh: false }
  }
}

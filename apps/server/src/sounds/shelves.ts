import { createHash } from 'node:crypto'
import type { Shelf, ShelfEdit } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { ShelfEntity } from '../db/entities.js'
import type { ShelfRow } from '../db/rows.js'
import { writeSounds, writtenSounds } from './soundRows.js'

/** All shelves, and whether a person may search them: shared ones and their own. */
export async function shelvesSeen(
  db: DataSource,
  person: string,
): Promise<{ id: string; visible: boolean }[]> {
  return (await db.query('SELECT id, shared OR owner = $1 AS visible FROM shelf', [person])) as {
    id: string
    visible: boolean
  }[]
}

const BATCH = 1000

/** Writes what is said of a shelf. A licence or source goes to all its sounds whose files say nothing of it; a new name is found by search. */
export async function editShelf(db: DataSource, id: string, edit: ShelfEdit): Promise<void> {
  await db.query(
    'UPDATE shelf SET name = coalesce($2, name), licence = coalesce($3, licence), source = coalesce($4, source), shared = coalesce($5, shared) WHERE id = $1',
    [id, edit.name ?? null, edit.licence ?? null, edit.source ?? null, edit.shared ?? null],
  )
  if (edit.name === undefined && edit.licence === undefined && edit.source === undefined) return
  for (let after = ''; ;) {
    const rows = await writtenSounds(db, 's.shelf_id = $1 AND s.id > $2 ORDER BY s.id LIMIT $3', [
      id,
      after,
      BATCH,
    ])
    await writeSounds(
      db,
      rows.map((row) => ({
        ...row,
        ...(edit.licence !== undefined && row.licenceFrom === 'shelf' ? { licence: edit.licence } : {}),
        ...(edit.source !== undefined && row.sourceFrom === 'shelf' ? { source: edit.source } : {}),
      })),
    )
    if (rows.length < BATCH) return
    after = rows.at(-1)?.id ?? ''
  }
}

/** Makes a folder a shelf, or finds the shelf it is already. */
export async function makeShelf(
  db: DataSource,
  root: string,
  name: string,
  owner = '',
  shared = true,
): Promise<ShelfRow> {
  const id = createHash('sha256').update(root).digest('hex').slice(0, 24)
  await db.query(
    'INSERT INTO shelf (id, name, root, owner, shared) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING',
    [id, name, root, owner, shared],
  )
  return db.getRepository(ShelfEntity).findOneByOrFail({ root })
}

/** The shelves that a person sees, by name. */
export async function listShelves(db: DataSource, person: string): Promise<Shelf[]> {
  const ids = (await shelvesSeen(db, person)).filter(({ visible }) => visible).map(({ id }) => id)
  return (await db.query(
    `SELECT id, name, root, problems, job_id AS "jobId", sounds, owner, shared, licence, source, away, counts, watched FROM shelf WHERE id = ANY($1) ORDER BY name, id`,
    [ids],
  )) as Shelf[]
}

/** Writes down how many sounds a shelf has now; what is missing is not counted. */
export async function countSounds(db: DataSource, shelfId: string): Promise<void> {
  await db.query(
    'UPDATE shelf SET sounds = (SELECT count(*) FROM sound WHERE shelf_id = $1 AND NOT missing) WHERE id = $1',
    [shelfId],
  )
}

import { randomUUID } from 'node:crypto'
import type { Kit } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { AppError } from '../errors.js'

/** Kits that a person may see: their own, and what others share. */
export async function listKits(db: DataSource, person: string): Promise<Kit[]> {
  return (await db.query(
    `SELECT k.id, k.name, k.owner, k.shared, k.parent_id AS "parentId", (SELECT count(*)::int FROM kit_sound s WHERE s.kit_id = k.id) AS sounds
     FROM kit k WHERE k.owner = $1 OR k.shared ORDER BY k.name, k.id`,
    [person],
  )) as Kit[]
}

/** Makes a kit. @throws AppError `NOT_FOUND` for a parent that is not the person's own */
export async function makeKit(
  db: DataSource,
  person: string,
  name: string,
  parentId: string | null,
): Promise<Kit> {
  if (parentId !== null) await ownKit(db, person, parentId)
  const id = randomUUID()
  await db.query('INSERT INTO kit (id, name, owner, parent_id) VALUES ($1, $2, $3, $4)', [
    id,
    name,
    person,
    parentId,
  ])
  return { id, name, owner: person, shared: false, parentId, sounds: 0 }
}

/** Renames, shares or moves a kit. @throws AppError `NOT_FOUND`, `KIT_IN_ITSELF` */
export async function editKit(
  db: DataSource,
  person: string,
  id: string,
  edit: Partial<Pick<Kit, 'name' | 'shared' | 'parentId'>>,
): Promise<void> {
  await ownKit(db, person, id)
  if (edit.parentId) {
    await ownKit(db, person, edit.parentId)
    const [inside] = (await db.query(
      `WITH RECURSIVE up AS (SELECT id, parent_id FROM kit WHERE id = $1 UNION SELECT k.id, k.parent_id FROM kit k JOIN up ON k.id = up.parent_id)
       SELECT 1 FROM up WHERE id = $2`,
      [edit.parentId, id],
    )) as unknown[]
    if (inside)
      throw new AppError('KIT_IN_ITSELF', 'A kit can’t lie inside itself. Choose another place for it.')
  }
  await db.query(
    'UPDATE kit SET name = coalesce($2, name), shared = coalesce($3, shared), parent_id = CASE WHEN $4 THEN $5::uuid ELSE parent_id END WHERE id = $1',
    [id, edit.name ?? null, edit.shared ?? null, edit.parentId !== undefined, edit.parentId ?? null],
  )
}

/** Deletes a kit with the kits in it; the sounds stay. @throws AppError `NOT_FOUND` */
export async function deleteKit(db: DataSource, person: string, id: string): Promise<void> {
  await ownKit(db, person, id)
  await db.query('DELETE FROM kit WHERE id = $1', [id])
}

/** Puts sounds into a kit, or takes them out. Putting in twice changes nothing. @throws AppError `NOT_FOUND` */
export async function fillKit(
  db: DataSource,
  person: string,
  id: string,
  ids: readonly string[],
  put: boolean,
  now: Date,
): Promise<void> {
  await ownKit(db, person, id)
  if (put)
    await db.query(
      'INSERT INTO kit_sound (kit_id, sound_id, at) SELECT $1, s.id, $3 FROM sound s WHERE s.id = ANY($2) ON CONFLICT DO NOTHING',
      [id, ids, now],
    )
  else await db.query('DELETE FROM kit_sound WHERE kit_id = $1 AND sound_id = ANY($2)', [id, ids])
}

async function ownKit(db: DataSource, person: string, id: string): Promise<void> {
  const [found] = (await db.query('SELECT 1 FROM kit WHERE id = $1 AND owner = $2', [
    id,
    person,
  ])) as unknown[]
  if (!found)
    throw new AppError(
      'NOT_FOUND',
      'There is no such kit of yours; it may have been deleted, or it belongs to somebody else.',
    )
}

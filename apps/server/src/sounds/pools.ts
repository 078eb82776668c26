import type { Pool } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { AppError } from '../errors.js'

/** The pools of the show to which a reel belongs, by their keys. @throws AppError `REEL_MISSING` */
export async function listPools(db: DataSource, reelId: string): Promise<Pool[]> {
  const rows = (await db.query('SELECT body FROM pool WHERE show_id = $1 ORDER BY key', [
    await showOf(db, reelId),
  ])) as { body: Pool }[]
  return rows.map(({ body }) => body)
}

/** Keeps a pool with the show of a reel, in the place of what it was. @throws AppError `REEL_MISSING`, `CHANGE_CONFLICT` when another one stands on its key */
export async function keepPool(db: DataSource, reelId: string, pool: Pool): Promise<void> {
  const showId = await showOf(db, reelId)
  await db.transaction(async (within) => {
    // Two that put a pool on one key wait for each other.
    await within.query('SELECT 1 FROM show WHERE id = $1 FOR UPDATE', [showId])
    const [other] = (await within.query(
      'SELECT body FROM pool WHERE show_id = $1 AND key = $2 AND id <> $3',
      [...[showId, pool.key, pool.id]],
    )) as { body: Pool }[]
    if (other)
      throw new AppError(
        'CHANGE_CONFLICT',
        `“${other.body.name}” stands on that key already. Choose another key, or take it away first.`,
      )
    await within.query(
      `INSERT INTO pool (id, show_id, key, body) VALUES ($1, $2, $3, $4)
       ON CONFLICT (id) DO UPDATE SET key = $3, body = $4 WHERE pool.show_id = $2`,
      [pool.id, showId, pool.key, JSON.stringify(pool)],
    )
  })
}

/** Takes a pool away; what was performed with it stays. @throws AppError `REEL_MISSING` */
export async function dropPool(db: DataSource, reelId: string, id: string): Promise<void> {
  await db.query('DELETE FROM pool WHERE id = $1 AND show_id = $2', [id, await showOf(db, reelId)])
}

async function showOf(db: DataSource, reelId: string): Promise<string> {
  const [row] = (await db.query('SELECT show_id FROM reel WHERE id = $1 AND thrown IS NULL', [reelId])) as {
    show_id: string
  }[]
  if (!row) throw new AppError('REEL_MISSING', 'This reel is not on the server any more.')
  return row.show_id
}

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

/**
 * Keeps a pool with the show of a reel, in the place of what it was.
 *
 * @param pool.version - That of the pool from which it was made; 0 for a new one
 * @returns The pool as it is kept, with its next version
 * @throws AppError `REEL_MISSING`; `CHANGE_CONFLICT` when another one stands on its key, or somebody changed it meanwhile
 */
export async function keepPool(db: DataSource, reelId: string, pool: Pool): Promise<Pool> {
  const showId = await showOf(db, reelId)
  return db.transaction(async (within) => {
    // Two that change pools of a show wait for each other.
    await within.query('SELECT 1 FROM show WHERE id = $1 FOR UPDATE', [showId])
    const there = (await within.query(
      'SELECT show_id, body FROM pool WHERE id = $2 OR (show_id = $1 AND key = $3)',
      [...[showId, pool.id, pool.key]],
    )) as { show_id: string; body: Pool }[]
    const other = there.find(({ body }) => body.id !== pool.id)
    if (other)
      throw new AppError(
        'CHANGE_CONFLICT',
        `“${other.body.name}” stands on that key already. Choose another key, or take it away first.`,
      )
    const [known] = there
    if (known && known.show_id !== showId)
      throw new AppError('CHANGE_CONFLICT', `“${known.body.name}” belongs to another show.`)
    if ((known?.body.version ?? 0) !== pool.version)
      throw new AppError(
        'CHANGE_CONFLICT',
        `Somebody has changed “${known?.body.name ?? pool.name}” meanwhile, or taken it away. Look at it as it is now, and change it again.`,
      )
    const kept = { ...pool, version: pool.version + 1 }
    await within.query(
      `INSERT INTO pool (id, show_id, key, body) VALUES ($1, $2, $3, $4)
       ON CONFLICT (id) DO UPDATE SET key = $3, body = $4`,
      [kept.id, showId, kept.key, JSON.stringify(kept)],
    )
    return kept
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

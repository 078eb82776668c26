import type { Pool } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { keep, listKept } from '../shows/keptWithShow.js'

/** The pools of the show to which a reel belongs, by their keys. @throws AppError `REEL_MISSING` */
export async function listPools(db: DataSource, reelId: string): Promise<Pool[]> {
  return (await listKept<Pool>(db, 'pool', reelId)).sort((a, b) => a.key - b.key)
}

/** Keeps a pool with the show of a reel; no two stand on one key. @throws AppError as {@link keep} */
export const keepPool = (db: DataSource, reelId: string, pool: Pool): Promise<Pool> =>
  keep(db, 'pool', reelId, pool, (other) =>
    other.key === pool.key
      ? `“${other.name}” stands on that key already. Choose another key, or take it away first.`
      : null,
  )

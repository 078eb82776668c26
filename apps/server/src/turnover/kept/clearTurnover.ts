import { rm } from 'node:fs/promises'
import type { DataSource } from 'typeorm'
import { TurnoverEntity } from '../../db/entities.js'
import { AppError } from '../../errors.js'
import type { MediaStore } from '../../media/MediaStore.js'
import { oneTurnover, turnoverFolder } from './turnovers.js'

/**
 * Throws the files of a turnover away, to have their room back. What they were, and what has changed since, stays known.
 *
 * @throws AppError `NOT_FOUND`, `CHANGE_REFUSED` while it is being copied onto a disk
 */
export async function clearTurnover(
  { db, media }: { readonly db: DataSource; readonly media: MediaStore },
  id: string,
  now: Date,
): Promise<void> {
  const { name, cleared } = await oneTurnover(db, id)
  const [copying] = (await db.query(
    `SELECT id FROM job WHERE kind = 'deliver' AND payload->>'turnoverId' = $1 AND state IN ('waiting', 'running', 'paused')`,
    [id],
  )) as unknown[]
  if (copying)
    throw new AppError('CHANGE_REFUSED', `${name} is being copied onto a disk. Wait for that, or cancel it.`)
  // First said, then done: what is broken off in between only leaves files that nobody asks for.
  if (!cleared) await db.getRepository(TurnoverEntity).update({ id }, { cleared: now })
  await rm(await turnoverFolder(media, id), { recursive: true, force: true })
}

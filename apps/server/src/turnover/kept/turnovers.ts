import path from 'node:path'
import type { KeptTurnover } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { TurnoverEntity } from '../../db/entities.js'
import type { TurnoverRow } from '../../db/rows.js'
import { AppError } from '../../errors.js'
import type { MediaStore } from '../../media/MediaStore.js'

/** Where the files of a turnover lie. */
export async function turnoverFolder(media: MediaStore, id: string): Promise<string> {
  return path.join(await media.folder('turnovers'), id)
}

/** Keeps a turnover under the next number of its reel. */
export async function keepTurnover(
  db: DataSource,
  row: Omit<TurnoverRow, 'number' | 'cleared'>,
): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.query('SELECT 1 FROM reel WHERE id = $1 FOR UPDATE', [row.reelId])
    const turnovers = tx.getRepository(TurnoverEntity)
    const last = (await turnovers.maximum('number', { reelId: row.reelId })) ?? 0
    await turnovers.insert({ ...row, number: last + 1 } as never)
  })
}

/** The turnovers of a reel, the latest first. */
export async function listTurnovers(db: DataSource, reelId: string): Promise<KeptTurnover[]> {
  const rows = await db.getRepository(TurnoverEntity).find({ where: { reelId }, order: { number: 'DESC' } })
  return rows.map(asKept)
}

/** One turnover with its files. @throws AppError `NOT_FOUND` */
export async function oneTurnover(db: DataSource, id: string): Promise<TurnoverRow> {
  const row = await db.getRepository(TurnoverEntity).findOneBy({ id })
  if (!row) throw new AppError('NOT_FOUND', `There is no turnover ${id}.`)
  return row
}

/** A turnover whose files are there. @throws AppError `NOT_FOUND` when it is not, or they were thrown away */
export async function wholeTurnover(db: DataSource, id: string): Promise<TurnoverRow> {
  const row = await oneTurnover(db, id)
  if (row.cleared)
    throw new AppError('NOT_FOUND', `The files of turnover ${row.number}, ${row.name}, were thrown away.`)
  return row
}

/** A turnover as it is told of. */
export function asKept({ reelId: _, author, at, files, cleared, ...row }: TurnoverRow): KeptTurnover {
  const size = files.reduce((sum, file) => sum + file.size, 0)
  const told = { by: author, at: at.toISOString(), files: files.length, size }
  return { ...row, ...told, cleared: cleared?.toISOString() ?? null }
}

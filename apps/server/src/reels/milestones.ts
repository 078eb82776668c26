import { randomUUID } from 'node:crypto'
import { apply, documentOf, recordsOf, type Milestone, type ReelAt, type ReelDocument } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { ChangeEntity, MilestoneEntity, ReelEntity } from '../db/entities.js'
import { AppError } from '../errors.js'

/** Names the reel as it stands now. */
export async function makeMilestone(
  db: DataSource,
  reelId: string,
  name: string,
  author: string,
  now: Date,
): Promise<Milestone> {
  const reel = await db.getRepository(ReelEntity).findOneBy({ id: reelId })
  if (!reel) throw new AppError('NOT_FOUND', `There is no reel ${reelId}.`)
  const row = { id: randomUUID(), reelId, seq: reel.seq, name, author, at: now }
  await db.getRepository(MilestoneEntity).insert(row)
  return { id: row.id, name, seq: row.seq, author, at: now.toISOString() }
}

/** The milestones of a reel, the latest first. */
export async function listMilestones(db: DataSource, reelId: string): Promise<Milestone[]> {
  const rows = await db
    .getRepository(MilestoneEntity)
    .find({ where: { reelId }, order: { seq: 'DESC', at: 'DESC' } })
  return rows.map(({ id, name, seq, author, at }) => ({ id, name, seq, author, at: at.toISOString() }))
}

/**
 * The reel as it was after a change of its log, built from the log alone.
 *
 * @param seq - From 1 to the reel's last number.
 */
export async function reelAt(db: DataSource, reelId: string, seq: number): Promise<ReelAt> {
  const rows = await db
    .getRepository(ChangeEntity)
    .createQueryBuilder('c')
    .where('c.reelId = :reelId AND c.seq <= :seq', { reelId, seq })
    .orderBy('c.seq')
    .getMany()
  if (rows.at(-1)?.seq !== seq) throw new AppError('NOT_FOUND', `Reel ${reelId} has no change ${seq}.`)
  const doc = rows.reduce<ReelDocument>((present, row) => {
    const next = apply(present, row.change)
    if (!next.ok)
      throw new AppError(
        'INTERNAL',
        `The log of reel ${reelId} does not fit together at change ${row.seq}: ${next.message}`,
      )
    return next.value
  }, documentOf([]))
  return { seq, records: recordsOf(doc) }
}

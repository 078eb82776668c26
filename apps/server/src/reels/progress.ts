import { progressOf, type ReelProgress } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { ReelEntity } from '../db/entities.js'
import { loadStand } from './reelStore.js'

const kept = new WeakMap<DataSource, Map<string, { seq: number; progress: ReelProgress }>>()

/** How far a reel has come; worked out once for each number of its log. @throws AppError `REEL_MISSING` */
export async function reelProgress(db: DataSource, id: string): Promise<ReelProgress> {
  const progresses = kept.get(db) ?? new Map<string, { seq: number; progress: ReelProgress }>()
  kept.set(db, progresses)
  const reel = await db.getRepository(ReelEntity).findOneBy({ id })
  const known = progresses.get(id)
  if (reel && known?.seq === reel.seq) return known.progress
  const { doc, seq, changedAt, author } = await loadStand(db, id)
  const progress = { ...progressOf(doc), changedAt: changedAt.toISOString(), changedBy: author }
  progresses.set(id, { seq, progress })
  return progress
}

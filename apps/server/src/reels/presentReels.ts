import { documentOf, recordSchema, type Change, type ReelDocument } from '@yodel/core'
import type { DataSource, EntityManager } from 'typeorm'
import { RecordEntity } from '../db/entities.js'

/** A reel as it stands after a change, so that the next one need not read all of it. */
export interface PresentReel {
  readonly seq: number
  readonly doc: ReelDocument
  /** Number of the change that wrote each record last. */
  readonly versions: Map<string, number>
}

/** As many reels are kept in memory. */
const KEPT = 6
const kept = new WeakMap<DataSource, Map<string, PresentReel>>()

/** A reel at a number of its log: from memory where it stands there, else from its rows. To be called with the reel's row locked. */
export async function presentReel(
  db: DataSource,
  tx: EntityManager,
  reelId: string,
  seq: number,
): Promise<PresentReel> {
  const known = kept.get(db)?.get(reelId)
  if (known?.seq === seq) return known
  const rows = await tx.getRepository(RecordEntity).findBy({ reelId })
  // Read as the wire is read: a field that an earlier version wrote and this one does not know must not look like somebody's change.
  return {
    seq,
    doc: documentOf(rows.map((row) => recordSchema.parse(row.data))),
    versions: new Map(rows.map((row) => [row.id, row.version])),
  }
}

/** Keeps a reel as it stands after a change that has been committed; the versions are those before it, and are brought up to it here. */
export function keepPresent(
  db: DataSource,
  reelId: string,
  present: PresentReel,
  { added, updated, removed }: Change,
): void {
  for (const record of removed) present.versions.delete(record.id)
  for (const record of [...added, ...updated.map(([, to]) => to)])
    present.versions.set(record.id, present.seq)
  const reels = kept.get(db) ?? new Map<string, PresentReel>()
  kept.set(db, reels)
  // What was used last stands last.
  reels.delete(reelId)
  reels.set(reelId, present)
  const [oldest] = reels.keys()
  if (reels.size > KEPT && oldest !== undefined) reels.delete(oldest)
}

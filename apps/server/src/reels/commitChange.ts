import { apply, checkChange, isEmpty, touchedIds, type Change, type Commit, type Committed, type LoggedChange, type ReelDocument, type ReelRecord } from '@yodel/core'
import type { DataSource, EntityManager } from 'typeorm'
import { ChangeEntity, RecordEntity, ReelEntity, type ChangeRow } from '../db/entities.js'
import { AppError } from '../errors.js'
import { keepPresent, presentReel, type PresentReel } from './presentReels.js'

/**
 * Writes a change into a reel: checks it against the present records and the rules of the document,
 * writes the rows and the log line in one transaction, and numbers it.
 * A `changeId` that is already in the log answers with the number it got then, so sending twice is harmless.
 *
 * @throws AppError `CHANGE_CONFLICT` with the present records when one of them was changed since `base`;
 *   `CHANGE_REFUSED` when the result would break a rule.
 */
export async function commitChange(db: DataSource, reelId: string, author: string, now: Date, commit: Commit): Promise<Committed> {
  let after: PresentReel | null = null
  const committed = await db.transaction(async (tx) => {
    // The row lock makes changes of one reel wait for each other, so numbers have no gaps and checks no races.
    const reel = await tx.getRepository(ReelEntity).findOne({ where: { id: reelId }, lock: { mode: 'pessimistic_write' } })
    if (!reel) throw new AppError('NOT_FOUND', `There is no reel ${reelId}.`)
    const before = await tx.getRepository(ChangeEntity).findOneBy({ changeId: commit.changeId })
    if (before) return { seq: before.seq, missed: await changesAfter(tx, reelId, commit.base, before.seq) }
    if (isEmpty(commit.change)) throw new AppError('BAD_REQUEST', `"${commit.change.label}" changes nothing.`)

    const ids = touchedIds(commit.change)
    const present = await presentReel(db, tx, reelId, reel.seq)
    const stale = ids.some((id) => (present.versions.get(id) ?? 0) > commit.base)
    const next = apply(present.doc, commit.change)
    if (!next.ok || stale) {
      const reason = next.ok ? 'It was changed in the meantime.' : next.message
      throw new AppError('CHANGE_CONFLICT', `"${commit.change.label}" meets something that was changed by somebody else. ${reason}`, {
        seq: reel.seq,
        missed: await changesAfter(tx, reelId, commit.base, reel.seq + 1),
      })
    }
    refuseBroken(next.value, commit.change)

    const seq = reel.seq + 1
    await writeRecords(tx, reelId, seq, commit.change)
    await tx.getRepository(ChangeEntity).insert({
      reelId,
      seq,
      changeId: commit.changeId,
      author,
      at: now,
      role: commit.role,
      target: commit.target,
      label: commit.change.label,
      change: commit.change as never,
    })
    await tx.getRepository(ReelEntity).update({ id: reelId }, { seq })
    after = { seq, doc: next.value, versions: versionsAfter(present.versions, commit.change, seq) }
    return { seq, missed: await changesAfter(tx, reelId, commit.base, seq) }
  })
  // Only what is committed is kept: a transaction that fails leaves the memory as it was.
  if (after) keepPresent(db, reelId, after)
  return committed
}

/** Which change wrote each record last, after one more change. */
function versionsAfter(versions: ReadonlyMap<string, number>, change: Change, seq: number): ReadonlyMap<string, number> {
  const next = new Map(versions)
  for (const record of change.removed) next.delete(record.id)
  for (const record of [...change.added, ...change.updated.map(([, to]) => to)]) next.set(record.id, seq)
  return next
}

function refuseBroken(doc: ReelDocument, change: Change): void {
  const checked = checkChange(doc, change)
  if (!checked.ok) throw new AppError('CHANGE_REFUSED', checked.message, { code: checked.code })
}

async function writeRecords(tx: EntityManager, reelId: string, version: number, change: Change): Promise<void> {
  const records = tx.getRepository(RecordEntity)
  if (change.removed.length > 0) {
    await tx.query('DELETE FROM record WHERE reel_id = $1 AND id = ANY($2)', [reelId, change.removed.map((record) => record.id)])
  }
  const written: ReelRecord[] = [...change.added, ...change.updated.map(([, to]) => to)]
  for (let at = 0; at < written.length; at += 1000) {
    const rows = written.slice(at, at + 1000).map((data) => ({ reelId, id: data.id, kind: data.kind, version, data: data as never }))
    await records.upsert(rows, ['reelId', 'id'])
  }
}

async function changesAfter(tx: EntityManager, reelId: string, base: number, before: number): Promise<LoggedChange[]> {
  if (before - base <= 1) return []
  const rows = await tx
    .getRepository(ChangeEntity)
    .createQueryBuilder('c')
    .where('c.reelId = :reelId AND c.seq > :base AND c.seq < :before', { reelId, base, before })
    .orderBy('c.seq')
    .getMany()
  return rows.map(loggedChange)
}

/** A row of the log as it crosses the wire. */
export function loggedChange(row: ChangeRow): LoggedChange {
  const { seq, changeId, author, at, role, target } = row
  return { seq, changeId, author, at: at.toISOString(), role, target, change: row.change as LoggedChange['change'] }
}

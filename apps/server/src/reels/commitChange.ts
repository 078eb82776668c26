import {
  apply,
  checkChange,
  isEmpty,
  touchedIds,
  type Commit,
  type Committed,
  type LoggedChange,
  type ReelRecord,
} from '@yodel/core'
import type { DataSource, EntityManager } from 'typeorm'
import { ChangeEntity, ReelEntity } from '../db/entities.js'
import type { ChangeRow } from '../db/rows.js'
import { AppError } from '../errors.js'
import { keepPresent, presentReel, type PresentReel } from './presentReels.js'

/**
 * Writes a change into a reel: checks it against the present records and the rules of the document,
 * writes the rows and the log line in one transaction, and numbers it.
 * A `changeId` that is already in the log answers with the number it got then, and with itself as the log has it
 * at the end of `missed`, so sending twice is harmless.
 *
 * @throws AppError `REEL_MISSING`; `CHANGE_CONFLICT` with what was missed when a record was changed since `base`, or
 *   when the result would break a rule and something was missed that may be why; `CHANGE_REFUSED` when it would break
 *   a rule all the same.
 */
export async function commitChange(
  db: DataSource,
  reelId: string,
  author: string,
  now: Date,
  commit: Commit,
): Promise<Committed> {
  return inTurn(reelId, () => commitNow(db, reelId, author, now, commit))
}

const turns = new Map<string, Promise<unknown>>()

/** Lets the changes of one reel that come to this process wait for each other here: the next one then meets the reel in memory, not in thousands of rows. */
function inTurn<T>(reelId: string, act: () => Promise<T>): Promise<T> {
  const mine = (turns.get(reelId) ?? Promise.resolve()).then(act)
  const over = mine.catch(() => undefined)
  turns.set(reelId, over)
  void over.then(() => turns.get(reelId) === over && turns.delete(reelId))
  return mine
}

async function commitNow(
  db: DataSource,
  reelId: string,
  author: string,
  now: Date,
  commit: Commit,
): Promise<Committed> {
  let after: PresentReel | null = null
  const committed = await db.transaction(async (tx) => {
    // The row lock makes changes of one reel wait for each other, so numbers have no gaps and checks no races.
    const reel = await tx
      .getRepository(ReelEntity)
      .findOne({ where: { id: reelId }, lock: { mode: 'pessimistic_write' } })
    if (!reel)
      throw new AppError(
        'REEL_MISSING',
        `There is no reel ${reelId}. It may have been removed; go back to the list of shows.`,
      )
    const before = await tx.getRepository(ChangeEntity).findOneBy({ changeId: commit.changeId })
    if (before && before.reelId !== reelId)
      throw new AppError(
        'BAD_REQUEST',
        `“${commit.change.label}” was made on another reel and is in its log; it was not written here.`,
      )
    if (before)
      return { seq: before.seq, missed: await changesAfter(tx, reelId, commit.base, before.seq + 1) }
    if (commit.target !== null && commit.target > reel.seq)
      throw new AppError(
        'BAD_REQUEST',
        `Reel ${reelId} has no change ${commit.target} to take back or repeat.`,
      )
    if (isEmpty(commit.change)) throw new AppError('BAD_REQUEST', `"${commit.change.label}" changes nothing.`)

    const present = await presentReel(db, tx, reelId, reel.seq)
    const next = apply(present.doc, commit.change)
    const stale = touchedIds(commit.change).some((id) => (present.versions.get(id) ?? 0) > commit.base)
    const checked = next.ok ? checkChange(next.value, commit.change) : next
    const conflicts = stale || !next.ok || (!checked.ok && commit.base < reel.seq)
    if (conflicts) {
      const reason = checked.ok ? 'It was changed in the meantime.' : checked.message
      throw new AppError(
        'CHANGE_CONFLICT',
        `“${commit.change.label}” meets something that was changed by somebody else. ${reason}`,
        {
          seq: reel.seq,
          missed: await changesAfter(tx, reelId, commit.base, reel.seq + 1),
        },
      )
    }
    if (!checked.ok) throw new AppError('CHANGE_REFUSED', checked.message, { code: checked.code })

    const seq = reel.seq + 1
    await writeChange(tx, reelId, seq, author, now, commit)
    after = { seq, doc: next.value, versions: present.versions }
    return { seq, missed: await changesAfter(tx, reelId, commit.base, seq) }
  })
  // Only what is committed is kept: a transaction that fails leaves the memory as it was.
  if (after) keepPresent(db, reelId, after, commit.change)
  return committed
}

// One statement, so that nobody who waits for the reel waits for four.
const WRITE = `WITH gone AS (DELETE FROM record WHERE reel_id = $1 AND id = ANY($3)),
  written AS (INSERT INTO record (reel_id, id, kind, version, data) SELECT $1, r->>'id', r->>'kind', $2, r FROM jsonb_array_elements($4::jsonb) AS r
    ON CONFLICT (reel_id, id) DO UPDATE SET kind = excluded.kind, version = excluded.version, data = excluded.data),
  logged AS (INSERT INTO change (reel_id, seq, change_id, author, at, role, target, label, change) VALUES ($1, $2, $5, $6, $7, $8, $9, $10, $11))
  UPDATE reel SET seq = $2 WHERE id = $1`

/** Writes rows, log line and number. */
async function writeChange(
  tx: EntityManager,
  reelId: string,
  seq: number,
  author: string,
  now: Date,
  { changeId, role, target, change }: Commit,
): Promise<void> {
  const written: ReelRecord[] = [...change.added, ...change.updated.map(([, to]) => to)]
  const gone = change.removed.map((record) => record.id)
  await tx.query(WRITE, [
    reelId,
    seq,
    gone,
    JSON.stringify(written),
    changeId,
    author,
    now,
    role,
    target,
    change.label,
    JSON.stringify(change),
  ])
}

/** The log after one number and before another, in order. */
async function changesAfter(
  tx: EntityManager,
  reelId: string,
  base: number,
  before: number,
): Promise<LoggedChange[]> {
  if (before - base <= 1) return []
  const rows = await tx
    .getRepository(ChangeEntity)
    .createQueryBuilder('c')
    .where('c.reelId = :reelId AND c.seq > :base AND c.seq < :before', { reelId, base, before })
    .orderBy('c.seq')
    .getMany()
  return rows.map(loggedChange)
}

/** What the log of a reel has got after a number, for a page that has missed something. @throws AppError `REEL_MISSING` */
export async function changesSince(db: DataSource, reelId: string, since: number): Promise<LoggedChange[]> {
  return db.transaction('REPEATABLE READ', async (tx) => {
    const reel = await tx.getRepository(ReelEntity).findOneBy({ id: reelId })
    if (!reel) throw new AppError('REEL_MISSING', `There is no reel ${reelId}.`)
    return changesAfter(tx, reelId, since, reel.seq + 1)
  })
}

/** A row of the log as it crosses the wire. */
export function loggedChange(row: ChangeRow): LoggedChange {
  const { seq, changeId, author, at, role, target } = row
  return {
    seq,
    changeId,
    author,
    at: at.toISOString(),
    role,
    target,
    change: row.change as LoggedChange['change'],
  }
}

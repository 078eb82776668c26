import {
  apply,
  documentOf,
  recordSchema,
  recordsOf,
  sameRecord,
  type ReelDocument,
  type ReelRecord,
} from '@yodel/core'
import type { DataSource, EntityManager } from 'typeorm'
import { ChangeEntity, RecordEntity, ReelEntity } from '../db/entities.js'
import type { ChangeRow, RecordRow } from '../db/rows.js'
import { reasonOf } from '../errors.js'

/** Changes that are read from the log at once. */
const BATCH = 200
/** As many differences of a reel are named. */
const NAMED = 50

/** A reel as its log alone makes it: its document, and the number that wrote each record last. */
interface Folded {
  doc: ReelDocument
  versions: Map<string, number>
  last: number
}

/**
 * Compares the rows of a reel with its log, which is the truth: every record, who wrote it last, and the numbering without a gap.
 *
 * @returns A line for each difference; none where rows and log agree.
 */
export async function verifyReel(db: DataSource, reelId: string): Promise<string[]> {
  // One snapshot, so that people may go on working meanwhile.
  return db.transaction('REPEATABLE READ', async (tx) => {
    const reel = await tx.getRepository(ReelEntity).findOneBy({ id: reelId })
    if (!reel) return [`there is no reel ${reelId}`]
    const folded: Folded = { doc: documentOf([]), versions: new Map(), last: 0 }
    for (let batch = await changesFrom(tx, reelId, 0); batch.length > 0;) {
      for (const row of batch) {
        const wrong = fold(folded, row)
        if (wrong !== null) return [wrong]
      }
      batch = await changesFrom(tx, reelId, folded.last)
    }
    const numbering =
      folded.last === reel.seq ? [] : [`the log ends at ${folded.last}, the reel says ${reel.seq}`]
    const rows = await tx.getRepository(RecordEntity).findBy({ reelId })
    return [...numbering, ...differences(folded, rows)].slice(0, NAMED)
  })
}

/** Compares every reel's rows with its log. @param say - Told each difference, with the reel it is in. @returns how many reels were looked at, and how many differ */
export async function verifyAll(
  db: DataSource,
  say: (line: string) => void,
): Promise<{ reels: number; differ: number }> {
  const reels = await db.getRepository(ReelEntity).find({ order: { id: 'ASC' } })
  let differ = 0
  for (const { id } of reels) {
    const lines = await verifyReel(db, id).catch((error: unknown) => [`can't be read: ${reasonOf(error)}`])
    for (const line of lines) say(`reel ${id}: ${line}`)
    if (lines.length > 0) differ++
  }
  return { reels: reels.length, differ }
}

const changesFrom = (tx: EntityManager, reelId: string, after: number): Promise<ChangeRow[]> =>
  tx
    .getRepository(ChangeEntity)
    .createQueryBuilder('c')
    .where('c.reelId = :reelId AND c.seq > :after', { reelId, after })
    .orderBy('c.seq')
    .limit(BATCH)
    .getMany()

/** Takes one line of the log in. @returns what does not fit, or null */
function fold(folded: Folded, row: ChangeRow): string | null {
  if (row.seq !== folded.last + 1) return `the log has no change ${folded.last + 1}`
  const next = apply(folded.doc, row.change)
  if (!next.ok) return `the log does not fit together at change ${row.seq}: ${next.message}`
  for (const record of row.change.removed) folded.versions.delete(record.id)
  for (const record of [...row.change.added, ...row.change.updated.map(([, to]) => to)])
    folded.versions.set(record.id, row.seq)
  folded.doc = next.value
  folded.last = row.seq
  return null
}

function differences({ doc, versions }: Folded, rows: readonly RecordRow[]): string[] {
  const byId = new Map(rows.map((row) => [row.id, row]))
  const lines: string[] = []
  for (const record of recordsOf(doc)) {
    const row = byId.get(record.id)
    byId.delete(record.id)
    const name = `${record.kind} ${record.id}`
    if (!row) lines.push(`${name} is in the log and not among the rows`)
    else if (row.kind !== record.kind) lines.push(`${name} has a row of kind ${row.kind}`)
    else {
      const wrong = fieldThatDiffers(row.data, record)
      if (wrong !== null) lines.push(`${name}: ${wrong}`)
      if (row.version !== versions.get(record.id))
        lines.push(`${name} was written last by ${versions.get(record.id)}, its row says ${row.version}`)
    }
  }
  return [
    ...lines,
    ...[...byId.values()].map((row) => `${row.kind} ${row.id} has a row and is not in the log`),
  ]
}

/** Both are read as the wire is read, so that a field which an earlier version did not know is no difference. */
function fieldThatDiffers(row: ReelRecord, logged: ReelRecord): string | null {
  const [stored, wanted] = [recordSchema.safeParse(row), recordSchema.safeParse(logged)]
  if (!stored.success || !wanted.success) return 'it does not have the form of its kind'
  if (sameRecord(stored.data, wanted.data)) return null
  const [left, right] = [stored.data, wanted.data] as unknown as Record<string, unknown>[]
  const field = Object.keys({ ...left, ...right }).find((key) => left?.[key] !== right?.[key]) ?? ''
  return `${field} is ${JSON.stringify(left?.[field])}, the log says ${JSON.stringify(right?.[field])}`
}

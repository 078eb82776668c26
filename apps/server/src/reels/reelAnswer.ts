import type { DataSource } from 'typeorm'
import { recordSchema } from '@yodel/core'
import { ReelEntity, RecordEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { listLog } from './reelStore.js'

/** An opened reel as it is sent, but for who opens it: JSON of its records and of the headlines of its log. */
interface Written {
  readonly seq: number
  readonly records: string
  readonly log: string
}

/** As many reels are kept written. */
const KEPT = 4
const written = new WeakMap<DataSource, Map<string, { seq: number; answer: Promise<Written> }>>()

/**
 * The answer to opening a reel: its records, its last number, the headlines of its log (undo goes back as far as they do).
 * It is written once for each number and shared by all who ask for it, also while it is still being written.
 *
 * @returns JSON of a `ReelState`
 * @throws AppError `REEL_MISSING`
 */
export async function reelAnswer(db: DataSource, id: string, me: string): Promise<string> {
  const reel = await db.getRepository(ReelEntity).findOneBy({ id })
  if (!reel)
    throw new AppError(
      'REEL_MISSING',
      `There is no reel ${id}. It may have been removed; go back to the list of shows.`,
    )
  if (reel.thrown)
    throw new AppError(
      'REEL_MISSING',
      `This reel was thrown away by ${reel.thrownBy} on ${reel.thrown.toISOString().slice(0, 10)}. Bring it back under “Thrown away” on the list of shows.`,
    )
  const answers = written.get(db) ?? new Map<string, { seq: number; answer: Promise<Written> }>()
  written.set(db, answers)
  let known = answers.get(id)
  if (known?.seq !== reel.seq) {
    known = { seq: reel.seq, answer: writeReel(db, id) }
    // One that could not be written is not remembered.
    known.answer.catch(() => answers.delete(id))
  }
  // The one asked for last stands last; the first is forgotten.
  answers.delete(id)
  answers.set(id, known)
  const [oldest = id] = answers.keys()
  if (answers.size > KEPT) answers.delete(oldest)
  const { seq, records, log } = await known.answer
  return `{"seq":${seq},"me":${JSON.stringify(me)},"records":${records},"log":${log}}`
}

function writeReel(db: DataSource, id: string): Promise<Written> {
  // One snapshot, so that records and number belong together.
  return db.transaction('REPEATABLE READ', async (tx) => {
    const { seq } = await tx.getRepository(ReelEntity).findOneByOrFail({ id })
    const rows = await tx.getRepository(RecordEntity).findBy({ reelId: id })
    return {
      seq,
      records: JSON.stringify(rows.map((row) => recordSchema.parse(row.data))),
      log: JSON.stringify(await listLog(tx, id)),
    }
  })
}

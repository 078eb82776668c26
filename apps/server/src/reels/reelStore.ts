import { randomUUID } from 'node:crypto'
import {
  DEFAULT_NAME_RULE,
  documentOf,
  FRAME_RATES,
  frames,
  framesIn,
  parseTimecode,
  type Change,
  type LogLine,
  type NewReel,
  type Reel,
  type ReelDocument,
  type Show,
} from '@yodel/core'
import type { DataSource } from 'typeorm'
import { ChangeEntity, RecordEntity, ReelEntity, ShowEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { commitChange } from './commitChange.js'

/** The headlines of a reel's log, the first first. */
export async function listLog(db: Pick<DataSource, 'getRepository'>, reelId: string): Promise<LogLine[]> {
  const log = await db.getRepository(ChangeEntity).find({
    where: { reelId },
    select: { seq: true, author: true, at: true, role: true, target: true, label: true },
    order: { seq: 'ASC' },
  })
  return log.map(({ seq, author, at, role, target, label }) => ({
    seq,
    author,
    at: at.toISOString(),
    role,
    target,
    label,
  }))
}

/** The document of a reel as it stands. */
export async function loadDocument(db: DataSource, id: string): Promise<ReelDocument> {
  const rows = await db.getRepository(RecordEntity).findBy({ reelId: id })
  if (rows.length === 0) throw new AppError('REEL_MISSING', `There is no reel ${id}.`)
  return documentOf(rows.map((row) => row.data))
}

/** A reel as it stands: its document, the number of the last change, when that was made and by whom. */
export interface Stand {
  readonly doc: ReelDocument
  readonly seq: number
  readonly changedAt: Date
  readonly author: string
}

/** A reel as it stands, document and number of one moment. @throws AppError `REEL_MISSING` */
export async function loadStand(db: DataSource, id: string): Promise<Stand> {
  return db.transaction('REPEATABLE READ', async (within) => {
    const rows = await within.getRepository(RecordEntity).findBy({ reelId: id })
    const [last] = await within.getRepository(ChangeEntity).find({
      where: { reelId: id },
      select: { seq: true, at: true, author: true },
      order: { seq: 'DESC' },
      take: 1,
    })
    if (rows.length === 0 || !last) throw new AppError('REEL_MISSING', `There is no reel ${id}.`)
    return {
      doc: documentOf(rows.map((row) => row.data)),
      ...{ seq: last.seq, changedAt: last.at, author: last.author },
    }
  })
}

/** One change of the log, for undoing what was done before a reload. */
export async function loadChange(db: DataSource, reelId: string, seq: number): Promise<Change> {
  const row = await db.getRepository(ChangeEntity).findOneBy({ reelId, seq })
  if (!row) throw new AppError('NOT_FOUND', `Reel ${reelId} has no change ${seq}.`)
  return row.change
}

/** All shows with their reels. */
export async function listShows(db: DataSource): Promise<Show[]> {
  const shows = await db.getRepository(ShowEntity).find({ order: { name: 'ASC' } })
  const reels = (await db.query(
    `SELECT r.id, r.show_id AS "showId", r.seq, f.data AS reel,
       (SELECT count(*)::int FROM record WHERE reel_id = r.id AND kind = 'cue') AS cues,
       (SELECT count(*)::int FROM record WHERE reel_id = r.id AND kind = 'clip') AS clips
     FROM reel r JOIN record f ON f.reel_id = r.id AND f.kind = 'reel' WHERE r.thrown IS NULL ORDER BY f.data->>'name' COLLATE yodel_names`,
  )) as Show['reels'][number][]
  return shows.map((show) => ({ ...show, reels: reels.filter((reel) => reel.showId === show.id) }))
}

/** Refuses a name that another reel of a show bears. @param id - The reel that is to bear it, where it is there. @throws AppError `BAD_REQUEST` */
export async function refuseTakenName(db: DataSource, showId: string, name: string, id = ''): Promise<void> {
  const [same] = (await db.query(
    `SELECT f.data->>'show' AS show FROM reel r JOIN record f ON f.reel_id = r.id AND f.kind = 'reel'
     WHERE r.show_id = $1 AND r.id <> $3 AND r.thrown IS NULL AND lower(f.data->>'name') = lower($2)`,
    [showId, name, id],
  )) as { show: string }[]
  if (same)
    throw new AppError(
      'BAD_REQUEST',
      `${same.show} has a reel called ${name} already. Give this one another name.`,
    )
}

/** Makes a reel, and its show when `showId` is null. Returns the reel's id. */
export async function createReel(db: DataSource, author: string, now: Date, wish: NewReel): Promise<string> {
  const rate = FRAME_RATES[wish.rate]
  const first = parseTimecode(wish.firstTimecode, rate)
  if (!first.ok) throw new AppError('BAD_REQUEST', `Start timecode: ${first.message}`)
  const showId = wish.showId ?? randomUUID()
  await refuseTakenName(db, showId, wish.name)
  const id = randomUUID()
  const facts: Reel = {
    kind: 'reel',
    id,
    show: wish.showName,
    name: wish.name,
    rate: wish.rate,
    firstFrame: first.frame,
    programme: frames(0),
    length: frames(Math.max(1, framesIn(wish.lengthSeconds, rate))),
    pictureId: null,
    company: wish.company,
    nameRule: DEFAULT_NAME_RULE,
  }
  await createReelRows(db, { showId, showName: wish.showName, company: wish.company, facts })
  await commitChange(db, id, author, now, {
    changeId: randomUUID(),
    base: 0,
    role: 'do',
    target: null,
    change: { label: `Make reel ${facts.name}`, added: [facts], updated: [], removed: [] },
  }).catch(async (error: unknown) => {
    await db.getRepository(ReelEntity).delete({ id })
    throw error
  })
  return id
}

/** Writes the rows of a reel that has no records yet, and of its show where it is new. */
export async function createReelRows(
  db: DataSource,
  args: { showId: string; showName: string; company: string; facts: Reel },
): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.query('INSERT INTO show (id, name, company) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
      args.showId,
      args.showName,
      args.company,
    ])
    await tx.query('INSERT INTO reel (id, show_id, seq) VALUES ($1, $2, 0) ON CONFLICT DO NOTHING', [
      args.facts.id,
      args.showId,
    ])
  })
}

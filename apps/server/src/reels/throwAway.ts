import { rm } from 'node:fs/promises'
import type { ThrownReel } from '@yodel/core'
import { LessThan, type DataSource } from 'typeorm'
import { ReelEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import type { MediaStore } from '../media/MediaStore.js'
import type { TakeFiles } from '../record/TakeFiles.js'
import { turnoverFolder } from '../turnover/kept/turnovers.js'

const DAY_MS = 24 * 3600 * 1000
/** As long as a reel that was thrown away can be brought back. */
const KEPT_DAYS = 30

interface Deps {
  readonly db: DataSource
  readonly media: MediaStore
  readonly takes: TakeFiles
}

/** Throws a reel away: it stands in no list any more, and can be brought back for thirty days. @throws AppError `REEL_MISSING` */
export async function throwReel(db: DataSource, id: string, person: string, now: Date): Promise<void> {
  const { affected } = await db
    .createQueryBuilder()
    .update(ReelEntity)
    .set({ thrown: now, thrownBy: person })
    .where('id = :id AND thrown IS NULL', { id })
    .execute()
  if (affected === 0 && !(await db.getRepository(ReelEntity).existsBy({ id })))
    throw new AppError('REEL_MISSING', `There is no reel ${id}.`)
}

/** Brings a reel back that was thrown away, as it was. @throws AppError `REEL_MISSING` when it is gone for good */
export async function bringBack(db: DataSource, id: string): Promise<void> {
  const { affected } = await db.getRepository(ReelEntity).update({ id }, { thrown: null, thrownBy: null })
  if (affected === 0) throw new AppError('REEL_MISSING', 'That reel has been gone for good for a while.')
}

/** The reels that were thrown away and can be brought back, the last first. */
export async function listThrown(db: DataSource): Promise<ThrownReel[]> {
  const rows = (await db.query(
    `SELECT r.id, f.data->>'show' AS show, f.data->>'name' AS name, r.thrown_by AS by, r.thrown AS at
     FROM reel r JOIN record f ON f.reel_id = r.id AND f.kind = 'reel' WHERE r.thrown IS NOT NULL ORDER BY r.thrown DESC`,
  )) as (Omit<ThrownReel, 'at' | 'until'> & { at: Date })[]
  return rows.map(({ at, ...row }) => ({
    ...row,
    ...{ at: at.toISOString(), until: new Date(at.getTime() + KEPT_DAYS * DAY_MS).toISOString() },
  }))
}

/**
 * Takes away for good what was thrown away thirty days ago: the reel with its log, its turnovers with their files, takes that never
 * came onto their cues, and movies that were sent for it and that no other reel shows.
 *
 * @returns Ids of the reels that are gone.
 */
export async function emptyBin({ db, media, takes }: Deps, now: Date): Promise<string[]> {
  const before = new Date(now.getTime() - KEPT_DAYS * DAY_MS)
  const old = (await db.query('SELECT id FROM reel WHERE thrown < $1', [before])) as { id: string }[]
  const gone: string[] = []
  for (const { id } of old) {
    const turnovers = (await db.query('SELECT id FROM turnover WHERE reel_id = $1', [id])) as { id: string }[]
    const pictures = (await db.query(
      `SELECT DISTINCT c.data->>'pictureId' AS id FROM record c WHERE c.reel_id = $1 AND c.kind = 'cut'
         AND NOT EXISTS (SELECT FROM record o WHERE o.kind = 'cut' AND o.reel_id <> $1 AND o.data->>'pictureId' = c.data->>'pictureId')`,
      [id],
    )) as { id: string }[]
    // First the rows: what is broken off in between only leaves files that nobody asks for. One that was brought back meanwhile stays.
    const { affected } = await db.getRepository(ReelEntity).delete({ id, thrown: LessThan(before) })
    if (affected === 0) continue
    gone.push(id)
    for (const { id: turnover } of turnovers)
      await rm(await turnoverFolder(media, turnover), { recursive: true, force: true })
    for (const { about } of await takes.open(id, now)) await takes.forget(about.id)
    for (const { id: picture } of pictures) {
      await db.query('DELETE FROM picture WHERE id = $1', [picture])
      await rm(await media.folder('pictures', picture), { recursive: true, force: true })
    }
  }
  // Shows of which nothing is left.
  if (gone.length > 0)
    await db.query('DELETE FROM show s WHERE NOT EXISTS (SELECT FROM reel r WHERE r.show_id = s.id)')
  return gone
}

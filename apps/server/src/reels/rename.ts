import { editReel, type ReelFacts } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { ReelEntity, ShowEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { commitChange } from './commitChange.js'
import { commitOf } from './commitOf.js'
import { loadStand, refuseTakenName } from './reelStore.js'

/** Renames a reel, as a change of its log. @throws AppError `REEL_MISSING`, `BAD_REQUEST` when another one of its show bears it */
export async function renameReel(
  db: DataSource,
  id: string,
  name: string,
  person: string,
  now: Date,
): Promise<void> {
  const { showId } = await db
    .getRepository(ReelEntity)
    .findOneByOrFail({ id })
    .catch(() => {
      throw new AppError('REEL_MISSING', `There is no reel ${id}.`)
    })
  await refuseTakenName(db, showId, name, id)
  await commitFacts(db, id, { name }, `Rename the reel ${name}`, person, now)
}

/** Renames a show, and says so in each of its reels, those that were thrown away included. @throws AppError `NOT_FOUND` */
export async function renameShow(
  db: DataSource,
  id: string,
  { name, company }: { readonly name: string; readonly company: string },
  person: string,
  now: Date,
): Promise<void> {
  const { affected } = await db.getRepository(ShowEntity).update({ id }, { name, company })
  if (affected === 0) throw new AppError('NOT_FOUND', `There is no show ${id}.`)
  const reels = await db.getRepository(ReelEntity).findBy({ showId: id })
  for (const reel of reels)
    await commitFacts(db, reel.id, { show: name, company }, `Rename the show ${name}`, person, now)
}

async function commitFacts(
  db: DataSource,
  id: string,
  fields: ReelFacts,
  label: string,
  person: string,
  now: Date,
): Promise<void> {
  const { doc, seq } = await loadStand(db, id)
  const change = editReel(doc, { fields, label })
  if (!change.ok) throw new AppError('CHANGE_REFUSED', change.message)
  if (change.value.updated.length > 0) await commitChange(db, id, person, now, commitOf(change.value, seq))
}

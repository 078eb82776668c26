import { mergeSpans, type Span, type Watch, type Watched } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { WatchedEntity } from '../db/entities.js'
import { AppError } from '../errors.js'

/** Everything that anybody has watched of a reel, by person and category. */
export async function listWatched(db: DataSource, reelId: string): Promise<Watched[]> {
  const rows = await db
    .getRepository(WatchedEntity)
    .find({ where: { reelId }, order: { person: 'ASC', category: 'ASC' } })
  return rows.map(({ person, category, spans }) => ({
    person,
    category: category as Watched['category'],
    spans,
  }))
}

/** Adds a stretch to what a person has watched for a category; sending it twice changes nothing. */
export async function addWatched(
  db: DataSource,
  reelId: string,
  person: string,
  watch: Watch,
): Promise<Watched[]> {
  if (watch.to <= watch.from)
    throw new AppError(
      'BAD_REQUEST',
      `A watched stretch ends after it begins; got ${watch.from} to ${watch.to}.`,
    )
  await db.transaction(async (tx) => {
    const key = [reelId, person, watch.category]
    await tx.query(
      `INSERT INTO watched (reel_id, person, category) SELECT id, $2, $3 FROM reel WHERE id = $1 ON CONFLICT DO NOTHING`,
      key,
    )
    const [row] = (await tx.query(
      'SELECT spans FROM watched WHERE reel_id = $1 AND person = $2 AND category = $3 FOR UPDATE',
      key,
    )) as { spans: Span[] }[]
    if (!row) throw new AppError('REEL_MISSING', `There is no reel ${reelId}.`)
    const spans = mergeSpans([...row.spans, { from: watch.from, to: watch.to }])
    await tx.query('UPDATE watched SET spans = $4 WHERE reel_id = $1 AND person = $2 AND category = $3', [
      ...key,
      JSON.stringify(spans),
    ])
  })
  return listWatched(db, reelId)
}

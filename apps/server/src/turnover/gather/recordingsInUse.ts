import path from 'node:path'
import type { RecordingsInUse } from '@yodel/core'
import type { DataSource } from 'typeorm'
import type { MediaStore } from '../../media/MediaStore.js'

/** Where the recordings that are gathered for a show lie. */
export async function gatheredFolder(media: MediaStore, showId: string): Promise<string> {
  return path.join(await media.folder('gathered'), showId)
}

/** Ids of all recordings that are placed in a reel of a show. */
export async function soundsOfShow(db: DataSource, showId: string): Promise<string[]> {
  const rows = (await db.query(
    `SELECT DISTINCT r.data->>'soundId' AS id FROM record r JOIN reel ON reel.id = r.reel_id
     WHERE reel.show_id = $1 AND r.kind = 'clip' ORDER BY 1`,
    [showId],
  )) as { id: string }[]
  return rows.map(({ id }) => id)
}

/** On which shelves the recordings of a show lie, by name; those that no shelf knows come last. */
export async function recordingsInUse(
  { db, media }: { readonly db: DataSource; readonly media: MediaStore },
  showId: string,
): Promise<RecordingsInUse> {
  return (await db.query(
    `SELECT h.id AS "shelfId", coalesce(h.name, '') AS shelf, count(*)::int AS sounds, coalesce(sum(s.size), 0)::float8 AS bytes,
       count(*) FILTER (WHERE s.missing)::int AS missing, coalesce(h.root = $2, false) AS gathered
     FROM unnest($1::text[]) AS used(id) LEFT JOIN sound s ON s.id = used.id LEFT JOIN shelf h ON h.id = s.shelf_id
     GROUP BY h.id, h.name, h.root ORDER BY h.name NULLS LAST, h.id`,
    [await soundsOfShow(db, showId), await gatheredFolder(media, showId)],
  )) as RecordingsInUse
}

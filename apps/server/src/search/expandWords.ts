import { translationsOf, type QueryTerm } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { relatedWords, rootsOf } from './relatedWords.js'

/** Why a word stands for one that was typed. */
export type Kinship = 'within' | 'related' | 'translated' | 'respelt'

/** What one typed word stands for in the present index. */
export interface Meaning {
  readonly typed: string
  /** Words of the index that begin with it; the whole word only, in a phrase. */
  readonly direct: readonly string[]
  /** More words begin with it than are listed: it has to be asked as a prefix. */
  readonly open: boolean
  /** Other words that are taken for it, with how they came in. */
  readonly others: ReadonlyMap<string, Kinship>
  /** Sounds that it finds, at most; they may overlap. */
  readonly sounds: number
}

/** Most words that a prefix is replaced by. A list can be answered from the index alone; a prefix inside an AND can't. */
const LISTED = 48
const RESPELT = 3
/** Shorter words lie in too many others. */
const SHORTEST_PART = 4
/** A word that finds this many by itself needs no related ones; translations stand for words that may happen to be English ones, and stay. */
const PLENTY = 1000

interface Found {
  readonly typed: string
  readonly total: number
  readonly words: string[]
}

/**
 * Looks typed words up among the words of the index: what begins with them, what means the same (WordNet; other languages),
 * and, for a word that nothing begins with and nothing means, what is spelt nearest.
 */
export async function expandWords(
  db: DataSource,
  terms: readonly QueryTerm[],
): Promise<Map<string, Meaning>> {
  const typed = [...new Set(terms.flatMap((term) => term.words))]
  const whole = new Set(terms.filter((term) => term.phrase).flatMap((term) => term.words))
  if (typed.length === 0) return new Map()
  const kin = new Map(typed.map((word) => [word, whole.has(word) ? new Map<string, Kinship>() : kinOf(word)]))
  const [begun, counts] = await Promise.all([
    wordsBeginning(db, typed),
    soundsOf(db, [...new Set([...kin.values()].flatMap((words) => [...words.keys()]))]),
  ])
  const longer = await wordsHolding(
    db,
    begun
      .filter(({ typed: word, total }) => total < PLENTY && word.length >= SHORTEST_PART && !whole.has(word))
      .map(({ typed: word }) => word),
  )
  const meanings = new Map<string, Meaning>()
  for (const { typed: word, total, words } of begun) {
    const others = new Map(
      [...(kin.get(word) ?? [])].filter(
        ([other, how]) => counts.has(other) && (how === 'translated' || total < PLENTY),
      ),
    )
    for (const holding of longer.get(word) ?? []) others.set(holding.word, 'within')
    const open = words.length > LISTED
    const more = [...others.keys()].reduce(
      (sum, other) =>
        sum + (counts.get(other) ?? longer.get(word)?.find((entry) => entry.word === other)?.sounds ?? 0),
      0,
    )
    const meaning: Meaning = {
      typed: word,
      direct: words.slice(0, LISTED),
      open,
      others,
      sounds: total + more,
    }
    meanings.set(word, meaning.sounds > 0 || whole.has(word) ? meaning : await respell(db, word))
  }
  return meanings
}

async function wordsBeginning(db: DataSource, typed: readonly string[]): Promise<Found[]> {
  return (await db.query(
    `SELECT w.word AS typed, coalesce(t.total, 0)::int AS total, coalesce(t.words, '{}') AS words
     FROM unnest($1::text[]) AS w(word), LATERAL (
       SELECT sum(sounds) AS total, (array_agg(word ORDER BY sounds DESC, word))[1:${LISTED + 1}] AS words
       FROM term WHERE word ~>=~ w.word AND word ~<~ (w.word || chr(1114111))) AS t`,
    [typed],
  )) as Found[]
}

/** Words of the index that hold a typed one further in, as names written together do (`breakglass`). */
async function wordsHolding(
  db: DataSource,
  words: readonly string[],
): Promise<Map<string, { word: string; sounds: number }[]>> {
  if (words.length === 0) return new Map()
  const rows = (await db.query(
    `SELECT w.word AS typed, t.word, t.sounds FROM json_to_recordset($1) AS w(word text, part text), LATERAL (
       SELECT word, sounds FROM term WHERE word LIKE '%' || w.part || '%' AND NOT starts_with(word, w.word) AND NOT starts_with(word, '=')
       ORDER BY sounds DESC, word LIMIT ${LISTED / 2}) AS t`,
    [
      JSON.stringify(
        words.flatMap((word) =>
          rootsOf(word)
            .filter((part) => part.length >= SHORTEST_PART)
            .map((part) => ({ word, part })),
        ),
      ),
    ],
  )) as { typed: string; word: string; sounds: number }[]
  const found = new Map<string, { word: string; sounds: number }[]>()
  for (const { typed, word, sounds } of rows)
    found.set(typed, [...(found.get(typed) ?? []), { word, sounds }])
  return found
}

function kinOf(word: string): Map<string, Kinship> {
  const kin = new Map<string, Kinship>()
  const translated = translationsOf(word).flatMap(({ english }) => english.split('-'))
  for (const english of translated) for (const form of [english, `${english}s`]) kin.set(form, 'translated')
  for (const related of relatedWords(word))
    for (const form of [related, `${related}s`]) if (!kin.has(form)) kin.set(form, 'related')
  for (const root of rootsOf(word)) kin.set(root, 'related')
  for (const form of [...kin.keys()]) if (form.startsWith(word)) kin.delete(form)
  return kin
}

async function soundsOf(db: DataSource, words: readonly string[]): Promise<Map<string, number>> {
  if (words.length === 0) return new Map()
  const rows = (await db.query('SELECT word, sounds FROM term WHERE word = ANY($1)', [words])) as {
    word: string
    sounds: number
  }[]
  return new Map(rows.map((row) => [row.word, row.sounds]))
}

async function respell(db: DataSource, word: string): Promise<Meaning> {
  const near = (await db.query(
    `SELECT word, sounds, similarity(word, $1)::float8 AS likeness FROM term WHERE word % $1 AND word NOT LIKE '=%'
     ORDER BY similarity(word, $1) DESC, abs(length(word) - length($1)), sounds DESC LIMIT ${RESPELT}`,
    [word],
  )) as { word: string; sounds: number; likeness: number }[]
  // Those that are about as near as the nearest; a far second would only be noise.
  const best = near.filter(({ likeness }) => likeness >= (near[0]?.likeness ?? 1) - 0.12)
  const sounds = best.reduce((sum, entry) => sum + entry.sounds, 0)
  return {
    typed: word,
    direct: [],
    open: false,
    others: new Map(best.map((entry) => [entry.word, 'respelt'])),
    sounds,
  }
}

/** Counts the words of all sounds anew. Searches meanwhile see the old list. */
export async function refreshTerms(db: DataSource): Promise<void> {
  await db.transaction(async (manager) => {
    // Two shelves may come to their end at once.
    await manager.query('LOCK TABLE term IN SHARE ROW EXCLUSIVE MODE')
    await manager.query('DELETE FROM term')
    await manager.query(
      `INSERT INTO term (word, sounds) SELECT word, ndoc FROM ts_stat('SELECT search FROM sound WHERE NOT missing') WHERE length(word) <= 100 AND word NOT LIKE '=p%'`,
    )
    await manager.query(`INSERT INTO term (word, sounds) SELECT '=', count(*) FROM sound WHERE NOT missing`)
  })
  await db.query('VACUUM ANALYZE term')
  // What an index run has written waits beside the word indexes, where every search would have to look through it.
  await db.query(
    `SELECT gin_clean_pending_list(name::regclass) FROM unnest(ARRAY['sound_search', 'sound_sample', 'sound_sample_few']) AS t(name)`,
  )
}

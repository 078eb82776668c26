import {
  SAMPLE_RATE,
  classesWithin,
  pairToken,
  parseQuery,
  quoteLexeme,
  slug,
  type QueryTerm,
  type SoundFilters,
} from '@yodel/core'
import type { DataSource } from 'typeorm'
import { expandWords, type Meaning } from './expandWords.js'

/** What a search is asked beside its text. */
export interface SearchScope {
  /** Shelves that are on; null for all that the person may see. */
  readonly shelves: readonly string[] | null
  readonly kit: string | null
  /** The show that `used:` speaks of. */
  readonly showId: string | null
  readonly now: Date
  /** How many of the words a sound must have: all of them; any two (of the first six); any one. */
  readonly words?: 'all' | 'two' | 'one'
}

/** A search ready to be run. */
export interface BuiltQuery {
  /** In PostgreSQL's notation for `tsquery`; null when it has neither words nor filters. */
  readonly match: string | null
  /** The same with only the words as typed, for ranking; null without words. */
  readonly exact: string | null
  /** Further conditions on `sound s`, each beginning with AND; parameters from $3 on. */
  readonly also: string
  readonly parameters: readonly unknown[]
  /** About how many sounds it finds, and of how many. */
  readonly estimate: number
  readonly all: number
  /** Only few sounds can match, whatever the words: kits, use in a show. */
  readonly few: boolean
  readonly meanings: ReadonlyMap<string, Meaning>
  readonly problems: readonly string[]
}

/** Takes a typed search apart, looks its words up and writes it as a query. */
export async function buildQuery(db: DataSource, text: string, scope: SearchScope): Promise<BuiltQuery> {
  const { terms, filters, problems } = parseQuery(text)
  // Side by side: each trip to the database is felt while somebody types.
  const [meanings, { tokens, counts }] = await Promise.all([
    expandWords(db, terms),
    countedFacets(db, filters, scope),
  ])
  const wanted = apart(terms.filter((term) => !term.without))
  const unwanted = terms.filter((term) => term.without)
  const all = counts.get('=') ?? 0
  const share = (sounds: number): number => (all === 0 ? 0 : Math.min(1, sounds / all))
  const loose = scope.words !== undefined && scope.words !== 'all' && wanted.length > 1
  const shareOf = (term: QueryTerm): number =>
    term.words.reduce((product, word) => product * share(meanings.get(word)?.sounds ?? 0), 1) *
    NEIGHBOURS ** (term.words.length - 1)
  const loosely =
    scope.words === 'two'
      ? pairsOf(wanted).reduce((sum, [a, b]) => sum + shareOf(a) * shareOf(b), 0)
      : wanted.reduce((sum, term) => sum + shareOf(term), 0)
  const shares = [
    ...(loose ? [Math.min(1, loosely)] : wanted.map(shareOf)),
    ...tokens.map((group) => share(group.reduce((sum, token) => sum + countOf(counts, token), 0))),
  ]
  const parts = [
    ...(loose
      ? [join(wanted, scope.words === 'two', (term) => termQuery(term, meanings, true))]
      : wanted.map((term) => termQuery(term, meanings, true))),
    ...tokens.map(
      (group) =>
        `(${group.map((token) => (token.endsWith('*') ? `${quoteLexeme(token.slice(0, -1))}:*` : quoteLexeme(token))).join(' | ')})`,
    ),
    ...unwanted.map((term) => `!${termQuery(term, meanings, false)}`),
  ]
  const residual = residualConditions(filters, scope)
  return {
    match: parts.length > 0 ? parts.join(' & ') : null,
    // What is ranked by are words with their places and weights; pairs have none.
    exact:
      wanted.length > 0
        ? wanted
            .map((term) =>
              term.phrase ? `(${term.words.map(quoteLexeme).join(' & ')})` : termQuery(term, meanings, false),
            )
            .join(loose ? ' | ' : ' & ')
        : null,
    ...residual,
    estimate: Math.round(all * shares.reduce((product, part) => product * part, 1)),
    all,
    meanings,
    problems,
  }
}

/** A word that another one begins with asks for nothing more, and would make the search look narrower than it is. */
const apart = (terms: readonly QueryTerm[]): QueryTerm[] =>
  terms.filter(({ phrase, words: [word = ''] }, index) =>
    terms.every(
      (other, place) =>
        place === index ||
        phrase ||
        other.phrase ||
        !other.words[0]?.startsWith(word) ||
        (other.words[0] === word && place > index),
    ),
  )

/** Sounds in which words follow each other, of those in which they all occur, for each further word. */
const NEIGHBOURS = 0.1

const MOST_PAIRED = 6

function pairsOf<T>(items: readonly T[]): [T, T][] {
  const few = items.slice(0, MOST_PAIRED)
  return few.flatMap((a, index) => few.slice(index + 1).map((b): [T, T] => [a, b]))
}

function join(terms: readonly QueryTerm[], two: boolean, write: (term: QueryTerm) => string): string {
  return `(${
    two
      ? pairsOf(terms)
          .map(([a, b]) => `${write(a)} & ${write(b)}`)
          .join(' | ')
      : terms.map(write).join(' | ')
  })`
}

/** Neighbours are looked up by their pairs; of three words and more, the pairs must also stand in a row. */
function phraseQuery(words: readonly string[]): string {
  const row = words.map(quoteLexeme).join(' <-> ')
  const pairs = words.slice(1).map((word, before) => quoteLexeme(pairToken(words[before] as string, word)))
  return `(${words.length === 2 ? pairs[0] : [...pairs, `(${row})`].join(' & ')})`
}

function termQuery(term: QueryTerm, meanings: ReadonlyMap<string, Meaning>, withOthers: boolean): string {
  if (term.phrase) return phraseQuery(term.words)
  const [word = ''] = term.words
  const meaning = meanings.get(word)
  const others =
    withOthers || meaning?.direct.length === 0 ? [...(meaning?.others.keys() ?? [])].map(quoteLexeme) : []
  const direct =
    !meaning || meaning.open || meaning.direct.length === 0
      ? [`${quoteLexeme(word)}:*`]
      : meaning.direct.map(quoteLexeme)
  return `(${[...direct, ...others].join(' | ')})`
}

/** Facet tokens of the filters: one of each group must be there. A token that ends in `*` is a prefix. */
async function facetGroups(db: DataSource, filters: SoundFilters, scope: SearchScope): Promise<string[][]> {
  const groups: string[][] = []
  if (filters.length) groups.push(classesWithin(filters.length).map((index) => `=d${index}`))
  if (filters.channels !== undefined) groups.push([`=n${filters.channels}`])
  if (filters.sampleRate !== undefined) groups.push([`=k${filters.sampleRate}`])
  if (filters.category !== undefined) groups.push([`=c${filters.category}*`])
  if (filters.licence !== undefined) groups.push([`=l${filters.licence}*`])
  if (filters.tag !== undefined) groups.push([`=t${filters.tag}*`])
  const { rating } = filters
  if (rating !== undefined)
    groups.push([1, 2, 3, 4, 5].filter((stars) => stars >= rating).map((stars) => `=r${stars}`))
  const { shelf } = filters
  if (shelf !== undefined) {
    const shelves = (await db.query('SELECT id, name FROM shelf')) as { id: string; name: string }[]
    groups.push(
      orNothing(shelves.filter(({ name }) => slug(name).startsWith(shelf)).map(({ id }) => `=s${id}`)),
    )
  }
  if (scope.shelves) groups.push(orNothing(scope.shelves.map((id) => `=s${id}`)))
  return groups
}

/** A group that nothing satisfies is a token that no sound has. */
const orNothing = (tokens: string[]): string[] => (tokens.length > 0 ? tokens : ['=s'])

async function countedFacets(
  db: DataSource,
  filters: SoundFilters,
  scope: SearchScope,
): Promise<{ tokens: string[][]; counts: Map<string, number> }> {
  const tokens = await facetGroups(db, filters, scope)
  return { tokens, counts: await tokenCounts(db, tokens.flat()) }
}

async function tokenCounts(db: DataSource, tokens: readonly string[]): Promise<Map<string, number>> {
  const whole = tokens.filter((token) => !token.endsWith('*'))
  const begun = tokens.filter((token) => token.endsWith('*')).map((token) => token.slice(0, -1))
  const rows = (await db.query(
    `SELECT word, sounds FROM term WHERE word = ANY($1)
     UNION ALL SELECT w.word || '*', coalesce((SELECT sum(sounds) FROM term WHERE term.word ~>=~ w.word AND term.word ~<~ (w.word || chr(1114111))), 0)::int
     FROM unnest($2::text[]) AS w(word)`,
    [['=', ...whole], begun],
  )) as { word: string; sounds: number }[]
  return new Map(rows.map(({ word, sounds }) => [word, sounds]))
}

const countOf = (counts: ReadonlyMap<string, number>, token: string): number => counts.get(token) ?? 0

const USED_IN_SHOW = `SELECT r.data->>'soundId' FROM record r JOIN reel l ON l.id = r.reel_id WHERE r.kind = 'clip' AND l.show_id = `
const USED_LATELY = `SELECT sound FROM (SELECT r.data->>'soundId' AS sound, max(c.at) AS at FROM record r JOIN change c ON c.reel_id = r.reel_id AND c.seq = r.version
  WHERE r.kind = 'clip' GROUP BY 1 ORDER BY 2 DESC LIMIT 200) lately`

function residualConditions(
  filters: SoundFilters,
  scope: SearchScope,
): Pick<BuiltQuery, 'also' | 'parameters' | 'few'> {
  const parameters: unknown[] = []
  const conditions: string[] = []
  const parameter = (value: unknown): string => `$${parameters.push(value) + 2}`
  const [least, most] = filters.length ?? [null, null]
  if (least !== null) conditions.push(`s.length >= ${parameter(least * SAMPLE_RATE)}`)
  if (most !== null) conditions.push(`s.length < ${parameter(most * SAMPLE_RATE)}`)
  if (filters.addedDays !== undefined)
    conditions.push(`s.added >= ${parameter(new Date(scope.now.getTime() - filters.addedDays * 86_400_000))}`)
  if (filters.used === 'recent') conditions.push(`s.id IN (${USED_LATELY})`)
  if (filters.used === 'show') conditions.push(`s.id IN (${USED_IN_SHOW}${parameter(scope.showId)})`)
  if (filters.used === 'never')
    conditions.push(`NOT EXISTS (SELECT 1 FROM record r WHERE r.kind = 'clip' AND r.data->>'soundId' = s.id)`)
  if (scope.kit !== null)
    conditions.push(`s.id IN (SELECT sound_id FROM kit_sound WHERE kit_id = ${parameter(scope.kit)})`)
  const few = filters.used === 'recent' || filters.used === 'show' || scope.kit !== null
  return { also: conditions.map((condition) => ` AND ${condition}`).join(''), parameters, few }
}

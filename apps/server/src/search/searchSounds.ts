import type { SoundOrder } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { z } from 'zod'
import { buildQuery, type BuiltQuery, type SearchScope } from './buildQuery.js'

/** A search for one page of results. */
export interface SearchOrder {
  readonly text: string
  readonly scope: SearchScope
  readonly sort: SoundOrder
  readonly down: boolean
  /** Only what lies beyond this value of the order, nearest first ("heavier than this one"). */
  readonly beyond: number | null
  readonly cursor: string | null
}

/** Ids in their order, and where the next page begins. */
export interface FoundIds {
  readonly ids: readonly string[]
  readonly next: string | null
  /** How many there are in all, where all were looked at. */
  readonly total: number | null
  readonly query: BuiltQuery
}

/** Results on the first page, which somebody waits for while typing, and on each after it. */
const FIRST_PAGE = 24
const NEXT_PAGE = 60
/** A search that finds at most about so many is answered from the word index. */
const FEW = 3000
/** Matches that are ranked against each other at once. */
const RANKED = 400
/** Matches that are looked for in one stretch of an order, and rows that are looked through for them at most. */
const WANTED = 120
const SHORTEST = 1000
const LONGEST = 6000
/** Stretches that one request looks through before it hands back what it has. */
const STRETCHES = 8
/** A page may be this short when more would take another stretch. */
const ENOUGH = 16

/** Where a page begins: after this value and id; in a ranked search also after which place of the static order its matches were taken. */
const cursorSchema = z.object({
  v: z.union([z.number(), z.string().max(2000)]),
  id: z.string().max(64),
  block: z
    .tuple([z.int32(), z.string().regex(/^\d{1,18}$/)])
    .nullable()
    .default(null),
})
type Cursor = z.output<typeof cursorSchema>

const COLUMNS: Readonly<Record<Exclude<SoundOrder, 'match'>, string>> = {
  name: 's.name',
  length: 's.length',
  loudness: 's.loudness',
  weight: 's.weight',
  brightness: 's.brightness',
  bite: 's.bite',
  noisiness: 's.noisiness',
  pitch: 's.pitch',
  events: 's.events',
  added: 's.added',
}

/**
 * Finds one page of sounds, so that a million rows answer while somebody types. In an order by a quality, few matches are fetched by the word index
 * and sorted; many are met by walking that order's own index until the page is full. Ranked by words, the next {@link RANKED} matches in the static order
 * (well rated and well described first) are fetched, by the word index where there are few, else by walking, and ranked against each other.
 */
export async function searchSounds(db: DataSource, order: SearchOrder): Promise<FoundIds> {
  const query = await buildQuery(db, order.text, order.scope)
  const sort: SoundOrder = order.sort === 'match' && query.exact === null ? 'name' : order.sort
  const cursor = readCursor(order.cursor, sort)
  const few = query.few || query.all <= FEW || (query.match !== null && query.estimate <= FEW)
  if (sort === 'match') return rank(db, query, few, cursor)
  return few ? findFew(db, query, { ...order, sort }, cursor) : walk(db, query, { ...order, sort }, cursor)
}

const lengthOf = (cursor: Cursor | null): number => (cursor ? NEXT_PAGE : FIRST_PAGE)

interface Row {
  readonly id: string
  readonly v: number | string
  readonly n?: number
}

const condition = (query: BuiltQuery): string =>
  `NOT s.missing AND ${query.match === null ? '$1::text IS NULL' : 's.search @@ $1::tsquery'}${query.also}`
/** Keeps the second parameter in use where there is nothing to rank. */
const UNRANKED = '($2::text IS NULL OR true)'
// What was typed counts far more than what only means the same; the static order and the length of the name break ties.
const SCORE = `round((ts_rank('{0.05, 0.2, 0.45, 1.0}', s.search, $2::tsquery) * 100 + ts_rank('{0.05, 0.2, 0.45, 1.0}', s.search, $1::tsquery) * 10
  + s.standing / 100.0 - length(s.name) / 500.0)::numeric, 5)::float8`

type Sorted = SearchOrder & { readonly sort: Exclude<SoundOrder, 'match'> }

async function findFew(
  db: DataSource,
  query: BuiltQuery,
  order: Sorted,
  cursor: Cursor | null,
): Promise<FoundIds> {
  const column = COLUMNS[order.sort]
  const direction = order.down ? 'DESC' : 'ASC'
  const sign = order.down ? '<' : '>'
  const parameters: unknown[] = [query.match, query.exact, ...query.parameters]
  const after = cursor
    ? `WHERE (v, id) ${sign} (${cast(order.sort, parameters.push(cursor.v))}, $${parameters.push(cursor.id)})`
    : ''
  const beyond = order.beyond === null ? '' : ` AND ${column} ${sign} $${parameters.push(order.beyond)}`
  const rows = (await db.query(
    `SELECT id, v, n FROM (SELECT s.id, ${column} AS v, count(*) OVER ()::int AS n FROM sound s WHERE ${UNRANKED} AND ${condition(query)}${beyond}) AS found
     ${after} ORDER BY v ${direction}, id ${direction} LIMIT ${lengthOf(cursor) + 1}`,
    parameters,
  )) as Row[]
  return {
    ...pageOf(rows, lengthOf(cursor), ({ v, id }) => ({ v, id, block: null })),
    total: rows[0]?.n ?? (cursor ? null : 0),
    query,
  }
}

async function walk(
  db: DataSource,
  query: BuiltQuery,
  order: Sorted,
  cursor: Cursor | null,
): Promise<FoundIds> {
  const column = COLUMNS[order.sort]
  const direction = order.down ? 'DESC' : 'ASC'
  const sign = order.down ? '<' : '>'
  const length = stretchOf(query)
  const page = lengthOf(cursor)
  const found: Row[] = []
  let from: Pick<Cursor, 'v' | 'id'> | null = cursor
  for (let stretch = 0; stretch < STRETCHES && found.length < ENOUGH; stretch++) {
    const parameters: unknown[] = [query.match, query.exact, ...query.parameters]
    const after = from
      ? ` AND (${column}, s.id) ${sign} (${cast(order.sort, parameters.push(from.v))}, $${parameters.push(from.id)})`
      : ''
    const beyond =
      !from && order.beyond !== null ? ` AND ${column} ${sign} $${parameters.push(order.beyond)}` : ''
    const inOrder = `FROM sound s WHERE true${after}${beyond} ORDER BY ${column} ${direction}, s.id ${direction}`
    // OFFSET 0 keeps the order's index in charge: no more than one stretch is ever looked through.
    const rows = (await db.query(
      `(SELECT s.id, ${column} AS v, false AS edge FROM (SELECT * ${inOrder} LIMIT ${length} OFFSET 0) s WHERE ${UNRANKED} AND ${condition(query)} LIMIT ${page + 1 - found.length})
       UNION ALL SELECT id, v, true FROM (SELECT s.id, ${column} AS v ${inOrder} OFFSET ${length - 1} LIMIT 1) edge`,
      parameters,
    )) as (Row & { edge: boolean })[]
    found.push(...rows.filter((row) => !row.edge))
    const edge = rows.find((row) => row.edge)
    if (found.length > page || !edge)
      return { ...pageOf(found, page, ({ v, id }) => ({ v, id, block: null })), total: null, query }
    from = edge
  }
  return {
    ids: found.map((row) => row.id),
    next: from && writeCursor({ v: from.v, id: from.id, block: null }),
    total: null,
    query,
  }
}

interface RankedRow extends Row {
  readonly n: number
  /** The last place of the static order that was looked at. */
  readonly standing: number
  readonly seq: string
}

async function rank(
  db: DataSource,
  query: BuiltQuery,
  few: boolean,
  cursor: Cursor | null,
): Promise<FoundIds> {
  const found: { id: string; v: number | string; block: Cursor['block'] }[] = []
  const page = lengthOf(cursor)
  let total: number | null = null
  let block = cursor?.block ?? null
  let within = cursor && cursor.id !== '' ? cursor : null
  for (let stretch = 0; stretch < STRETCHES && found.length < ENOUGH; stretch++) {
    const parameters: unknown[] = [query.match, query.exact, ...query.parameters]
    const from = block
      ? ` AND (s.standing, s.seq) < ($${parameters.push(block[0])}, $${parameters.push(block[1])})`
      : ''
    const after = within
      ? `WHERE (v, id) < ($${parameters.push(within.v)}::float8, $${parameters.push(within.id)})`
      : ''
    const inOrder = `ORDER BY s.standing DESC, s.seq DESC`
    const source = few
      ? `SELECT s.*, count(*) OVER ()::int AS n FROM (SELECT * FROM sound s WHERE ${condition(query)} OFFSET 0) s WHERE true${from} ${inOrder} LIMIT ${RANKED}`
      : `SELECT * FROM (SELECT *, 0 AS n FROM sound s WHERE true${from} ${inOrder} LIMIT ${stretchOf(query)} OFFSET 0) s WHERE ${condition(query)}`
    const rows = (await db.query(
      `WITH found AS MATERIALIZED (SELECT s.id, s.standing, s.seq, s.n, ${SCORE} AS v FROM (${source}) s)
       SELECT id, v, n, (SELECT min(standing) FROM found) AS standing, (SELECT seq FROM found ORDER BY standing, seq LIMIT 1) AS seq
       FROM found ${after} ORDER BY v DESC, id DESC LIMIT ${page + 1 - found.length}`,
      parameters,
    )) as RankedRow[]
    if (few && cursor === null && stretch === 0) total = rows[0]?.n ?? 0
    found.push(...rows.map(({ id, v }) => ({ id, v, block })))
    if (found.length > page) break
    const edge = few ? fewEdge(rows) : await walkEdge(db, query, block)
    if (!edge) return { ...pageOf(found, page, (row) => row), total, query }
    block = edge
    within = null
  }
  if (found.length > page) return { ...pageOf(found, page, (row) => row), total, query }
  return { ids: found.map((row) => row.id), next: writeCursor({ v: 0, id: '', block }), total, query }
}

/** Where the matches that were ranked end in the static order; null when there are no more. */
const fewEdge = (rows: readonly RankedRow[]): Cursor['block'] =>
  rows[0] && rows[0].n > RANKED ? [rows[0].standing, rows[0].seq] : null

async function walkEdge(db: DataSource, query: BuiltQuery, block: Cursor['block']): Promise<Cursor['block']> {
  const [edge] = (await db.query(
    `SELECT s.standing, s.seq FROM sound s ${block ? 'WHERE (s.standing, s.seq) < ($1, $2)' : ''} ORDER BY s.standing DESC, s.seq DESC OFFSET ${stretchOf(query) - 1} LIMIT 1`,
    block ? [...block] : [],
  )) as { standing: number; seq: string }[]
  return edge ? [edge.standing, edge.seq] : null
}

/** Rows of an order in which about {@link WANTED} matches are to be expected. */
const stretchOf = (query: BuiltQuery): number =>
  Math.round(Math.max(SHORTEST, Math.min(LONGEST, (WANTED * query.all) / Math.max(1, query.estimate))))

function pageOf<T extends { readonly id: string }>(
  rows: readonly T[],
  page: number,
  cursor: (row: T) => Cursor,
): { ids: string[]; next: string | null } {
  const shown = rows.slice(0, page)
  const last = shown.at(-1)
  return {
    ids: shown.map((row) => row.id),
    next: rows.length > page && last ? writeCursor(cursor(last)) : null,
  }
}

const KINDS: Partial<Record<SoundOrder, string>> = {
  name: 'text COLLATE yodel_names',
  added: 'timestamptz',
  events: 'int',
  length: 'float8',
}
const cast = (sort: SoundOrder, index: number): string => `$${index}::${KINDS[sort] ?? 'real'}`

const writeCursor = (cursor: Cursor): string => Buffer.from(JSON.stringify(cursor)).toString('base64url')

/** Whether a value can stand in an order: names are texts, times are read, all else are numbers. */
const fits = (sort: SoundOrder, value: number | string): boolean =>
  sort === 'name'
    ? typeof value === 'string'
    : sort === 'added'
      ? typeof value === 'string' && !Number.isNaN(Date.parse(value))
      : typeof value === 'number'

/** A cursor that was not made here, or for another order, begins again at the first page. */
function readCursor(text: string | null, sort: SoundOrder): Cursor | null {
  if (text === null) return null
  try {
    const { data } = cursorSchema.safeParse(JSON.parse(Buffer.from(text, 'base64url').toString()))
    return data && fits(sort, data.v) ? data : null
  } catch {
    return null
  }
}

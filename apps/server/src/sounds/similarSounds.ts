import type { DataSource } from 'typeorm'
import { buildQuery, type SearchScope } from '../search/buildQuery.js'

/** Numbers that a sound is compared by. */
const DIMENSIONS = 16
/** Below so many sounds every one is compared; above, only those of the nearest cells. */
const SMALL = 20_000
const NEAREST_CELLS = 12
const SAMPLE = 20_000
const ROUNDS = 8
const MOST_CELLS = 1000
const PAGE = 60

/** Writes the numbers that sounds are compared by, each in its nearest cell. */
export async function writeLikeness(
  db: Pick<DataSource, 'query'>,
  sounds: readonly { id: string; likeness: readonly number[] }[],
): Promise<void> {
  if (sounds.length === 0) return
  await db.query(
    `INSERT INTO likeness (sound_id, cell, at)
     SELECT r.id, coalesce((SELECT c.id FROM cell c ORDER BY c.centre <-> cube(r.likeness) LIMIT 1), 0), cube(r.likeness)
     FROM json_to_recordset($1) AS r(id text, likeness float8[]) ON CONFLICT (sound_id) DO UPDATE SET cell = excluded.cell, at = excluded.at`,
    [JSON.stringify(sounds)],
  )
}

/**
 * Finds the sounds that are most like one, the nearest first, itself left out.
 *
 * @param text - A search that narrows what is compared, or empty.
 * @returns Ids; empty when the sound has not been heard yet.
 */
export async function similarSounds(
  db: DataSource,
  id: string,
  text: string,
  scope: SearchScope,
): Promise<string[]> {
  const [count] = (await db.query('SELECT count(*)::int AS cells FROM cell')) as { cells: number }[]
  const query = await buildQuery(db, text, scope)
  const narrowed = query.match !== null || query.also !== ''
  const cells = (count?.cells ?? 0) > 0
  const near = `SELECT c.id FROM cell c, wanted w ORDER BY c.centre <-> w.at LIMIT ${narrowed ? 4 * NEAREST_CELLS : NEAREST_CELLS}`
  const rows = (await db.query(
    `WITH wanted AS MATERIALIZED (SELECT at FROM likeness WHERE sound_id = $3),
     alike AS MATERIALIZED (SELECT l.sound_id, l.at <-> w.at AS away FROM likeness l, wanted w WHERE l.sound_id <> $3${cells ? ` AND l.cell = ANY(ARRAY(${near}))` : ''}
       ORDER BY 2, 1${narrowed ? '' : ` LIMIT ${2 * PAGE}`})
     SELECT s.id FROM alike a JOIN sound s ON s.id = a.sound_id
     WHERE NOT s.missing AND ${query.match === null ? '$1::text IS NULL' : 's.search @@ $1::tsquery'} AND $2::text IS NULL ${renumbered(query.also)}
     ORDER BY a.away, s.id LIMIT ${PAGE}`,
    [query.match, null, id, ...query.parameters],
  )) as { id: string }[]
  return rows.map((row) => row.id)
}

/** Parameters of further conditions begin at $3 in a search; here one stands before them. */
const renumbered = (also: string): string =>
  also.replace(/\$(\d+)/g, (_, index: string) => `$${Number(index) + 1}`)

/**
 * Parts a large library into cells of sounds that are near each other (k-means on a sample), so that only a few are compared.
 * Does nothing while the library is small, or has not grown by half since the cells were made.
 */
export async function refreshCells(db: DataSource, signal: AbortSignal): Promise<void> {
  const [counts] = (await db.query(
    'SELECT (SELECT count(*)::int FROM likeness) AS sounds, (SELECT count(*)::int FROM cell) AS cells',
  )) as { sounds: number; cells: number }[]
  const { sounds = 0, cells = 0 } = counts ?? {}
  const wanted = Math.min(MOST_CELLS, Math.round(Math.sqrt(sounds)))
  if (sounds < SMALL || wanted < cells * 1.22) return
  const rows = (await db.query(
    `SELECT cube_ll_coord(at, 1) AS a, at::text AS at FROM likeness TABLESAMPLE BERNOULLI (${Math.min(100, (100 * SAMPLE) / sounds)})`,
  )) as {
    at: string
  }[]
  const points = rows.map(({ at }) => Float64Array.from(at.slice(1, -1).split(','), Number))
  const centres = await kMeans(points, wanted, signal)
  await db.transaction(async (manager) => {
    await manager.query('LOCK TABLE cell IN SHARE ROW EXCLUSIVE MODE')
    await manager.query('DELETE FROM cell')
    await manager.query(
      'INSERT INTO cell (id, centre) SELECT n, cube(c) FROM json_to_recordset($1) AS r(n int, c float8[])',
      [JSON.stringify(centres.map((centre, n) => ({ n: n + 1, c: [...centre] })))],
    )
    await manager.query(
      'UPDATE likeness l SET cell = (SELECT c.id FROM cell c ORDER BY c.centre <-> l.at LIMIT 1)',
    )
  })
  // Sounds of one cell lie side by side then: a comparison reads a few hundred pages instead of ten thousand.
  await db.query('CLUSTER likeness USING likeness_cell')
  await db.query('ANALYZE likeness')
}

/** Centres of `count` clusters of points. Gives way to other work between rounds. */
async function kMeans(
  points: readonly Float64Array[],
  count: number,
  signal: AbortSignal,
): Promise<Float64Array[]> {
  const step = points.length / count
  const centres = Array.from({ length: count }, (_, index) =>
    Float64Array.from(points[Math.floor(index * step)] ?? new Float64Array(DIMENSIONS)),
  )
  for (let round = 0; round < ROUNDS; round++) {
    const sums = centres.map(() => new Float64Array(DIMENSIONS + 1))
    for (const [index, point] of points.entries()) {
      if (index % 500 === 0) {
        signal.throwIfAborted()
        await new Promise((resolve) => setImmediate(resolve))
      }
      const sum = sums[nearest(centres, point)] as Float64Array
      for (let d = 0; d < DIMENSIONS; d++) sum[d] = (sum[d] as number) + (point[d] as number)
      sum[DIMENSIONS] = (sum[DIMENSIONS] as number) + 1
    }
    for (const [index, sum] of sums.entries()) {
      const members = sum[DIMENSIONS] as number
      if (members > 0)
        for (let d = 0; d < DIMENSIONS; d++)
          (centres[index] as Float64Array)[d] = (sum[d] as number) / members
    }
  }
  return centres
}

function nearest(centres: readonly Float64Array[], point: Float64Array): number {
  let best = 0
  let least = Infinity
  for (let index = 0; index < centres.length; index++) {
    const centre = centres[index] as Float64Array
    let sum = 0
    for (let d = 0; d < DIMENSIONS && sum < least; d++)
      sum += ((centre[d] as number) - (point[d] as number)) ** 2
    if (sum < least) {
      least = sum
      best = index
    }
  }
  return best
}

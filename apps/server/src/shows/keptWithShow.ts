import type { DataSource } from 'typeorm'
import { AppError } from '../errors.js'

/** Something that every reel of a show has, and that anybody may change. */
interface Kept {
  readonly id: string
  /** How often it was changed. */
  readonly version: number
  readonly name: string
}
type Table = 'pool' | 'stack_plan'

/** The things of one kind that belong to the show of a reel, in the order in which they were made. @throws AppError `REEL_MISSING` */
export async function listKept<Thing extends Kept>(
  db: DataSource,
  table: Table,
  reelId: string,
): Promise<Thing[]> {
  const rows = (await db.query(`SELECT body FROM ${table} WHERE show_id = $1 ORDER BY id`, [
    await showOf(db, reelId),
  ])) as { body: Thing }[]
  return rows.map(({ body }) => body)
}

/**
 * Keeps a thing with the show of a reel, in the place of what it was.
 *
 * @param thing.version - That of the thing from which it was made; 0 for a new one
 * @param clashes - Says why it can't stand beside another one, or null
 * @returns The thing as it is kept, with its next version
 * @throws AppError `REEL_MISSING`; `CHANGE_CONFLICT` when it clashes, or somebody changed it meanwhile
 */
export async function keep<Thing extends Kept>(
  db: DataSource,
  table: Table,
  reelId: string,
  thing: Thing,
  clashes: (other: Thing) => string | null = () => null,
): Promise<Thing> {
  const showId = await showOf(db, reelId)
  return db.transaction(async (within) => {
    // Two that change things of a show wait for each other.
    await within.query('SELECT 1 FROM show WHERE id = $1 FOR UPDATE', [showId])
    const there = (await within.query(`SELECT show_id, body FROM ${table} WHERE show_id = $1 OR id = $2`, [
      showId,
      thing.id,
    ])) as { show_id: string; body: Thing }[]
    const refused = there.map(({ body }) => (body.id === thing.id ? null : clashes(body))).find(Boolean)
    if (refused) throw new AppError('CHANGE_CONFLICT', refused)
    const known = there.find(({ body }) => body.id === thing.id)
    if (known && known.show_id !== showId)
      throw new AppError('CHANGE_CONFLICT', `“${known.body.name}” belongs to another show.`)
    if ((known?.body.version ?? 0) !== thing.version)
      throw new AppError(
        'CHANGE_CONFLICT',
        `Somebody has changed “${known?.body.name ?? thing.name}” meanwhile, or taken it away. Look at it as it is now, and change it again.`,
      )
    const kept = { ...thing, version: thing.version + 1 }
    await within.query(
      `INSERT INTO ${table} (id, show_id, body) VALUES ($1, $2, $3) ON CONFLICT (id) DO UPDATE SET body = $3`,
      [kept.id, showId, JSON.stringify(kept)],
    )
    return kept
  })
}

/** Takes a thing away; what was made with it stays. @throws AppError `REEL_MISSING` */
export async function drop(db: DataSource, table: Table, reelId: string, id: string): Promise<void> {
  await db.query(`DELETE FROM ${table} WHERE id = $1 AND show_id = $2`, [id, await showOf(db, reelId)])
}

/** The id of the show of a reel. @throws AppError `REEL_MISSING` */
export async function showOf(db: DataSource, reelId: string): Promise<string> {
  const [row] = (await db.query('SELECT show_id FROM reel WHERE id = $1 AND thrown IS NULL', [reelId])) as {
    show_id: string
  }[]
  if (!row) throw new AppError('REEL_MISSING', 'This reel is not on the server any more.')
  return row.show_id
}

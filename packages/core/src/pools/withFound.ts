import { MOST_MEMBERS, type Pool } from '../contract/pools.js'

/** A pool with what its own search finds today. Who is in it already, also left out or as a part, does not come in again. */
export function withFound(
  pool: Pool,
  found: readonly { readonly id: string; readonly name: string }[],
): Pool {
  const known = new Set(pool.members.map(({ soundId }) => soundId))
  const fresh = found.filter(({ id }) => !known.has(id))
  if (fresh.length === 0) return pool
  const joined = fresh.map(({ id, name }) => ({ soundId: id, name, part: null, weight: 1 }))
  return { ...pool, members: [...pool.members, ...joined].slice(0, MOST_MEMBERS) }
}

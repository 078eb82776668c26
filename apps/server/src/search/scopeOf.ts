import { plainText } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { z } from 'zod'
import { shelvesSeen } from '../sounds/shelves.js'
import type { SearchScope } from './buildQuery.js'

/** The part of a query string that says what to search, and where. */
export const scopeQuery = z.object({
  q: plainText(400).default(''),
  /** Ids of the shelves that are on, by commas; all when absent. */
  shelves: plainText(20_000).optional(),
  kit: z.uuid().optional(),
  show: plainText(64).optional(),
})

/** Where a person's search looks: the shelves that are on and that they see, and what the ranking knows about now. */
export async function scopeOf(
  db: DataSource,
  query: z.infer<typeof scopeQuery>,
  person: string,
  now: Date,
): Promise<SearchScope> {
  const all = await shelvesSeen(db, person)
  const wanted = query.shelves === undefined ? null : new Set(query.shelves.split(','))
  const shelves = all.filter(({ id, visible }) => visible && (!wanted || wanted.has(id))).map(({ id }) => id)
  return {
    shelves: shelves.length === all.length ? null : shelves,
    kit: query.kit ?? null,
    showId: query.show ?? null,
    now,
  }
}

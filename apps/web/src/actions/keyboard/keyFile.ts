import { z } from 'zod'
import type { OwnKeys } from '../action.js'

const STROKE = z
  .string()
  .max(40)
  .regex(/^(Ctrl )?(Alt )?(Shift )?\S+$/)
const FILE = z.object({
  kind: z.literal('yodel keys'),
  version: z.literal(1),
  keys: z.record(z.string().max(60), z.array(STROKE).max(8)),
})

/** Keys of one's own as a file, for another browser. */
export const writeKeyFile = (own: OwnKeys): string =>
  JSON.stringify({ kind: 'yodel keys', version: 1, keys: own }, null, 2)

/**
 * Keys of one's own from a file; keys for actions that are not known here are left out.
 *
 * @param known - Names of the actions
 * @returns The keys and how many were left out, or null if it is no file of keys
 */
export function readKeyFile(
  text: string,
  known: ReadonlySet<string>,
): { own: Record<string, string[]>; left: number } | null {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    return null
  }
  const file = FILE.safeParse(json)
  if (!file.success) return null
  const all = Object.entries(file.data.keys)
  const kept = all.filter(([id]) => known.has(id))
  return { own: Object.fromEntries(kept), left: all.length - kept.length }
}

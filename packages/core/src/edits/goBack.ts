import { ok, refuse, type Result } from '../errors.js'
import { sameRecord, type Change } from '../reel/change.js'
import { recordsOf, type ReelDocument } from '../reel/document.js'
import type { ReelRecord } from '../reel/records.js'

/**
 * Makes a reel what it was at an earlier time, as a new edit that can itself be undone.
 *
 * @param args.then - The document of that time.
 * @param args.what - What was done last then, for the label.
 */
export function goBack(doc: ReelDocument, args: { then: ReelDocument; what: string }): Result<Change> {
  const before = new Map(recordsOf(doc).map((record) => [record.id, record]))
  const after = new Map(recordsOf(args.then).map((record) => [record.id, record]))
  const updated = [...after.values()].flatMap((to): [ReelRecord, ReelRecord][] => {
    const from = before.get(to.id)
    return from && !sameRecord(from, to) ? [[from, to]] : []
  })
  const added = [...after.values()].filter((record) => !before.has(record.id))
  const removed = [...before.values()].filter((record) => !after.has(record.id))
  if (added.length + updated.length + removed.length === 0) return refuse('CORE_BAD_SPAN', 'go back', 'the reel already is as it was then')
  return ok({ label: `Back to “${args.what}”`, added, updated, removed })
}

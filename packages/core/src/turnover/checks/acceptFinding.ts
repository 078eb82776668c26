import { ok, refuse, type Result } from '../../errors.js'
import type { Change } from '../../reel/change.js'
import type { ReelDocument } from '../../reel/document.js'
import type { Acceptance } from '../../reel/records.js'
import { aboutKey, standOf } from './accepted.js'
import { checkTitle } from './findAll.js'
import type { Finding } from './finding.js'

/**
 * Accepts a finding with a reason: it is not worked off any more, and stands in the report. It comes back when what it
 * speaks of has changed; accepted again, the new reason takes the old one's place.
 *
 * @param args.id - Of the new acceptance.
 * @param args.at - When, ISO 8601.
 */
export function acceptFinding(
  doc: ReelDocument,
  args: { id: string; finding: Finding; reason: string; by: string; at: string },
): Result<Change> {
  const { finding, by, at } = args
  const reason = args.reason.trim()
  if (reason === '') return refuse('CORE_NO_WORDS', 'reason')
  const about = aboutKey(finding)
  const old = [...doc.acceptance.values()].find((one) => one.check === finding.check && one.about === about)
  const fresh = { check: finding.check, about, stand: standOf(doc, finding), reason, by, at }
  const label = `Accept: ${checkTitle(finding.check)}`
  if (old) return ok({ label, added: [], updated: [[old, { ...old, ...fresh }]], removed: [] })
  const accepted: Acceptance = { kind: 'acceptance', id: args.id, ...fresh }
  return ok({ label, added: [accepted], updated: [], removed: [] })
}

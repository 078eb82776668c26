import type { ReelDocument } from '../../reel/document.js'
import type { Acceptance, ReelRecord } from '../../reel/records.js'
import { recordOf, type Finding } from './finding.js'

/** What tells a finding from others of its check: the records it speaks of. */
export const aboutKey = (finding: Pick<Finding, 'about'>): string => finding.about.join(' ')

/** A digest of what a finding speaks of as it stands; it changes when any of that does. */
export function standOf(doc: ReelDocument, finding: Finding): string {
  const records = finding.about.map((id) => recordOf(doc, id) ?? id)
  return digest(JSON.stringify([finding.text, records.map(inOrder)]))
}

/** A record with its fields in the order of their names: a database gives them back in another than they had. */
const inOrder = (record: ReelRecord | string): unknown =>
  typeof record === 'string' ? record : Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1))

/** The acceptance of each finding that was accepted and has not changed since. */
export function acceptancesOf(
  doc: ReelDocument,
  findings: readonly Finding[],
): ReadonlyMap<Finding, Acceptance> {
  const known = new Map([...doc.acceptance.values()].map((one) => [`${one.check} ${one.about}`, one]))
  const accepted = new Map<Finding, Acceptance>()
  for (const finding of findings) {
    const one = known.get(`${finding.check} ${aboutKey(finding)}`)
    if (one && one.stand === standOf(doc, finding)) accepted.set(finding, one)
  }
  return accepted
}

/** FNV-1a in two halves of 32 bits (the published constants, the second half with another start): enough to see that something changed. */
function digest(text: string): string {
  let [a, b] = [0x811c9dc5, 0x01000193]
  for (let at = 0; at < text.length; at++) {
    a = Math.imul(a ^ text.charCodeAt(at), 0x01000193)
    b = Math.imul(b ^ text.charCodeAt(text.length - 1 - at), 0x01000193)
  }
  return [a, b].map((half) => (half >>> 0).toString(16).padStart(8, '0')).join('')
}

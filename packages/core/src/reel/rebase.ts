import { ok, refuse, type Result } from '../errors.js'
import { cueCode, nextNumber } from './numbering.js'
import { apply, isEmpty, sameRecord, touchedIds, type Change } from './change.js'
import type { ReelDocument } from './document.js'
import { checkChange } from './invariants.js'
import type { Cue, ReelRecord } from './records.js'

/** A change that was fitted to another document, and that document with it. */
export interface Rebased {
  /** The change as it was given where it fits as it is; empty where everything it does is done already. */
  readonly change: Change
  readonly doc: ReelDocument
}

/**
 * Fits a change that was made on one document to another: to what others have done meanwhile, or to what is left
 * when something before it was refused.
 *
 * Two people may change one record as long as they change different fields. A cue whose number was given out
 * meanwhile gets the next free one. What the change removes or adds may be gone or there already.
 * A sound or a note whose cue was deleted belongs to none, whichever of the two came first.
 *
 * @param doc - The document that the change is to be done on.
 * @returns A refusal when both changed the same field, when a record to be changed is gone or one to be removed
 *   has changed, or when the outcome would break a rule of the document.
 */
export function rebaseChange(doc: ReelDocument, change: Change): Result<Rebased> {
  const fitted = fit(doc, change)
  if (!fitted.ok) return fitted
  if (isEmpty(fitted.value)) return ok({ change: fitted.value, doc })
  const after = apply(doc, fitted.value)
  if (!after.ok) return after
  const checked = checkChange(after.value, fitted.value)
  return checked.ok ? ok({ change: fitted.value, doc: after.value }) : checked
}

function fit(doc: ReelDocument, change: Change): Result<Change> {
  const removed: ReelRecord[] = []
  for (const record of change.removed) {
    const present = presentOf(doc, record)
    if (!present) continue
    // A cue is the same one whatever its number: it may have got another one on its way.
    const renumbered =
      present.kind === 'cue' && record.kind === 'cue' ? { ...record, number: present.number } : record
    if (!sameRecord(present, renumbered)) return changed(change, record)
    removed.push(sameRecord(present, record) ? record : present)
  }
  const updated: (readonly [ReelRecord, ReelRecord])[] = []
  for (const pair of change.updated) {
    const merged = merge(doc, change, pair)
    if (!merged.ok) return merged
    if (!sameRecord(merged.value[0], merged.value[1])) updated.push(merged.value)
  }
  const added: ReelRecord[] = []
  for (const record of change.added) {
    const present = presentOf(doc, record)
    if (!present) added.push(record)
    else if (!sameRecord(present, record)) return refuse('CORE_RECORD_EXISTS', change.label, naming(record))
  }
  return ok(
    numbered(doc, withoutLostCues(doc, asGiven(change, { label: change.label, added, updated, removed }))),
  )
}

/** Lets go of cues that are deleted: what the change writes on one that is gone, and what lies on one that it takes out. */
function withoutLostCues(doc: ReelDocument, change: Change): Change {
  const gone = new Set(change.removed.map((record) => record.id))
  const fresh = new Set(change.added.map((record) => record.id))
  const isLost = (id: string): boolean => gone.has(id) || !(doc.cue.has(id) || fresh.has(id))
  const loose = (record: ReelRecord): ReelRecord =>
    (record.kind === 'clip' || record.kind === 'note') && record.cueId !== null && isLost(record.cueId)
      ? { ...record, cueId: null }
      : record
  const written = new Set(touchedIds(change))
  const hanging = [...(gone.size > 0 ? [...doc.clip.values(), ...doc.note.values()] : [])].filter(
    (record) => record.cueId !== null && gone.has(record.cueId) && !written.has(record.id),
  )
  const added = change.added.map(loose)
  const updated = change.updated.map((pair) => {
    const to = loose(pair[1])
    return to === pair[1] ? pair : ([pair[0], to] as const)
  })
  return asGiven(change, {
    ...change,
    added,
    updated: [...updated, ...hanging.map((record) => [record, { ...record, cueId: null }] as const)],
  })
}

/** Takes over the fields that a pair changes onto the record as it is now. */
function merge(
  doc: ReelDocument,
  change: Change,
  pair: readonly [ReelRecord, ReelRecord],
): Result<readonly [ReelRecord, ReelRecord]> {
  const [from, to] = pair
  const present = presentOf(doc, from)
  if (!present) return refuse('CORE_RECORD_MISSING', change.label, naming(from))
  if (sameRecord(present, from)) return ok(pair)
  const before = from as unknown as Record<string, unknown>
  const after = to as unknown as Record<string, unknown>
  const now = present as unknown as Record<string, unknown>
  const next: Record<string, unknown> = { ...now }
  for (const [field, value] of Object.entries(after)) {
    if (value === before[field] || value === now[field]) continue
    if (now[field] !== before[field]) return changed(change, from, field)
    next[field] = value
  }
  return ok([present, next as unknown as ReelRecord] as const)
}

/** Gives added cues the next free number of their category where theirs is taken. */
function numbered(doc: ReelDocument, change: Change): Change {
  const cues = change.added.filter((record): record is Cue => record.kind === 'cue')
  if (cues.length === 0) return change
  const gone = new Set(change.removed.map((record) => record.id))
  const moved = new Map(change.updated.map(([, to]) => [to.id, to]))
  const others = [...doc.cue.values()]
    .filter((cue) => !gone.has(cue.id))
    .map((cue) => (moved.get(cue.id) ?? cue) as Cue)
  const taken = new Set(others.map(cueCode))
  let { label } = change
  const added = change.added.map((record) => {
    if (record.kind !== 'cue' || !taken.has(cueCode(record))) return record
    const all = [...others, ...cues]
    const fresh: Cue = {
      ...record,
      number: nextNumber({ cue: new Map(all.map((cue) => [cue.id, cue])) }, record.category),
    }
    taken.add(cueCode(fresh))
    cues.splice(cues.indexOf(record), 1, fresh)
    label = label.replace(cueCode(record), cueCode(fresh))
    return fresh
  })
  return label === change.label && added.every((record, at) => record === change.added[at])
    ? change
    : { ...change, label, added }
}

/** The change itself where fitting has altered nothing, so that who compares by identity sees so. */
function asGiven(change: Change, fitted: Change): Change {
  const same =
    fitted.added.length === change.added.length &&
    fitted.removed.length === change.removed.length &&
    fitted.updated.length === change.updated.length &&
    fitted.added.every((record, at) => record === change.added[at]) &&
    fitted.removed.every((record, at) => record === change.removed[at]) &&
    fitted.updated.every((pair, at) => pair === change.updated[at])
  return same ? change : fitted
}

const presentOf = (doc: ReelDocument, { kind, id }: ReelRecord): ReelRecord | undefined => doc[kind].get(id)

const naming = (record: ReelRecord): string => `${record.kind} ${record.id}`

const changed = (change: Change, record: ReelRecord, field = ''): Result<never> =>
  refuse('CORE_RECORD_CHANGED', change.label, field ? `${field} of ${nameOf(record)}` : nameOf(record))

/** What a record is called where people read of it. */
function nameOf(record: ReelRecord): string {
  if (record.kind === 'cue') return cueCode(record)
  return 'name' in record && record.name ? record.name : record.kind
}

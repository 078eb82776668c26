import { ok, refuse, type Result } from '../errors.js'
import { carryTracks, recordsOf, type ReelDocument } from './document.js'
import type { Clip, RecordKind, ReelRecord } from './records.js'

/** What an edit does, as a value: it can be applied, inverted, sent, stored. */
export interface Change {
  /** What was done, in words a history shows ("Trim Ground frame lever"). */
  readonly label: string
  readonly added: readonly ReelRecord[]
  /** Pairs of the record before and after; both have the same kind and id. */
  readonly updated: readonly (readonly [from: ReelRecord, to: ReelRecord])[]
  readonly removed: readonly ReelRecord[]
}

/** A change that does nothing yet. */
export function emptyChange(label: string): Change {
  return { label, added: [], updated: [], removed: [] }
}

/** Says whether a change touches no record. */
export function isEmpty(change: Change): boolean {
  return change.added.length + change.updated.length + change.removed.length === 0
}

/** Ids of all records that a change touches. */
export function touchedIds(change: Change): string[] {
  return [...change.added, ...change.updated.map(([, to]) => to), ...change.removed].map(
    (record) => record.id,
  )
}

/** Says whether two records hold the same values (records are flat: no nested values). */
export function sameRecord(a: ReelRecord, b: ReelRecord): boolean {
  const left = a as unknown as Record<string, unknown>
  const right = b as unknown as Record<string, unknown>
  const keys = Object.keys(left)
  return keys.length === Object.keys(right).length && keys.every((key) => left[key] === right[key])
}

/**
 * Applies a change to a document.
 *
 * @returns The new document (tables without changes are shared with the old one), or a refusal when a record
 *   to be added is there, or one to be updated or removed is missing or differs from what the change saw.
 */
export function apply(doc: ReelDocument, change: Change): Result<ReelDocument> {
  const tables: Partial<Record<RecordKind, Map<string, ReelRecord>>> = {}
  const table = (kind: RecordKind): Map<string, ReelRecord> =>
    (tables[kind] ??= new Map<string, ReelRecord>(doc[kind]))
  for (const record of change.removed) {
    const present = table(record.kind).get(record.id)
    if (!present) return refuse('CORE_RECORD_MISSING', change.label, `${record.kind} ${record.id}`)
    if (!sameRecord(present, record))
      return refuse('CORE_RECORD_CHANGED', change.label, `${record.kind} ${record.id}`)
    table(record.kind).delete(record.id)
  }
  for (const [from, to] of change.updated) {
    const present = table(from.kind).get(from.id)
    if (!present) return refuse('CORE_RECORD_MISSING', change.label, `${from.kind} ${from.id}`)
    if (!sameRecord(present, from))
      return refuse('CORE_RECORD_CHANGED', change.label, `${from.kind} ${from.id}`)
    table(to.kind).set(to.id, to)
  }
  for (const record of change.added) {
    if (table(record.kind).has(record.id))
      return refuse('CORE_RECORD_EXISTS', change.label, `${record.kind} ${record.id}`)
    table(record.kind).set(record.id, record)
  }
  const next = Object.freeze({ ...doc, ...tables }) as unknown as ReelDocument
  if (tables.clip) {
    const clips = (records: readonly ReelRecord[]): Clip[] =>
      records.filter((record) => record.kind === 'clip')
    carryTracks(
      doc.clip,
      next.clip,
      clips([...change.removed, ...change.updated.map(([from]) => from)]),
      clips([...change.updated.map(([, to]) => to), ...change.added]),
    )
  }
  return ok(next)
}

/** The change that makes one document of another. */
export function changeTo(doc: ReelDocument, wanted: ReelDocument, label: string): Change {
  const before = new Map(recordsOf(doc).map((record) => [record.id, record]))
  const after = new Map(recordsOf(wanted).map((record) => [record.id, record]))
  const updated = [...after.values()].flatMap((to): [ReelRecord, ReelRecord][] => {
    const from = before.get(to.id)
    return from && !sameRecord(from, to) ? [[from, to]] : []
  })
  const added = [...after.values()].filter((record) => !before.has(record.id))
  const removed = [...before.values()].filter((record) => !after.has(record.id))
  return { label, added, updated, removed }
}

/** The change that takes a change back. */
export function invert(change: Change): Change {
  return {
    label: change.label,
    added: change.removed,
    updated: change.updated.map(([from, to]) => [to, from] as const),
    removed: change.added,
  }
}

/**
 * Joins two changes, the second made after the first, into one with the same effect.
 * Records added and removed again vanish; updates keep the first `from` and the last `to`.
 */
export function squash(first: Change, second: Change, label = second.label): Change {
  return join([first, second], label)
}

/** Does edits one after the other, each on the document that those before it leave, as one change. The first refusal refuses all. */
export function chain(
  doc: ReelDocument,
  label: string,
  edits: Iterable<(now: ReelDocument) => Result<Change>>,
): Result<Change> {
  const done: Change[] = []
  let now = doc
  for (const edit of edits) {
    const change = edit(now)
    if (!change.ok) return change
    const next = apply(now, change.value)
    if (!next.ok) return next
    now = next.value
    done.push(change.value)
  }
  return ok(join(done, label))
}

function join(changes: readonly Change[], label: string): Change {
  const before = new Map<string, ReelRecord | null>()
  const after = new Map<string, ReelRecord | null>()
  const note = (id: string, from: ReelRecord | null, to: ReelRecord | null): void => {
    if (!before.has(id)) before.set(id, from)
    after.set(id, to)
  }
  for (const change of changes) {
    for (const record of change.removed) note(record.id, record, null)
    for (const [from, to] of change.updated) note(from.id, from, to)
    for (const record of change.added) note(record.id, null, record)
  }
  return changeBetween(label, before, after)
}

function changeBetween(
  label: string,
  before: Map<string, ReelRecord | null>,
  after: Map<string, ReelRecord | null>,
): Change {
  const added: ReelRecord[] = []
  const updated: [ReelRecord, ReelRecord][] = []
  const removed: ReelRecord[] = []
  for (const [id, from] of before) {
    const to = after.get(id) ?? null
    if (!from && to) added.push(to)
    if (from && !to) removed.push(from)
    if (from && to && !sameRecord(from, to)) updated.push([from, to])
  }
  return { label, added, updated, removed }
}

/** The texts that a change writes, for showing what was meant: every field of words that is new or other than before. */
export function textsOf({ added, updated }: Change): string[] {
  const pairs: [object, object][] = [
    ...added.map((to): [object, object] => [{}, to]),
    ...updated.map(([from, to]): [object, object] => [from, to]),
  ]
  return pairs.flatMap(([from, to]) =>
    ['words', 'notes', 'remark', 'omitReason'].flatMap((field) => {
      const text = (to as Record<string, unknown>)[field]
      return typeof text === 'string' && text !== '' && text !== (from as Record<string, unknown>)[field]
        ? [text]
        : []
    }),
  )
}

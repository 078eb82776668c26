import { isPlain, plain } from './text.js'
import type { Change } from './change.js'
import type { ReelRecord } from './records.js'

/** A change without control characters and halves of characters in what it writes; itself where there are none. */
export function cleanChange(change: Change): Change {
  if (isPlain(change.label) && change.added.every(isClean) && change.updated.every(([, to]) => isClean(to)))
    return change
  return {
    ...change,
    label: plain(change.label),
    added: change.added.map(cleanRecord),
    updated: change.updated.map(([from, to]) => [from, cleanRecord(to)] as const),
  }
}

const isClean = (record: ReelRecord): boolean =>
  Object.values(record).every((value) => typeof value !== 'string' || isPlain(value))

function cleanRecord(record: ReelRecord): ReelRecord {
  if (isClean(record)) return record
  const fields = Object.entries(record).map(([name, value]) => [
    name,
    typeof value === 'string' ? plain(value) : value,
  ])
  return Object.fromEntries(fields) as ReelRecord
}

import {
  apply,
  checkChange,
  documentOf,
  isEmpty,
  recordsOf,
  touchedIds,
  type ReelDocument,
  type ReelState,
} from '@yodel/core'
import { testReel } from '../../../../../../packages/core/src/test/testReel.js'
import type { Answer } from '../syncMachine.js'
import type { Logged, Task } from '../syncState.js'

const MAKING: Logged = {
  ...({ seq: 1, changeId: 'making', author: 'nobody', at: '', role: 'do', target: null } as const),
  change: { label: 'Make reel', added: recordsOf(testReel()), updated: [], removed: [] },
}

/** A plain model of the server: a log, and what it says to each change that is sent. */
export class ModelLog {
  readonly entries: Logged[] = [MAKING]
  private readonly docs: ReelDocument[] = [documentOf(recordsOf(testReel()))]
  private readonly versions = new Map<string, number>()
  private readonly removed = new Set<string>()

  /** @param refuses - Whether a change can never be stored, by its id: as a server that answers 500 to it, and only to it. */
  constructor(private readonly refuses: (changeId: string) => boolean) {}

  get doc(): ReelDocument {
    return this.docs.at(-1) as ReelDocument
  }

  /** Whether a cue was taken out, or never came in. */
  isGone(id: string): boolean {
    return this.removed.has(id) || !this.doc.cue.has(id)
  }

  since(seq: number): Logged[] {
    return this.entries.slice(seq)
  }

  open(me: string): ReelState {
    const log = this.entries.map(({ change, ...line }) => ({ ...line, label: change.label }))
    return { seq: this.entries.length, me, records: recordsOf(this.doc), log }
  }

  commit(author: string, { item, base, target }: Extract<Task, { kind: 'send' }>): Answer {
    const { changeId, role, change } = item
    const known = this.entries.find((entry) => entry.changeId === changeId)
    if (known)
      return { kind: 'committed', seq: known.seq, missed: this.entries.slice(base, known.seq), at: '' }
    if (this.refuses(changeId) || isEmpty(change))
      return { kind: 'refused', why: 'The server met an error of its own.' }
    const next = apply(this.doc, change)
    const stale = touchedIds(change).some((id) => (this.versions.get(id) ?? 0) > base)
    if (stale || !next.ok)
      return { kind: 'conflict', missed: this.since(base), why: 'It was changed in the meantime.' }
    const checked = checkChange(next.value, change)
    if (!checked.ok) {
      if (base < this.entries.length)
        return { kind: 'conflict', missed: this.since(base), why: checked.message }
      return { kind: 'refused', why: checked.message }
    }
    const seq = this.entries.length + 1
    const missed = this.since(base)
    this.entries.push({ seq, changeId, author, at: '', role, target, change })
    this.docs.push(next.value)
    for (const id of touchedIds(change)) this.versions.set(id, seq)
    for (const { id } of change.removed) this.removed.add(id)
    return { kind: 'committed', seq, missed, at: '' }
  }
}

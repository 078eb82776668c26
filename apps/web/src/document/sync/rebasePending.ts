import { invert, isEmpty, rebaseChange, type Change, type ReelDocument } from '@yodel/core'
import { pushAct } from './stacks.js'
import type { Aside, News, Pending, Settled, Stacks } from './syncState.js'

/** What comes of doing one's own unsent changes on top of what the log has. */
export interface OnTop extends Stacks {
  readonly doc: ReelDocument
  readonly pending: readonly Pending[]
  /** What no longer fits. */
  readonly aside: readonly Aside[]
  readonly news: readonly News[]
}

/**
 * Does unsent changes again, in order, on the reel as the log has it now. Each is fitted to what is there (see
 * core's `rebaseChange`); what no longer fits is set aside, with the undos and redos that belonged to it, and what
 * is done already is left out.
 */
export function rebasePending(settled: Settled, pending: readonly Pending[]): OnTop {
  let { doc } = settled
  let stacks: Stacks = settled
  const kept = new Map<string, Change>()
  const gone = new Set<string>()
  const leftOut = new Set<string>()
  const on: Pending[] = []
  const aside: Aside[] = []
  const news: News[] = []
  for (const item of pending) {
    // What turns something that will never be there has nothing to do; nor has what turns back a turn that was left out.
    const turned = keyOf(item)
    if (gone.has(item.of?.changeId ?? '') || leftOut.delete(turned)) {
      gone.add(item.changeId)
      continue
    }
    const fitted = rebaseChange(doc, wished(item, kept))
    if (!fitted.ok) {
      gone.add(item.changeId)
      if (turned) leftOut.add(turned)
      aside.push({ changeId: item.changeId, change: item.change, why: fitted.message })
      news.push(lost(item.change, fitted.message))
      continue
    }
    const { change } = fitted.value
    if (isEmpty(change)) {
      gone.add(item.changeId)
      if (turned) leftOut.add(turned)
      continue
    }
    if (change.label !== item.change.label && item.role === 'do') news.push(renamed(item.change, change))
    kept.set(item.changeId, change)
    doc = fitted.value.doc
    const next = change === item.change ? item : { ...item, change }
    on.push(next)
    stacks = pushAct(stacks, next, { seq: null, changeId: item.changeId, label: change.label, change })
  }
  return { doc, undo: stacks.undo, redo: stacks.redo, pending: on, aside, news }
}

/** The act that an undo or redo turns, by one name; empty for an act. */
const keyOf = ({ of }: Pending): string => (of ? String(of.seq ?? of.changeId) : '')

/** What an unsent change wants: an undo or redo of another unsent one follows what has become of that one. */
function wished(item: Pending, kept: ReadonlyMap<string, Change>): Change {
  const act = kept.get(item.of?.changeId ?? '')
  if (!act) return item.change
  return item.role === 'undo' ? invert(act) : act
}

/** Tells that a change could not be saved, and where it can be read. */
export const lost = (change: Change, why: string): News => ({
  tone: 'problem',
  text: `“${change.label}” could not be saved. ${why} It is kept under History, where it can be tried again.`,
})

const renamed = (before: Change, after: Change): News => ({
  tone: 'plain',
  text: `“${before.label}” became “${after.label}”: somebody else has that number.`,
})

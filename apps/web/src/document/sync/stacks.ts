import { invert, type Change } from '@yodel/core'
import type { Act, Logged, Pending, Stacks } from './syncState.js'

type Turn = Pick<Pending, 'role' | 'of'>

/**
 * Takes one more change into the stacks of undo and redo, as the log's own rule has it: an act forgets what could
 * be redone, an undo moves its act over and a redo back.
 *
 * @param change - The change as an act.
 */
export function pushAct(stacks: Stacks, { role, of }: Turn, change: Act): Stacks {
  if (role === 'do') return { undo: [...stacks.undo, change], redo: [] }
  const from = role === 'undo' ? stacks.undo : stacks.redo
  // Not there where the same person has worked in two pages at once: then it is what this change turns round.
  const act = from.findLast((one) => isSame(one, of)) ?? {
    ...change,
    ...of,
    change: turned(role, change.change),
  }
  const left = from.filter((one) => !isSame(one, of))
  return role === 'undo'
    ? { undo: left, redo: [...stacks.redo, act] }
    : { undo: [...stacks.undo, act], redo: left }
}

const turned = (role: Turn['role'], change: Change | null): Change | null =>
  change && role === 'undo' ? invert(change) : change

/** The act that a logged change is, or belongs to. */
export function actOf({ seq, changeId, change }: Logged): Act {
  return { seq, changeId, label: change.label, change }
}

/** Whether an act is the one that is meant, by its number where both have one, else by its change's id. */
export function isSame(act: Act, meant: Turn['of']): boolean {
  if (!meant) return false
  if (act.seq !== null && meant.seq !== null) return act.seq === meant.seq
  return act.changeId !== null && act.changeId === meant.changeId
}

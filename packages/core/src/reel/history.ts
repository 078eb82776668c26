/** One line of the change log as undo needs it. */
export interface LogEntry {
  /** Number of the change in the reel's log, from 1. */
  readonly seq: number
  readonly author: string
  /** An act, or the taking back (undo) or repeating (redo) of the change numbered `target`. */
  readonly role: 'do' | 'undo' | 'redo'
  readonly target: number | null
  readonly label: string
}

/** What one author may undo and redo next; the last of each list comes first. Numbers are those of the acts. */
export interface UndoStacks {
  readonly undo: readonly number[]
  readonly redo: readonly number[]
}

/** Stacks of somebody who has done nothing yet. */
export const EMPTY_STACKS: UndoStacks = { undo: [], redo: [] }

/** Takes one more log entry into an author's stacks: a new act forgets what could be redone. */
export function pushEntry(stacks: UndoStacks, entry: LogEntry): UndoStacks {
  const { undo, redo } = stacks
  if (entry.role === 'do') return { undo: [...undo, entry.seq], redo: [] }
  const target = entry.target ?? -1
  if (entry.role === 'undo') return { undo: undo.filter((seq) => seq !== target), redo: [...redo, target] }
  return { undo: [...undo, target], redo: redo.filter((seq) => seq !== target) }
}

/** Number of the change that made the reel. It is nobody's act: taking it back would leave no reel. */
const MAKING = 1

/** Rebuilds an author's stacks from the log in order, so that undo goes on after a reload. */
export function stacksFromLog(log: readonly LogEntry[], author: string): UndoStacks {
  let undo: number[] = []
  let redo: number[] = []
  for (const entry of log) {
    if (entry.author !== author || entry.seq === MAKING) continue
    if (entry.role === 'do') {
      undo.push(entry.seq)
      redo = []
    } else {
      ;({ undo, redo } = pushEntry({ undo, redo }, entry) as { undo: number[]; redo: number[] })
    }
  }
  return { undo, redo }
}

import { EMPTY_DOCUMENT, type Change, type LoggedChange, type ReelDocument } from '@yodel/core'

/** What a change is to the history: an act, or the taking back or repeating of one. */
export type Role = LoggedChange['role']

/** A line of the server's log. */
export type Logged = Omit<LoggedChange, 'change'> & { readonly change: Change }

/** An act that can be taken back. */
export interface Act {
  /** Number in the log; null until the server has acknowledged it. */
  readonly seq: number | null
  /** Null for acts from before the page was opened. */
  readonly changeId: string | null
  readonly label: string
  /** What was done, or null for acts from before the page was opened: fetched when they are undone. */
  readonly change: Change | null
}

/** What can be undone and redone, each with the next one last. */
export interface Stacks {
  readonly undo: readonly Act[]
  readonly redo: readonly Act[]
}

/** A change that the server has yet to acknowledge. */
export interface Pending {
  readonly changeId: string
  readonly role: Role
  /** The act that an undo or redo belongs to; null for an act. */
  readonly of: Pick<Act, 'seq' | 'changeId'> | null
  readonly change: Change
}

/** A change that could not be saved: kept here until somebody tries it again or throws it away. */
export interface Aside {
  readonly changeId: string
  readonly change: Change
  readonly why: string
}

/** The reel as the log has it up to a number, and what can be undone there. */
export interface Settled extends Stacks {
  readonly doc: ReelDocument
  readonly seq: number
}

/** The one thing that is being done about the server. The answer must name the task, so that late answers to earlier ones are passed over. */
export type Task = { readonly id: number } & (
  | { readonly kind: 'open'; readonly reelId: string }
  | { readonly kind: 'send'; readonly item: Pending; readonly base: number; readonly target: number | null }
  | { readonly kind: 'catchUp'; readonly since: number }
  | { readonly kind: 'pause'; readonly ms: number }
)

/** Something that the person should read. */
export interface News {
  readonly tone: 'plain' | 'problem'
  readonly text: string
}

/**
 * - `closed`: no reel is open.
 * - `opening`: the reel is asked for, once or again and again; `problem` says why it isn't there yet.
 * - `open`: it can be worked on.
 * - `missing`: it was open and isn't on the server any more; what waits is kept.
 */
export type Phase = 'closed' | 'opening' | 'open' | 'missing'

/** The open reel and how it stands with the server. `doc` is always `settled.doc` with `pending` done on it in order. */
export interface SyncState extends Stacks {
  readonly phase: Phase
  readonly reelId: string | null
  /** Name of the person as whom this page edits. */
  readonly me: string
  readonly settled: Settled
  readonly doc: ReelDocument
  readonly pending: readonly Pending[]
  readonly aside: readonly Aside[]
  readonly server: 'here' | 'away' | 'full'
  /** How often in a row the server could not be reached. */
  readonly failures: number
  /** Id of the change for which the whole reel was fetched anew because it met something that this page couldn't see. */
  readonly reopenedFor: string | null
  /**
   * Where `settled` stands to the server's log: `level` as far as is known; `behind` when something of the log was
   * missed, which is asked for before anything is sent; `astray` when the log doesn't fit on it, so that the whole
   * reel is fetched anew.
   */
  readonly standing: 'level' | 'behind' | 'astray'
  readonly task: Task | null
  readonly tasks: number
  /** Presses of undo and redo that wait until the body of the act on top is read; ids of the changes that they will be. */
  readonly turns: readonly { readonly role: 'undo' | 'redo'; readonly changeId: string }[]
  /** Whether `pending` and `aside`, as they are, are in the browser's own database. */
  readonly disk: 'kept' | 'writing' | 'failed'
  /** When the server took in the last change, ISO 8601; null before any. */
  readonly savedAt: string | null
  /** Why the reel can't be opened, or null. */
  readonly problem: string | null
  /** What the last event brought to tell; a new list each time. */
  readonly news: readonly News[]
}

const NOTHING: Settled = { doc: EMPTY_DOCUMENT, seq: 0, undo: [], redo: [] }

/** No reel is open. */
export const CLOSED: SyncState = {
  phase: 'closed',
  reelId: null,
  me: '',
  settled: NOTHING,
  doc: EMPTY_DOCUMENT,
  undo: [],
  redo: [],
  pending: [],
  aside: [],
  server: 'here',
  failures: 0,
  reopenedFor: null,
  standing: 'level',
  task: null,
  tasks: 0,
  turns: [],
  disk: 'kept',
  savedAt: null,
  problem: null,
  news: [],
}

/** How the reel stands with the server, in one word for the mark on top of the page. */
export type SaveState = 'saved' | 'saving' | 'away' | 'full' | 'missing'

/** `saved` only when nothing waits, not even an undo whose body is still being read. */
export function saveStateOf({ phase, pending, turns, server }: SyncState): SaveState {
  if (phase === 'missing') return 'missing'
  if (pending.length === 0) return turns.length > 0 ? 'saving' : server === 'away' ? 'away' : 'saved'
  return server === 'here' ? 'saving' : server
}

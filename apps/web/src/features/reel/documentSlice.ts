import {
  apply,
  EMPTY_DOCUMENT,
  invert,
  stacksFromLog,
  documentOf,
  type Change,
  type LoggedChange,
  type ReelDocument,
  type ReelState,
} from '@yodel/core'
import { createSlice, original, type PayloadAction } from '@reduxjs/toolkit'

/** An act that can be taken back: what it was, and the change itself where this page made it. */
export interface Act {
  /** Number in the log; null until the server has acknowledged it. */
  readonly seq: number | null
  readonly changeId: string | null
  readonly label: string
  /** Null for acts from before the page was opened; fetched when they are undone. */
  readonly change: Change | null
}

/** A change on its way to the server. */
export interface Pending {
  readonly changeId: string
  readonly role: 'do' | 'undo' | 'redo'
  /** The act that an undo or redo belongs to. */
  readonly of: Pick<Act, 'seq' | 'changeId'> | null
  readonly change: Change
}

/** How the reel stands with the server. */
export type SaveState = 'saved' | 'saving' | 'away'

/** The open reel: its document with everything done so far, and what the server has yet to acknowledge. */
export interface DocumentState {
  readonly reelId: string | null
  readonly doc: ReelDocument
  /** Last number of the server's log that the document holds. */
  readonly seq: number
  readonly me: string
  readonly pending: readonly Pending[]
  readonly undo: readonly Act[]
  readonly redo: readonly Act[]
  readonly save: SaveState
  /** How many presses of undo and redo wait for their change to be fetched. */
  readonly turning: number
  readonly savedAt: string | null
}

const initialState: DocumentState = {
  reelId: null,
  doc: EMPTY_DOCUMENT,
  seq: 0,
  me: '',
  pending: [],
  undo: [],
  redo: [],
  save: 'saved',
  turning: 0,
  savedAt: null,
}

/** The document itself, not the draft of it that a reducer is given: thousands of records are copied at their own speed, and what is known of a table is found again. */
const docOf = (state: DocumentState): ReelDocument =>
  (original<object>(state) as DocumentState | undefined)?.doc ?? state.doc

const applied = (doc: ReelDocument, change: Change): ReelDocument => {
  const result = apply(doc, change)
  return result.ok ? result.value : doc
}

const slice = createSlice({
  name: 'document',
  initialState: initialState as DocumentState,
  reducers: {
    /** A reel as the server has it. */
    opened: (_, { payload }: PayloadAction<{ reelId: string; state: ReelState }>) => {
      const { state } = payload
      const labels = new Map(state.log.map((entry) => [entry.seq, entry.label]))
      const act = (seq: number): Act => ({ seq, changeId: null, label: labels.get(seq) ?? '', change: null })
      const stacks = stacksFromLog(state.log, state.me)
      return {
        ...initialState,
        reelId: payload.reelId,
        doc: documentOf(state.records),
        seq: state.seq,
        me: state.me,
        undo: stacks.undo.map(act),
        redo: stacks.redo.map(act),
        savedAt: state.log.at(-1)?.at ?? null,
      }
    },
    closed: () => initialState,
    /** Something was done here: shown at once, sent after. */
    done: (state, { payload }: PayloadAction<{ changeId: string; change: Change }>) => {
      const { changeId, change } = payload
      return {
        ...state,
        doc: applied(docOf(state), change),
        pending: [...state.pending, { changeId, role: 'do' as const, of: null, change }],
        undo: [...state.undo, { seq: null, changeId, label: change.label, change }],
        redo: [],
        save: state.save === 'away' ? ('away' as const) : ('saving' as const),
      }
    },
    /** Undo or redo was pressed; what it means may have to be fetched first. */
    turnAsked: (state) => ({ ...state, turning: state.turning + 1 }),
    /** An asked undo or redo is done, or could not be. */
    turnOver: (state) => ({ ...state, turning: Math.max(0, state.turning - 1) }),
    /** The last act was taken back, or the last one taken back done again. */
    turned: (
      state,
      { payload }: PayloadAction<{ role: 'undo' | 'redo'; act: Act; change: Change; changeId: string }>,
    ) => {
      const { role, act, change, changeId } = payload
      const kept = { ...act, change }
      const made = role === 'undo' ? invert(change) : change
      return {
        ...state,
        doc: applied(docOf(state), made),
        pending: [
          ...state.pending,
          { changeId, role, of: { seq: act.seq, changeId: act.changeId }, change: made },
        ],
        undo: role === 'undo' ? state.undo.slice(0, -1) : [...state.undo, kept],
        redo: role === 'undo' ? [...state.redo, kept] : state.redo.slice(0, -1),
        save: state.save === 'away' ? ('away' as const) : ('saving' as const),
      }
    },
    /** The server has the first of the pending changes, and tells what others did before it. */
    acknowledged: (
      state,
      { payload }: PayloadAction<{ changeId: string; seq: number; missed: LoggedChange[]; at: string }>,
    ) => {
      const { changeId, seq, missed } = payload
      const number = (act: Act): Act => (act.changeId === changeId ? { ...act, seq } : act)
      const pending = state.pending
        .filter((item) => item.changeId !== changeId)
        .map((item) => (item.of?.changeId === changeId ? { ...item, of: { ...item.of, seq } } : item))
      return {
        ...state,
        doc: missed.reduce((doc, entry) => applied(doc, entry.change), docOf(state)),
        seq,
        pending,
        undo: state.undo.map(number),
        redo: state.redo.map(number),
        save: pending.length > 0 ? ('saving' as const) : ('saved' as const),
        savedAt: payload.at,
      }
    },
    /** The server does not answer. */
    serverAway: (state) => ({ ...state, save: 'away' as const }),
  },
})

/** Actions of the open reel. */
export const documentActions = slice.actions
/** Reducer of the open reel. */
export const documentReducer = slice.reducer

/** How the reel stands with the server; an undo that is still being fetched is not saved either. */
export const saveStateOf = ({ save, turning }: DocumentState): SaveState =>
  save === 'saved' && turning > 0 ? 'saving' : save

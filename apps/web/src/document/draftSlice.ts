import type { Performed, RankedSound, SoundEvent } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** What was found for one cue, and which of it is meant. */
export interface DraftEntry {
  readonly cueId: string
  /** The best first; empty where nothing was found. */
  readonly ranked: readonly RankedSound[]
  /** Which of them is meant. */
  readonly at: number
  /** Events of the one that is meant, where it is cut into steps. */
  readonly events: readonly SoundEvent[]
  readonly state: 'open' | 'kept' | 'skipped'
}

/** A first draft of the reel: choices for its open cues, none of them in the document before it is kept. */
export interface DraftState {
  readonly on: boolean
  /** Ids of cues for which nothing has been looked for yet. */
  readonly waiting: readonly string[]
  readonly entries: readonly DraftEntry[]
  /** The cue that is looked at, and what its choice would lay. */
  readonly shown: { readonly cueId: string; readonly performed: readonly Performed[] } | null
  /** All choices that are at least so sure can be kept at once, 0 to 1. */
  readonly line: number
  /** Why the draft broke off, or null. */
  readonly trouble: string | null
}

const initialState: DraftState = {
  ...{ on: false, waiting: [], entries: [], shown: null, line: 0.7, trouble: null },
}

const slice = createSlice({
  name: 'drafting',
  initialState: initialState as DraftState,
  reducers: {
    /** Begins a draft of some cues. */
    begin: (state, { payload }: PayloadAction<readonly string[]>) => ({
      ...initialState,
      ...{ on: true, waiting: payload, line: state.line },
    }),
    drafted: (state, { payload }: PayloadAction<Omit<DraftEntry, 'at' | 'state'>>) => ({
      ...state,
      waiting: state.waiting.filter((id) => id !== payload.cueId),
      entries: [...state.entries, { ...payload, at: 0, state: 'open' as const }],
    }),
    brokeOff: (state, { payload }: PayloadAction<string | null>) => ({ ...state, trouble: payload }),
    /** Means another of the candidates of a cue. */
    choose: (state, { payload }: PayloadAction<Pick<DraftEntry, 'cueId' | 'at' | 'events'>>) => ({
      ...state,
      entries: state.entries.map((one) => (one.cueId === payload.cueId ? { ...one, ...payload } : one)),
    }),
    settle: (state, { payload }: PayloadAction<{ ids: readonly string[]; as: 'kept' | 'skipped' }>) => ({
      ...state,
      entries: state.entries.map((one) =>
        payload.ids.includes(one.cueId) ? { ...one, state: payload.as } : one,
      ),
    }),
    show: (state, { payload }: PayloadAction<DraftState['shown']>) => ({ ...state, shown: payload }),
    setLine: (state, { payload }: PayloadAction<number>) => ({ ...state, line: payload }),
    end: (state) => ({ ...initialState, line: state.line }),
  },
})

/** Choices that are open, were found, and are at least so sure. */
export const choicesAbove = ({ entries, line }: DraftState): DraftEntry[] =>
  entries.filter(({ state, ranked, at }) => state === 'open' && (ranked[at]?.sure ?? -1) >= line)

/** Actions of the draft. */
export const draftActions = slice.actions
/** Reducer of the draft. */
export const draftReducer = slice.reducer

import type { RankedSound, SoundEvent } from '@yodel/core'
import { createSlice, nanoid, type PayloadAction } from '@reduxjs/toolkit'

/** What was found for one cue, and which of it is meant. */
export interface DraftEntry {
  readonly cueId: string
  /** The best first; empty where nothing was found. */
  readonly ranked: readonly RankedSound[]
  /** Which of them is meant. */
  readonly at: number
  /** Events of the one that is meant, where it is cut into steps. */
  readonly events: readonly SoundEvent[]
  /** Its cue is to be left as it is. */
  readonly skipped: boolean
}

/** A first draft of the reel: choices for its open cues, none of them in the document before it is kept. */
export interface DraftState {
  /** Tells one draft from the next; null while there is none. */
  readonly id: string | null
  /** Ids of cues for which nothing has been looked for yet. */
  readonly waiting: readonly string[]
  readonly entries: readonly DraftEntry[]
  /** Onsets of the guide, as frames of the reel: steps are laid on them. */
  readonly onsets: readonly number[]
  /** Id of the cue that is looked at; null while none is. */
  readonly shown: string | null
  /** All choices that are at least so sure can be kept at once, 0 to 1. */
  readonly line: number
  /** Why the draft does not go on, or null. */
  readonly trouble: string | null
}

const initialState: DraftState = {
  ...{ id: null, waiting: [], entries: [], onsets: [], shown: null, line: 0.7, trouble: null },
}

const slice = createSlice({
  name: 'drafting',
  initialState: initialState as DraftState,
  reducers: {
    /** Begins a draft of some cues. */
    begin: (state, { payload }: PayloadAction<readonly string[]>) => ({
      ...initialState,
      ...{ id: nanoid(), waiting: payload, line: state.line },
    }),
    drafted: (
      state,
      {
        payload,
      }: PayloadAction<Pick<DraftEntry, 'cueId' | 'ranked' | 'events'> & Pick<DraftState, 'onsets'>>,
    ) => {
      const { onsets, ...found } = payload
      return {
        ...state,
        onsets,
        waiting: state.waiting.filter((id) => id !== found.cueId),
        entries: [...state.entries, { ...found, at: 0, skipped: false }],
      }
    },
    stuck: (state, { payload }: PayloadAction<string | null>) => ({ ...state, trouble: payload }),
    /** Says more of a cue: which of its candidates is meant, or that it is left as it is. */
    say: (state, { payload }: PayloadAction<Partial<DraftEntry> & Pick<DraftEntry, 'cueId'>>) => ({
      ...state,
      entries: state.entries.map((one) => (one.cueId === payload.cueId ? { ...one, ...payload } : one)),
    }),
    show: (state, { payload }: PayloadAction<string | null>) => ({ ...state, shown: payload }),
    setLine: (state, { payload }: PayloadAction<number>) => ({ ...state, line: payload }),
    end: (state) => ({ ...initialState, line: state.line }),
  },
})

/** Actions of the draft. */
export const draftActions = slice.actions
/** Reducer of the draft. */
export const draftReducer = slice.reducer

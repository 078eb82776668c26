import type { Sound } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** The sounds pane: what is searched, which result is chosen, and whether it is being tried in place. */
export interface TryState {
  readonly query: string
  /** The cue whose words became the query, or null when somebody typed it. */
  readonly queryOf: string | null
  /** The chosen result. */
  readonly sound: Sound | null
  /** Sync point moved by hand, in samples; null for the sound's own. */
  readonly sync: number | null
  /** Where the chosen result is tried: with its sync point on this frame. Never in the document. */
  readonly place: { readonly cueId: string | null; readonly frame: number } | null
}

const initialState: TryState = { query: '', queryOf: null, sound: null, sync: null, place: null }

const slice = createSlice({
  name: 'try',
  initialState: initialState as TryState,
  reducers: {
    search: (state, { payload }: PayloadAction<{ query: string; cueId?: string | null }>) => ({ ...state, query: payload.query, queryOf: payload.cueId ?? null }),
    choose: (state, { payload }: PayloadAction<Sound | null>) => ({ ...state, sound: payload, sync: null }),
    setSync: (state, { payload }: PayloadAction<number | null>) => ({ ...state, sync: payload }),
    tryAt: (state, { payload }: PayloadAction<TryState['place']>) => ({ ...state, place: payload }),
    /** Ends trying and leaves no trace. */
    putBack: (state) => ({ ...state, place: null }),
    reset: () => initialState,
  },
})

/** Actions of the sounds pane. */
export const tryActions = slice.actions
/** Reducer of the sounds pane. */
export const tryReducer = slice.reducer

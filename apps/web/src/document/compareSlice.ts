import type { Cue } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** A sheet that lies beside the present one. */
export interface OtherSheet {
  readonly title: string
  /** Key of what was chosen: a reel's id, or `at:` and a number of this reel's log. */
  readonly key: string
  /** In the order of time. */
  readonly cues: readonly Cue[]
}

/** What is being compared; null when nothing is. */
export interface CompareState {
  readonly other: OtherSheet | null
}

const slice = createSlice({
  name: 'compare',
  initialState: { other: null } as CompareState,
  reducers: {
    lay: (_, { payload }: PayloadAction<OtherSheet>) => ({ other: payload }),
    putAway: () => ({ other: null }),
  },
})

/** Actions of comparing. */
export const compareActions = slice.actions
/** Reducer of comparing. */
export const compareReducer = slice.reducer

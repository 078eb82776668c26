import { createSlice, original, type CaseReducer, type PayloadAction } from '@reduxjs/toolkit'
import { syncSteps } from './sync/syncMachine.js'
import { CLOSED, type SyncState } from './sync/syncState.js'

type Steps = typeof syncSteps
type Reducers = { [K in keyof Steps]: CaseReducer<SyncState, PayloadAction<Parameters<Steps[K]>[1]>> }

/** The steps of the sync machine on the state itself, not on the draft of it that a reducer is given: thousands of records are copied at their own speed, and what is known of a table is found again. */
const reducers = Object.fromEntries(
  Object.entries(syncSteps).map(([name, step]) => [
    name,
    (state: object, { payload }: PayloadAction<never>) =>
      step((original(state) ?? state) as SyncState, payload),
  ]),
) as unknown as Reducers

const slice = createSlice({ name: 'document', initialState: CLOSED, reducers })

/** Events of the open reel; see the sync machine. */
export const documentActions = slice.actions
/** Reducer of the open reel. */
export const documentReducer = slice.reducer

import type { Hit, Lag, Pool, PoolSound, Take } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** Performing: what stands on the keys, and what was hit. Nothing of it is in the document before it is kept. */
export interface PerformState {
  /** The row of pools is open, and its keys hit. */
  readonly on: boolean
  readonly pools: readonly Pool[]
  /** What is known of the recordings of pools and takes, by their ids. */
  readonly sounds: Readonly<Record<string, PoolSound>>
  /** Ids of recordings that were asked for and are not there. */
  readonly gone: readonly string[]
  readonly takes: readonly Take[]
  /** Hits since the reel began to roll; they become a take when it stops. */
  readonly current: readonly Hit[]
  /** The take that the tools work on, or null. */
  readonly chosen: string | null
  /** What is performed replaces the chosen take where it lies, instead of lying beside it. */
  readonly punch: boolean
  /** Milliseconds by which this person's hand is late, however slowly the reel rolls; taken off each take. */
  readonly lag: number
  /** The exercise that measures it, while it runs and until its outcome is taken or left; else null. */
  readonly exercise: Exercise | null
}

/** A stretch of the reel, in samples, in which keys are hit to measure a hand; then what was measured, null where too little was hit. */
export type Exercise =
  | {
      readonly state: 'running'
      readonly from: number
      readonly to: number
      readonly hits: readonly number[]
    }
  | { readonly state: 'done'; readonly lag: Lag | null }

const LAG = 'yodel-lag'
const store = (): Storage | null => (typeof localStorage === 'undefined' ? null : localStorage)

const initialState = (): PerformState => ({
  ...{ on: false, pools: [], sounds: {}, gone: [], takes: [], current: [], chosen: null, punch: false },
  exercise: null,
  lag: Number(store()?.getItem(LAG) ?? 0) || 0,
})

const slice = createSlice({
  name: 'perform',
  initialState,
  reducers: {
    /** Another reel is opened. */
    begin: () => initialState(),
    /** Takes that were left behind by a page that has gone come to those that are here. */
    adopt: (state, { payload }: PayloadAction<readonly Take[]>) => ({
      ...{ ...state, takes: [...payload, ...state.takes], on: true },
      chosen: state.chosen ?? payload.at(-1)?.id ?? null,
    }),
    toggle: (state) => ({ ...state, on: !state.on, exercise: null }),
    setExercise: (state, { payload }: PayloadAction<Exercise | null>) => ({ ...state, exercise: payload }),
    setPools: (state, { payload }: PayloadAction<readonly Pool[]>) => ({ ...state, pools: payload }),
    /** Some recordings were asked for: what is known of those that are there. What is not asked for stays known. */
    setSounds: (
      state,
      { payload }: PayloadAction<{ asked: readonly string[]; found: readonly PoolSound[] }>,
    ) => {
      const found = new Map(payload.found.map((sound) => [sound.id, sound]))
      const others = Object.entries(state.sounds).filter(([id]) => !payload.asked.includes(id))
      return {
        ...state,
        sounds: { ...Object.fromEntries(others), ...Object.fromEntries(found) },
        gone: payload.asked.filter((id) => !found.has(id)),
      }
    },
    hit: (state, { payload }: PayloadAction<Hit>) => ({ ...state, current: [...state.current, payload] }),
    /** The key of a hit was let go. */
    letGo: (state, { payload }: PayloadAction<{ at: number; poolId: string; length: number }>) => ({
      ...state,
      current: state.current.map((hit) =>
        hit.at === payload.at && hit.poolId === payload.poolId ? { ...hit, length: payload.length } : hit,
      ),
    }),
    /** The reel has stopped: what was performed is this take now. */
    endTake: (state, { payload }: PayloadAction<Take>) => ({
      ...state,
      takes: state.takes.some(({ id }) => id === payload.id)
        ? state.takes.map((take) => (take.id === payload.id ? payload : take))
        : [...state.takes, payload],
      current: [],
      chosen: payload.id,
    }),
    setTakes: (state, { payload }: PayloadAction<readonly Take[]>) => ({
      ...state,
      takes: payload,
      chosen: payload.some(({ id }) => id === state.chosen) ? state.chosen : (payload.at(-1)?.id ?? null),
    }),
    choose: (state, { payload }: PayloadAction<string>) => ({ ...state, chosen: payload }),
    setPunch: (state, { payload }: PayloadAction<boolean>) => ({ ...state, punch: payload }),
    setLag: (state, { payload }: PayloadAction<number>) => {
      store()?.setItem(LAG, String(payload))
      return { ...state, lag: payload }
    },
  },
})

/** What happens while performing. */
export const performActions = slice.actions
/** Reducer of performing. */
export const performReducer = slice.reducer

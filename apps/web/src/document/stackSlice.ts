import { variationsFrom, type FoundLayers, type StackPlan, type Variation } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** Variations of a plan that are looked through, and the one that is tried; nothing of it is in the document. */
export interface StackState {
  readonly planId: string | null
  readonly plan: StackPlan | null
  /** What its layers may pick from; null until it is known. */
  readonly found: FoundLayers | null
  /** The first seed that is listed, and how many. */
  readonly from: number
  readonly count: number
  /** Ids of layers that stay when the others are shaken next. */
  readonly held: readonly string[]
  /** The layers that stayed when the list was made, and the variation that they are of. */
  readonly basis: { readonly of: Variation; readonly layers: readonly string[] } | null
  readonly chosen: Variation | null
  /** Where the chosen one is tried. */
  readonly place: { readonly cueId: string | null; readonly frame: number } | null
}

const initialState: StackState = {
  ...{ planId: null, plan: null, found: null, from: 1, count: 100, held: [], basis: null },
  ...{ chosen: null, place: null },
}

const slice = createSlice({
  name: 'stacking',
  initialState: initialState as StackState,
  reducers: {
    /** A reel was opened: it has plans of its own. */
    begin: () => initialState,
    choosePlan: (_, { payload }: PayloadAction<string | null>) => ({ ...initialState, planId: payload }),
    setPlan: (state, { payload }: PayloadAction<StackPlan | null>) => ({ ...state, plan: payload }),
    setFound: (state, { payload }: PayloadAction<FoundLayers | null>) => ({ ...state, found: payload }),
    list: (state, { payload }: PayloadAction<{ from?: number; count?: number }>) => ({
      ...state,
      ...payload,
    }),
    choose: (state, { payload }: PayloadAction<Variation>) => ({ ...state, chosen: payload }),
    toggleHeld: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      held: state.held.includes(payload)
        ? state.held.filter((id) => id !== payload)
        : [...state.held, payload],
    }),
    /** Lists fresh variations, with the layers that are held as they are in the chosen one. */
    shake: (state) => {
      const basis = state.chosen && state.held.length > 0 ? { of: state.chosen, layers: state.held } : null
      const from = (state.from + state.count) % 2 ** 32
      return { ...state, basis, from, chosen: variationsFrom(from, 1, basis ?? undefined)[0] ?? null }
    },
    tryAt: (state, { payload }: PayloadAction<StackState['place']>) => ({ ...state, place: payload }),
    putBack: (state) => ({ ...state, place: null }),
  },
})

/** The variations that are listed. */
export const variationsListed = ({
  from,
  count,
  basis,
}: Pick<StackState, 'from' | 'count' | 'basis'>): Variation[] =>
  variationsFrom(from, count, basis ?? undefined)

/** Actions of looking through stacks. */
export const stackActions = slice.actions
/** Reducer of looking through stacks. */
export const stackReducer = slice.reducer

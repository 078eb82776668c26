import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

const KEPT = 'yodel-keys'

/** The keys of the person at this browser. */
export interface KeysState {
  /** Strokes chosen instead of those of the tables, by names of actions. */
  readonly own: Readonly<Record<string, readonly string[]>>
  /** The keyboard that was chosen by name, or null: as the browser says, or as is guessed. */
  readonly layout: string | null
  /** What the browser says is written at each place, or null where it doesn't say. */
  readonly told: Readonly<Record<string, string>> | null
  /** The keyboard that what was typed so far speaks for, or null. */
  readonly learnt: string | null
}

type Kept = Pick<KeysState, 'own' | 'layout'>

function readKept(): Kept {
  const none: Kept = { own: {}, layout: null }
  if (typeof localStorage === 'undefined') return none
  try {
    return { ...none, ...(JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Kept>) }
  } catch {
    return none
  }
}

const keep = ({ own, layout }: KeysState): void =>
  localStorage.setItem(KEPT, JSON.stringify({ own, layout } satisfies Kept))

const slice = createSlice({
  name: 'keys',
  initialState: (): KeysState => ({ ...readKept(), told: null, learnt: null }),
  reducers: {
    /** Gives an action other strokes; null for those of the table. */
    choose: (state, { payload }: PayloadAction<{ id: string; strokes: string[] | null }>) => {
      const { [payload.id]: _, ...rest } = state.own
      state.own = payload.strokes ? { ...rest, [payload.id]: payload.strokes } : rest
      keep(state)
    },
    /** Takes all keys of one's own from somewhere else; none puts everything back. */
    replace: (state, { payload }: PayloadAction<Record<string, string[]>>) => {
      state.own = payload
      keep(state)
    },
    setLayout: (state, { payload }: PayloadAction<string | null>) => {
      state.layout = payload
      keep(state)
    },
    setTold: (state, { payload }: PayloadAction<Record<string, string>>) => void (state.told = payload),
    setLearnt: (state, { payload }: PayloadAction<string>) => void (state.learnt = payload),
  },
})

/** What happens to keys. */
export const keysActions = slice.actions
/** The reducer of keys. */
export const keysReducer = slice.reducer

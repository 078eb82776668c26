import type { SoundOrder } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { SoundParams } from '../api/api.js'
import { readLook, type ResultsLook } from './resultsLook.js'

/** What is searched for, and in which order results stand. */
export interface SearchState {
  readonly query: string
  /** The cue whose words became the query, or null when somebody typed it. */
  readonly queryOf: string | null
  /** Filters chosen by a click, as they would be typed: `channels:stereo`. */
  readonly filters: readonly string[]
  readonly sort: SoundOrder
  readonly down: boolean
  /** Only what lies beyond this value of the order. */
  readonly beyond: { readonly value: number; readonly words: string } | null
  /** Sounds like this one, by ear. */
  readonly like: { readonly id: string; readonly name: string } | null
  readonly kit: { readonly id: string; readonly name: string } | null
  /** Ids of the results that are marked, in the order in which they stand. */
  readonly marked: readonly string[]
  /** Shelves that are not searched. Kept in this browser. */
  readonly off: readonly string[]
  /** The kit that a key fills. Kept in this browser. */
  readonly currentKit: string | null
  /** How results are shown. Kept in this browser. */
  readonly look: ResultsLook
}

const OFF_KEY = 'sounds:shelves-off'
const KIT_KEY = 'sounds:current-kit'
const LOOK_KEY = 'sounds:look'
const readOff = (): string[] =>
  (JSON.parse(localStorage.getItem(OFF_KEY) ?? '[]') as string[]).filter((id) => typeof id === 'string')

const fresh = (): SearchState => ({
  query: '',
  queryOf: null,
  filters: [],
  sort: 'match',
  down: false,
  beyond: null,
  like: null,
  kit: null,
  marked: [],
  off: typeof localStorage === 'undefined' ? [] : readOff(),
  currentKit: typeof localStorage === 'undefined' ? null : localStorage.getItem(KIT_KEY),
  look: readLook(typeof localStorage === 'undefined' ? null : localStorage.getItem(LOOK_KEY)),
})

const slice = createSlice({
  name: 'search',
  initialState: fresh,
  reducers: {
    search: (state, { payload }: PayloadAction<{ query: string; cueId?: string | null }>) => ({
      ...state,
      query: payload.query,
      queryOf: payload.cueId ?? null,
      like: null,
      beyond: null,
      ...(state.beyond ? { sort: 'match' as const } : {}),
    }),
    /** Adds a filter, or takes it away; another value of the same field takes its place. */
    toggleFilter: (state, { payload }: PayloadAction<string>) => {
      const field = payload.split(/[:<>=]/)[0]
      const others = state.filters.filter((filter) => filter.split(/[:<>=]/)[0] !== field)
      return { ...state, filters: state.filters.includes(payload) ? others : [...others, payload] }
    },
    clearFilters: (state) => ({
      ...state,
      filters: [],
      kit: null,
      like: null,
      beyond: null,
      sort: 'match',
      down: false,
    }),
    order: (state, { payload }: PayloadAction<{ sort: SoundOrder; down: boolean }>) => ({
      ...state,
      ...payload,
      beyond: null,
      like: null,
    }),
    /** Goes away from a sound by one of its qualities. */
    steer: (
      state,
      { payload }: PayloadAction<{ sort: SoundOrder; down: boolean; value: number; words: string }>,
    ) => ({
      ...state,
      sort: payload.sort,
      down: payload.down,
      beyond: { value: payload.value, words: payload.words },
      like: null,
    }),
    like: (state, { payload }: PayloadAction<SearchState['like']>) => ({
      ...state,
      like: payload,
      beyond: null,
      ...(payload ? { query: '', queryOf: null } : {}),
    }),
    kit: (state, { payload }: PayloadAction<SearchState['kit']>) => ({ ...state, kit: payload }),
    mark: (state, { payload }: PayloadAction<readonly string[]>) => ({ ...state, marked: payload }),
    toggleShelf: (state, { payload }: PayloadAction<string>) => {
      const off = state.off.includes(payload)
        ? state.off.filter((id) => id !== payload)
        : [...state.off, payload]
      localStorage.setItem(OFF_KEY, JSON.stringify(off))
      return { ...state, off }
    },
    /** Every shelf is searched again. */
    allShelves: (state) => {
      localStorage.removeItem(OFF_KEY)
      return { ...state, off: [] }
    },
    currentKit: (state, { payload }: PayloadAction<string | null>) => {
      if (payload === null) localStorage.removeItem(KIT_KEY)
      else localStorage.setItem(KIT_KEY, payload)
      return { ...state, currentKit: payload }
    },
    setLook: (state, { payload }: PayloadAction<Partial<ResultsLook>>) => {
      const look = { ...state.look, ...payload }
      localStorage.setItem(LOOK_KEY, JSON.stringify(look))
      return { ...state, look }
    },
    reset: () => fresh(),
  },
})

/** Actions of the search. */
export const searchActions = slice.actions
/** Reducer of the search. */
export const searchReducer = slice.reducer

/** The whole text of a search: what is typed and what was clicked. */
export function searchText({ query, filters }: Pick<SearchState, 'query' | 'filters'>): string {
  return [query, ...filters].join(' ').trim()
}

/** A search as the server is asked it. @param shelves - Ids of all shelves there are. */
export function searchParams(
  state: SearchState,
  shelves: readonly string[],
  showId: string | undefined,
): SoundParams {
  const on = shelves.filter((id) => !state.off.includes(id))
  return {
    q: searchText(state),
    ...(state.queryOf === null ? {} : { cue: '1' as const }),
    ...(state.sort === 'match'
      ? {}
      : { sort: state.sort, down: state.down ? ('1' as const) : ('0' as const) }),
    ...(state.beyond ? { beyond: state.beyond.value } : {}),
    ...(state.like ? { like: state.like.id } : {}),
    ...(state.kit ? { kit: state.kit.id } : {}),
    ...(showId === undefined ? {} : { show: showId }),
    ...(on.length === shelves.length ? {} : { shelves: on.join(',') }),
  }
}

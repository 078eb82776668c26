import { combineReducers, configureStore } from '@reduxjs/toolkit'
import { useDispatch, useSelector, useStore } from 'react-redux'
import { compareReducer } from './compareSlice.js'
import { documentReducer } from './documentSlice.js'
import { keysReducer } from './keysSlice.js'
import { performReducer } from './performSlice.js'
import { stackReducer } from './stackSlice.js'
import { draftReducer } from './draftSlice.js'
import { recordReducer } from './recordSlice.js'
import { voiceReducer } from './voiceSlice.js'
import { recipeReducer } from './recipeSlice.js'
import { viewReducer } from './viewSlice.js'
import { searchReducer } from './searchSlice.js'
import { tryReducer } from './trySlice.js'
import { api } from '../api/api.js'

const reducer = combineReducers({
  document: documentReducer,
  view: viewReducer,
  trying: tryReducer,
  search: searchReducer,
  compare: compareReducer,
  keys: keysReducer,
  perform: performReducer,
  stacking: stackReducer,
  drafting: draftReducer,
  recipe: recipeReducer,
  voices: voiceReducer,
  recording: recordReducer,
  [api.reducerPath]: api.reducer,
})

/** Makes the store. The development checks are off for the document: walking thousands of records on every key would be felt. */
export function makeStore() {
  return configureStore({
    reducer,
    middleware: (defaults) =>
      defaults({ immutableCheck: false, serializableCheck: false }).concat(api.middleware),
    // An answer of the server is drawn at once: waiting for the next refresh first would show it a refresh later.
    enhancers: (defaults) => defaults({ autoBatch: { type: 'tick' } }),
  })
}

/** The store. */
export type AppStore = ReturnType<typeof makeStore>
/** All state. */
export type RootState = ReturnType<typeof reducer>
/** Dispatch with thunks. */
export type AppDispatch = AppStore['dispatch']

/** Typed dispatch. */
export const useAppDispatch = useDispatch.withTypes<AppDispatch>()
/** Typed selector. */
export const useAppSelector = useSelector.withTypes<RootState>()
/** Typed store, for reading at the moment of an act. */
export const useAppStore = useStore.withTypes<AppStore>()

import type { InputChannel, TakePlan } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { InputDevice } from '../engine/input/inputs.js'

/** How takes are recorded; kept in this browser. */
export interface RecordSettings {
  /** Id of the input; empty for the browser's own choice. */
  readonly device: string
  readonly channel: InputChannel
  readonly countIn: boolean
  /** Take after take until it is stopped. */
  readonly again: boolean
  /** What is heard of the reel while a take rolls. */
  readonly guide: boolean
  readonly sounds: boolean
  /** Samples of a round trip as they were measured, by the ids of the devices. */
  readonly roundTrips: Readonly<Record<string, number>>
}

/** Recording, beside the document. */
export interface RecordState {
  /** The strip is open. */
  readonly on: boolean
  readonly phase: 'closed' | 'opening' | 'ready' | 'measuring' | 'rolling'
  readonly settings: RecordSettings
  readonly devices: readonly InputDevice[]
  /** The take that rolls. */
  readonly taking: { readonly plan: TakePlan; readonly name: string } | null
  /** Takes that are on their way onto the reel. */
  readonly keeping: number
  /** Samples of a round trip that count now. */
  readonly roundTrip: number
  readonly trouble: string | null
}

const KEPT = 'yodel-record'
const store = (): Storage | null => (typeof localStorage === 'undefined' ? null : localStorage)

function keptSettings(): RecordSettings {
  const usual: RecordSettings = {
    ...{ device: '', channel: 'left', countIn: true, again: false, guide: true, sounds: true },
    roundTrips: {},
  }
  try {
    return { ...usual, ...(JSON.parse(store()?.getItem(KEPT) ?? '{}') as Partial<RecordSettings>) }
  } catch {
    return usual
  }
}

const initialState = (): RecordState => ({
  ...{ on: false, phase: 'closed', settings: keptSettings(), devices: [], taking: null, keeping: 0 },
  ...{ roundTrip: 0, trouble: null },
})

const slice = createSlice({
  name: 'record',
  initialState,
  reducers: {
    /** Another reel is opened. */
    begin: () => initialState(),
    setOn: (state, { payload }: PayloadAction<boolean>) => ({ ...state, on: payload, trouble: null }),
    setPhase: (state, { payload }: PayloadAction<RecordState['phase']>) => ({ ...state, phase: payload }),
    /** The next takes are recorded so. */
    set: (state, { payload }: PayloadAction<Partial<RecordSettings>>) => {
      const settings = { ...state.settings, ...payload }
      store()?.setItem(KEPT, JSON.stringify(settings))
      return { ...state, settings }
    },
    setDevices: (state, { payload }: PayloadAction<readonly InputDevice[]>) => ({
      ...state,
      devices: payload,
    }),
    setTaking: (state, { payload }: PayloadAction<RecordState['taking']>) => ({ ...state, taking: payload }),
    /** One more take, or one fewer, is on its way. */
    keep: (state, { payload }: PayloadAction<1 | -1>) => ({ ...state, keeping: state.keeping + payload }),
    setRoundTrip: (state, { payload }: PayloadAction<number>) => ({ ...state, roundTrip: payload }),
    setTrouble: (state, { payload }: PayloadAction<string | null>) => ({ ...state, trouble: payload }),
  },
})

export const recordActions = slice.actions
export const recordReducer = slice.reducer

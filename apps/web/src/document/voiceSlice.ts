import { PACES, type ScratchLine } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** How a line is said, but for its words. */
export type Manner = Omit<ScratchLine, 'text'>

/** The scratch voices that are being made. */
export interface VoiceState {
  /** How the last line was said; the next one is said likewise. Its voice is empty until one was chosen. */
  readonly manner: Manner
  /** Words that were typed for cues that have no scratch voice yet, by the ids of the cues. */
  readonly texts: Readonly<Record<string, string>>
  /** Lines that are being made, how many are there and of how many; null while none is. */
  readonly saying: { readonly done: number; readonly of: number } | null
  /** Id of the cue whose line sounds; null while none does. */
  readonly speaking: string | null
}

const MANNER = 'yodel-voice'
const store = (): Storage | null => (typeof localStorage === 'undefined' ? null : localStorage)

function lastManner(): Manner {
  const usual: Manner = { voice: '', pace: 'cue', pitch: 0 }
  try {
    const kept = JSON.parse(store()?.getItem(MANNER) ?? '{}') as Partial<Manner>
    return { ...usual, ...kept }
  } catch {
    return usual
  }
}

const slice = createSlice({
  name: 'voices',
  initialState: (): VoiceState => ({ manner: lastManner(), texts: {}, saying: null, speaking: null }),
  reducers: {
    /** The next line is said so. */
    setManner: (state, { payload }: PayloadAction<Partial<Manner>>) => {
      Object.assign(state.manner, payload)
      store()?.setItem(MANNER, JSON.stringify(state.manner))
    },
    /** Words for a cue; empty for the cue's own. */
    setText: (state, { payload }: PayloadAction<{ cueId: string; text: string }>) => {
      if (payload.text === '') delete state.texts[payload.cueId]
      else state.texts[payload.cueId] = payload.text
    },
    setSaying: (state, { payload }: PayloadAction<VoiceState['saying']>) => ({ ...state, saying: payload }),
    setSpeaking: (state, { payload }: PayloadAction<string | null>) => ({ ...state, speaking: payload }),
  },
})

export const voiceActions = slice.actions
export const voiceReducer = slice.reducer

/** A pace in words a minute that can be asked for, from what was typed; null where it is no number. */
export const paceIn = (number: number | null): number | null =>
  number === null ? null : Math.round(Math.max(PACES.slowest, Math.min(PACES.fastest, number)))

import { UNPREPARED, type Preparation, type PlaceId, type Sound, type SoundEvent } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** One of several sounds that are tried together. */
export interface TriedLayer {
  readonly sound: Sound
  readonly prepared: Preparation
  readonly matched: boolean
  readonly inPlace: InPlace | null
}

/** The place or device that sounds are heard in before they are judged, and how far, above 0 to 1. */
export interface InPlace {
  readonly place: PlaceId
  readonly amount: number
}

/** The chosen sound: how it is prepared, and whether it is being tried in place. */
export interface TryState {
  /** The chosen result. */
  readonly sound: Sound | null
  readonly prepared: Preparation
  /** Which of its events is taken alone; null for the whole recording. */
  readonly event: number | null
  /** That event was not chosen: it suits the cue. The next cue is another, so it is not remembered with the sound. */
  readonly suits: boolean
  /** The whole recording was asked for, although it holds several events. */
  readonly whole: boolean
  /** It was called from the shortlist of its cue: the next one is the next there. */
  readonly listed: boolean
  /** Listening goes round. */
  readonly loop: boolean
  /** Listening brings every sound to one loudness, so that louder does not win. */
  readonly matched: boolean
  /** Listening goes through the treatment, level and place of the chosen track. */
  readonly through: boolean
  /** The place or device that every sound is listened to and tried in, and kept with; null for none. */
  readonly inPlace: InPlace | null
  /** Where the chosen result is tried: with its sync point on this frame. Never in the document. */
  readonly place: { readonly cueId: string | null; readonly frame: number } | null
  /** The chosen result was tried, and kept or put back: it is done with, and the next cue begins with the best of its own. */
  readonly done: boolean
  /** Layers of a try that stay while others are tried beside them. */
  readonly held: readonly TriedLayer[]
}

const initialState: TryState = {
  sound: null,
  prepared: UNPREPARED,
  event: null,
  suits: false,
  whole: false,
  listed: false,
  loop: false,
  matched: false,
  through: false,
  inPlace: null,
  place: null,
  done: false,
  held: [],
}

/** What of a preparation says which part of the recording is taken. */
const PART = ['in', 'out', 'sync'] as const
const partOf = ({ in: first, out, sync }: Preparation) => ({ in: first, out, sync })

/** An event of a recording, and its number from 0. */
interface TakenEvent {
  readonly index: number
  readonly event: SoundEvent
}

const withEvent = (state: TryState, taken: TakenEvent | null): TryState => {
  const [first, sync, out] = taken?.event ?? [null, null, null]
  return { ...state, event: taken?.index ?? null, prepared: { ...state.prepared, in: first, sync, out } }
}

/** The chosen sound's preparation as it is remembered for the next time. */
export const preparationToKeep = ({ prepared, suits }: Pick<TryState, 'prepared' | 'suits'>): Preparation =>
  suits ? { ...prepared, ...partOf(UNPREPARED) } : prepared

/** The chosen sound as a layer that stays. */
const heldLayer = (sound: Sound, { prepared, matched, inPlace }: TryState): TriedLayer => ({
  ...{ sound, prepared, matched, inPlace },
})

const slice = createSlice({
  name: 'try',
  initialState: initialState as TryState,
  reducers: {
    choose: (state, { payload }: PayloadAction<Sound | null>) => ({
      ...state,
      sound: payload,
      done: false,
      listed: false,
      ...(payload?.id === state.sound?.id
        ? {}
        : { prepared: UNPREPARED, event: null, suits: false, whole: false }),
    }),
    /** Chooses what was noted on a shortlist: the part of it that was taken, be it the whole. */
    chooseListed: (
      state,
      { payload }: PayloadAction<{ sound: Sound; part: Pick<Preparation, 'in' | 'out' | 'sync'> }>,
    ) => ({
      ...state,
      sound: payload.sound,
      prepared: { ...(payload.sound.id === state.sound?.id ? state.prepared : UNPREPARED), ...payload.part },
      ...{ done: false, event: null, suits: false, whole: true, listed: true },
    }),
    /** The chosen sound was listened to at last: what was measured takes the place of what its file said. */
    heard: (state, { payload }: PayloadAction<Sound>) =>
      state.sound?.id === payload.id ? { ...state, sound: payload } : state,
    prepare: (state, { payload }: PayloadAction<Partial<Preparation>>) => ({
      ...state,
      suits: state.suits && !PART.some((key) => key in payload),
      prepared: { ...state.prepared, ...payload },
    }),
    /** How this person prepared the sound before; an event that suits the cue gives way to a part only. */
    remember: (state, { payload }: PayloadAction<Preparation>) =>
      state.suits && PART.every((key) => payload[key] === null)
        ? { ...state, prepared: { ...payload, ...partOf(state.prepared) } }
        : { ...state, suits: false, prepared: payload },
    /** Takes one event alone: its bounds and its attack become in, out and sync point. Null takes the whole. */
    takeEvent: (state, { payload }: PayloadAction<TakenEvent | null>) => ({
      ...withEvent(state, payload),
      ...{ suits: false, whole: payload === null },
    }),
    /** Takes the event that suits a cue, or none where the cue has room for all; what was chosen stays. */
    suit: (state, { payload }: PayloadAction<TakenEvent | null>) =>
      payload || state.suits ? { ...withEvent(state, payload), suits: payload !== null } : state,
    resetPreparation: (state) => ({
      ...state,
      prepared: UNPREPARED,
      event: null,
      suits: false,
      whole: false,
    }),
    toggleLoop: (state) => ({ ...state, loop: !state.loop }),
    toggleThrough: (state) => ({ ...state, through: !state.through }),
    toggleMatched: (state) => ({ ...state, matched: !state.matched }),
    setInPlace: (state, { payload }: PayloadAction<InPlace | null>) => ({ ...state, inPlace: payload }),
    tryAt: (state, { payload }: PayloadAction<TryState['place']>) => ({
      ...state,
      place: payload,
      done: false,
    }),
    /** Ends trying with what was tried in the reel. */
    keep: (state) => ({ ...state, place: null, held: [], done: true }),
    /** Ends trying and leaves no trace. */
    putBack: (state) => ({ ...state, place: null, held: [], done: state.done || state.place !== null }),
    /** The chosen sound stays while the next ones are tried beside it. */
    hold: (state) =>
      state.sound
        ? {
            ...state,
            held: [...state.held, heldLayer(state.sound, state)],
          }
        : state,
    /** Takes a layer out of the try. */
    drop: (state, { payload }: PayloadAction<number>) => ({
      ...state,
      held: state.held.filter((_, index) => index !== payload),
    }),
    reset: () => initialState,
  },
})

/** Actions of the chosen sound. */
export const tryActions = slice.actions
/** Reducer of the chosen sound. */
export const tryReducer = slice.reducer

import {
  apply,
  frames,
  frameToSample,
  guessCategory,
  keepLayers,
  keepStack,
  matchGain,
  placeTreatment,
  preparedFor,
  prepareSound,
  rateOf,
  shakeStack,
  variationText,
  withRecord,
  type Change,
  type Clip,
  type Layer,
  type ReelDocument,
  type Result,
  type Sound,
  type SoundToPlace,
  type Track,
} from '@yodel/core'
import type { StackState } from './stackSlice.js'
import type { TriedLayer, TryState } from './trySlice.js'

/** The chosen sound as it is tried and kept: with its preparation, at the matched loudness and in the place where that is wanted, so that what is kept is what was heard. */
export function soundToTry(
  sound: Sound,
  { prepared, matched, inPlace }: Omit<TriedLayer, 'sound'>,
): SoundToPlace {
  const gain = prepared.gain + (matched ? Math.round(matchGain(sound) * 10) / 10 : 0)
  return {
    ...prepareSound(sound, { ...prepared, gain: Math.max(-96, Math.min(24, gain)) }),
    ...(inPlace ? { treatment: placeTreatment(inPlace.place, inPlace.amount) } : {}),
  }
}

/** What is heard together: the layers that are held, and the chosen sound, unless it is the one that was held last. */
export function layersOf({ held, sound, prepared, matched, inPlace }: TryState): readonly TriedLayer[] {
  const last = held.at(-1)
  return sound && !(last && last.sound.id === sound.id && last.prepared === prepared)
    ? [...held, { sound, prepared, matched, inPlace }]
    : held
}

/** The edit that keeps what is tried. Trying is the same edit, on a document that nobody saves: so what is heard is what is kept. */
export function keepTried(
  doc: ReelDocument,
  trying: TryState,
  newId: (what: 'sound' | 'track' | 'group', index: number) => string,
): Result<Change> | null {
  const { place } = trying
  if (!place) return null
  const cue = doc.cue.get(place.cueId ?? '') ?? null
  const layers = layersOf(trying).map(({ sound, ...as }, index): Layer => ({
    id: newId('sound', index),
    newTrackId: newId('track', index),
    category: cue?.category ?? guessCategory(sound),
    sound: soundToTry(sound, { ...as, prepared: preparedFor(doc, cue, sound, as.prepared) }),
  }))
  return layers.length === 0 ? null : keepLayers(doc, { layers, ...place, group: newId('group', 0) })
}

/** A document as it would be with what is tried. */
export interface Tried {
  readonly doc: ReelDocument
  readonly clips: readonly Clip[]
  /** Tracks that would have to be made. */
  readonly tracks: readonly Track[]
}

/** What ids of records begin with that are only tried. */
export const TRIED = 'try '

/** Says whether a record is only tried. */
export const isTried = (id: string): boolean => id.startsWith(TRIED)

/** What is tried, where it would be kept; null when nothing is, or when it could not be kept. Computed from the pane's state each time, it never enters the document. */
export function triedIn(doc: ReelDocument, trying: TryState): Tried | null {
  return triedBy(
    doc,
    keepTried(doc, trying, (what, index) => `${TRIED}${what} ${index}`),
  )
}

/** The edit that keeps the stack that is tried; null when none is. */
export function keepTriedStack(
  doc: ReelDocument,
  { plan, found, chosen, place }: StackState,
  id: string,
  newId: () => string,
): Result<Change> | null {
  if (!plan || !found || !chosen || !place) return null
  const at = frameToSample(frames(place.frame), rateOf(doc))
  const facts = { id, name: plan.name, planId: plan.id, variation: variationText(chosen) }
  return keepStack(doc, { ...facts, layers: shakeStack(plan, chosen, found), at, cueId: place.cueId, newId })
}

/** The stack that is tried, where it would be kept; null when none is, or when it could not be kept. */
export function stackTriedIn(doc: ReelDocument, stacking: StackState): Tried | null {
  let count = 0
  return triedBy(
    doc,
    keepTriedStack(doc, stacking, `${TRIED}stack`, () => `${TRIED}layer ${count++}`),
  )
}

/** What a change would lay, on a document that nobody saves; null when it can't be done. */
export function triedBy(doc: ReelDocument, change: Result<Change> | null): Tried | null {
  const after = change?.ok ? apply(doc, change.value) : null
  if (!change?.ok || !after?.ok) return null
  const { added } = change.value
  return {
    doc: after.value,
    clips: added.filter((record) => record.kind === 'clip'),
    tracks: added.filter((record) => record.kind === 'track'),
  }
}

/** A document with the tracks that what is tried would need, so that it is heard with their treatment. */
export const withTriedTracks = (doc: ReelDocument, tried: Tried | null): ReelDocument =>
  (tried?.tracks ?? []).reduce<ReelDocument>(withRecord, doc)

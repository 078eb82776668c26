import {
  chain,
  frameToSample,
  moveAcross,
  neighbourAt,
  rateOf,
  rollBoundary,
  sampleToFrame,
  shapeClips,
  slipClip,
  trimClip,
  type Change,
  type Clip,
  type Frames,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import type { AppDispatch, AppStore } from '../document/store.js'
import type { Transport } from '../session/Transport.js'
import { edit } from '../document/edit.js'
import { viewActions } from '../document/viewSlice.js'

/** What the pointer does with the handles of placed sounds, by key: ends, fades and sync point at the gate; the sound inside its clip, boundaries and tracks by steps. */
export function makeGateCommands(dispatch: AppDispatch, store: AppStore, transport: Transport) {
  const doc = (): ReelDocument => store.getState().document.doc
  const clips = (): Clip[] => store.getState().view.selected.flatMap((id) => doc().clip.get(id) ?? [])
  const refuse = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))
  const frameStart = (frames: number): number =>
    frameToSample((transport.frameOnScreen + frames) as Frames, rateOf(doc()))
  /** Does one edit to each of the chosen sounds, as one step. */
  const toEach = (label: string, compute: (now: ReelDocument, clip: Clip) => Result<Change>): boolean => {
    const chosen = clips()
    if (chosen.length === 0) return false
    const what = chosen.length === 1 ? (chosen[0]?.name ?? '') : `${chosen.length} sounds`
    dispatch(
      edit((now) =>
        chain(
          now,
          `${label} ${what}`,
          chosen.map(
            ({ id }) =>
              (then: ReelDocument) =>
                compute(then, then.clip.get(id) as Clip),
          ),
        ),
      ),
    )
    return true
  }
  const orSay = (done: boolean): void => (done ? undefined : refuse('Select a sound first.'))
  /** How many samples so many frames are at a place. */
  const framesAt = (place: number, frames: number): number => {
    const rate = rateOf(doc())
    const frame = sampleToFrame(Math.max(0, place), rate)
    return frameToSample((frame + frames) as Frames, rate) - frameToSample(frame, rate)
  }
  return {
    /** Trims the chosen sounds at the gate. @returns Whether there were any. */
    trimToGate: (end: 'head' | 'tail'): boolean =>
      // The frame that is seen is the first or the last in which it sounds.
      toEach('Trim', (now, { id }) => trimClip(now, { id, end, to: frameStart(end === 'head' ? 0 : 1) })),
    /** Has the instant of the sound that stands at the gate be the one that must meet a frame. @returns Whether a sound was chosen. */
    syncToGate: (): boolean =>
      toEach('Sync point of', (now, clip) =>
        shapeClips(now, { ids: [clip.id], fields: { sync: clip.offset + frameStart(0) - clip.start } }),
      ),
    /** Has the chosen sounds fade in until the gate, or out from it. */
    fadeToGate: (end: 'fadeIn' | 'fadeOut') =>
      orSay(
        toEach(end === 'fadeIn' ? 'Fade in' : 'Fade out', (now, clip) =>
          shapeClips(now, {
            ids: [clip.id],
            fields: {
              [end]: end === 'fadeIn' ? frameStart(0) - clip.start : clip.start + clip.length - frameStart(0),
            },
          }),
        ),
      ),
    /** Moves the sound inside its clip. */
    slipFrames: (frames: number) =>
      orSay(toEach('Slip', (now, clip) => slipClip(now, { id: clip.id, by: framesAt(clip.start, frames) }))),
    /** Moves the boundary with the sound that follows. */
    rollFrames: (frames: number) => {
      const [first] = clips()
      const second = first && neighbourAt(doc(), first, 'tail')
      if (!first || !second)
        return refuse(first ? `Nothing meets the end of ${first.name}.` : 'Select a sound first.')
      dispatch(
        edit((now) =>
          rollBoundary(now, {
            firstId: first.id,
            secondId: second.id,
            to: second.start + framesAt(second.start, frames),
          }),
        ),
      )
    },
    moveAcross: (by: 1 | -1) => {
      const ids = clips().map((clip) => clip.id)
      if (ids.length === 0) return refuse('Select a sound first; then it moves to the track beside.')
      dispatch(edit((now) => moveAcross(now, { ids, by })))
    },
  }
}

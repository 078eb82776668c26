import {
  chain,
  frames,
  frameToSample,
  moveAcross,
  moveClips,
  neighbourAt,
  rollBoundary,
  samplesOfFrames,
  samplesPerFrame,
  shapeClips,
  slipClip,
  trimClip,
  type Change,
  type Clip,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import type { CommandContext } from './context.js'

/** Commands of {@link gateCommands}. */
export type GateCommands = ReturnType<typeof gateCommands>

/** What the pointer does with the handles of placed sounds, by key: ends, fades and sync point at the gate; moves, slips and boundaries by steps. */
export function gateCommands({ transport, doc, clips, rate, edit, refuse }: CommandContext) {
  /** First sample of the frame that is on screen, or of one beside it. */
  const frameStart = (beside = 0): number => frameToSample(frames(transport.frameOnScreen + beside), rate())
  /** Does one edit to each of the selected sounds, as one step. @returns Whether there were any. */
  const toEach = (label: string, compute: (now: ReelDocument, clip: Clip) => Result<Change>): boolean => {
    const chosen = clips()
    if (chosen.length === 0) return false
    const what = chosen.length === 1 ? (chosen[0]?.name ?? '') : `${chosen.length} sounds`
    const each =
      ({ id }: Clip) =>
      (then: ReelDocument) =>
        compute(then, then.clip.get(id) as Clip)
    edit((now) => chain(now, `${label} ${what}`, chosen.map(each)))
    return true
  }
  const orRefuse = (done: boolean): void => (done ? undefined : refuse('Select a sound first.'))
  const nudge = (samples: number): void => {
    const chosen = clips()
    if (chosen.length === 0) return refuse('Select a sound first; then Alt with an arrow moves it.')
    if (!edit((now) => moveClips(now, { ids: chosen.map((clip) => clip.id), by: samples }))) return
    const moved = doc().clip.get(chosen[0]?.id ?? '')
    if (moved && !transport.rolling) transport.goToSample(moved.start + moved.sync - moved.offset)
  }
  return {
    /** Trims the selected sounds at the gate. @returns Whether there were any. */
    trimToGate: (end: 'head' | 'tail'): boolean =>
      // The frame that is seen is the first or the last in which it sounds.
      toEach('Trim', (now, { id }) => trimClip(now, { id, end, to: frameStart(end === 'head' ? 0 : 1) })),
    /** Makes the instant of the sound at the gate its sync point. @returns Whether a sound was selected. */
    syncToGate: (): boolean =>
      toEach('Sync point of', (now, clip) =>
        shapeClips(now, { ids: [clip.id], fields: { sync: clip.offset + frameStart() - clip.start } }),
      ),
    /** Fades the selected sounds in up to the gate. */
    fadeInToGate: () =>
      orRefuse(
        toEach('Fade in', (now, clip) =>
          shapeClips(now, { ids: [clip.id], fields: { fadeIn: frameStart() - clip.start } }),
        ),
      ),
    /** Fades the selected sounds out from the gate. */
    fadeOutFromGate: () =>
      orRefuse(
        toEach('Fade out', (now, clip) =>
          shapeClips(now, { ids: [clip.id], fields: { fadeOut: clip.start + clip.length - frameStart() } }),
        ),
      ),
    /** Moves the selected sounds by whole frames, counted from the frame under the sync point of the first. */
    nudgeFrames: (count: number) => {
      const clip = clips()[0]
      nudge(clip ? samplesOfFrames(clip.start + clip.sync - clip.offset, count, rate()) : 0)
    },
    /** Moves the selected sounds by tenths of a frame. */
    nudgeTenths: (tenths: number) => nudge(Math.round((tenths * samplesPerFrame(rate())) / 10)),
    /** Moves the sound inside its clip. */
    slipFrames: (count: number) =>
      orRefuse(
        toEach('Slip', (now, { id, start }) =>
          slipClip(now, { id, by: samplesOfFrames(start, count, rate()) }),
        ),
      ),
    /** Moves the boundary with the sound that follows. */
    rollFrames: (count: number) => {
      const [first] = clips()
      const second = first && neighbourAt(doc(), first, 'tail')
      if (!first || !second) {
        return refuse(first ? `Nothing meets the end of ${first.name}.` : 'Select a sound first.')
      }
      const to = second.start + samplesOfFrames(second.start, count, rate())
      edit((now) => rollBoundary(now, { firstId: first.id, secondId: second.id, to }))
    },
    /** Moves the selected sounds to the track beside theirs. */
    moveAcross: (by: 1 | -1) => {
      const ids = clips().map((clip) => clip.id)
      if (ids.length === 0) return refuse('Select a sound first; then it moves to the track beside.')
      edit((now) => moveAcross(now, { ids, by }))
    },
  }
}

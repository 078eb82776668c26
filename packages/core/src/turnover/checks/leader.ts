import { rateOf, reelOf, type ReelDocument } from '../../reel/document.js'
import type { Clip } from '../../reel/records.js'
import { frameToSample, samplesIn } from '../../time/convert.js'
import type { Frames } from '../../time/units.js'
import type { Check } from './finding.js'

/** Where the 2-pop belongs: two seconds of frames before the programme (common practice). */
export const popFrame = (doc: ReelDocument): Frames =>
  (reelOf(doc).programme - 2 * rateOf(doc).nominal) as Frames

/** Says whether a sound is the 2-pop: about a frame long, at its place to within a frame. */
export function isTwoPop(doc: ReelDocument, clip: Clip): boolean {
  const frame = popFrame(doc)
  if (frame < 0) return false
  const rate = rateOf(doc)
  const one = frameToSample(1 as Frames, rate)
  return Math.abs(clip.start - frameToSample(frame, rate)) <= one && clip.length <= samplesIn(0.2)
}

/** A reel with a leader that has no 2-pop, and one without a leader. */
export const findLeader: Check = (doc, { recipe }) => {
  const whole = { weight: 'tells', at: null, about: [] } as const
  if (reelOf(doc).programme === 0)
    return [{ ...whole, text: 'The reel has no leader: its first frame is the first of the programme' }]
  if (popFrame(doc) < 0)
    return [{ ...whole, text: 'The leader is shorter than two seconds, so there is no place for a 2-pop' }]
  const there = [...doc.clip.values()].some((clip) => !clip.mute && isTwoPop(doc, clip))
  return there || recipe.twoPop ? [] : [{ ...whole, text: 'There is no 2-pop in the leader' }]
}

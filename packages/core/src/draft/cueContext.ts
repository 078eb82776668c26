import { coverageOf } from '../spotting/coverage.js'
import { rateOf, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { nearUses } from '../sounds/nearUses.js'
import { stepsOf } from './layDraft.js'
import type { CueContext } from './rankForCue.js'

/** Seconds within which a recording is not used again. */
const NEAR_S = 60

/** Says whether a draft has something to find for a cue: it is wanted, and nothing sounds for it yet. */
export const isToDraft = (doc: Pick<ReelDocument, 'reel' | 'clip'>, cue: Cue): boolean =>
  cue.state !== 'omitted' && coverageOf(doc, cue) === 'nothing'

/**
 * What is known of a cue beside its record, for a draft of its reel.
 *
 * @param choices - Recordings that the draft means for other cues, by the ids of the cues: they count as if they were placed
 * @param onsets - Of the guide, as frames of the reel
 */
export function cueContext(
  doc: ReelDocument,
  cue: Cue,
  choices: ReadonlyMap<string, string>,
  onsets: readonly number[],
): CueContext {
  const { num, den, nominal } = rateOf(doc)
  const near = new Set(nearUses(doc, cue.sync, NEAR_S).keys())
  for (const [cueId, soundId] of choices) {
    const other = doc.cue.get(cueId)
    if (other && Math.abs(other.sync - cue.sync) <= NEAR_S * nominal) near.add(soundId)
  }
  return { seconds: ((cue.out - cue.in) * den) / num, near, steps: stepsOf(doc, cue, onsets).length }
}

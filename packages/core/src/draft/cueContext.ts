import { coverageOf } from '../spotting/coverage.js'
import { rateOf, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { nearUses } from '../sounds/nearUses.js'
import { stepsOf } from './layDraft.js'
import type { CueContext } from './rankForCue.js'

/** How much it counts that a recording is only meant for another cue: nobody has said yes to it. */
const MEANT = 0.5
/** Seconds within which a recording is not used again. */
const NEAR_S = 60

/** Says whether a draft has something to find for a cue: it is wanted, and nothing sounds for it yet. */
export const isToDraft = (doc: Pick<ReelDocument, 'reel' | 'clip'>, cue: Cue): boolean =>
  cue.state !== 'omitted' && coverageOf(doc, cue) === 'nothing'

/**
 * What is known of a cue beside its record, for a draft of its reel.
 *
 * @param choices - Recordings that the draft means for other cues, by the ids of the cues: they count half as much as what is placed
 * @param onsets - Of the guide, as frames of the reel
 */
export function cueContext(
  doc: ReelDocument,
  cue: Cue,
  choices: ReadonlyMap<string, string>,
  onsets: readonly number[],
): CueContext {
  const { num, den, nominal } = rateOf(doc)
  const near = new Map([...nearUses(doc, cue.sync, NEAR_S).keys()].map((id) => [id, 1]))
  for (const [cueId, soundId] of choices) {
    const other = doc.cue.get(cueId)
    if (other && Math.abs(other.sync - cue.sync) <= NEAR_S * nominal && !near.has(soundId))
      near.set(soundId, MEANT)
  }
  return { seconds: ((cue.out - cue.in) * den) / num, near, steps: stepsOf(doc, cue, onsets).length }
}

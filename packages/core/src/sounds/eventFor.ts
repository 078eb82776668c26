import type { SoundEvent } from '../contract/sounds.js'
import { isSteps } from '../draft/layDraft.js'
import type { Cue } from '../reel/records.js'
import { frameToSample } from '../time/convert.js'
import type { FrameRate } from '../time/rates.js'
import { frames } from '../time/units.js'

/**
 * Which event of a recording is tried first on a cue: its first, where the second would come only after the cue has ended;
 * so one lever of a row of nine on one lever in the picture. Null where the whole recording suits: backgrounds, steps, and
 * whatever lasts.
 *
 * @param events - `[start, sync, end)` in samples of the recording, in their order
 * @returns The event and its number, from 0
 */
export function eventFor(
  cue: Cue,
  events: readonly SoundEvent[],
  rate: FrameRate,
): { index: number; event: SoundEvent } | null {
  const [first, second] = events
  if (!first || !second || cue.category === 'BG' || isSteps(cue.words)) return null
  const sampleOf = (frame: number): number => frameToSample(frames(frame), rate)
  return sampleOf(cue.sync) + second[1] - first[1] >= sampleOf(cue.out) ? { index: 0, event: first } : null
}

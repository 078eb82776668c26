import { clipsByCue, rateOf, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { frameToSample, samplesIn } from '../time/convert.js'

/** How far a cue is served by placed sounds; computed, never typed. */
export type Coverage = 'nothing' | 'partly' | 'fully'

/**
 * Measures how much of a cue's span its own clips cover. Muted clips do not count.
 * A cue counts as fully covered when its sync frame and at least 9 tenths of its span sound
 * (a common-practice tolerance for tails), or when a sound plays on its sync frame and the cue is under a second.
 */
export function coverageOf(doc: Pick<ReelDocument, 'reel' | 'clip'>, cue: Cue): Coverage {
  const rate = rateOf(doc)
  const from = frameToSample(cue.in, rate)
  const to = frameToSample(cue.out, rate)
  const sync = frameToSample(cue.sync, rate)
  const spans = (clipsByCue(doc).get(cue.id) ?? [])
    .filter((clip) => !clip.mute)
    .map((clip) => [clip.start, clip.start + clip.length] as const)
    .sort((a, b) => a[0] - b[0])
  if (spans.length === 0) return 'nothing'
  let covered = 0
  let reached = from
  for (const [start, end] of spans) {
    const a = Math.max(start, reached)
    const b = Math.min(end, to)
    if (b > a) covered += b - a
    reached = Math.max(reached, b) as typeof reached
  }
  const meetsSync = spans.some(([start, end]) => start <= sync && sync < end)
  if (meetsSync && (covered >= 0.9 * (to - from) || to - from < samplesIn(1))) return 'fully'
  return 'partly'
}

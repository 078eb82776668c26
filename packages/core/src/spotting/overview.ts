import { reelOf, rateOf, type ReelDocument } from '../reel/document.js'
import type { CueState } from '../reel/records.js'
import { sampleToFrame } from '../time/convert.js'
import type { Category } from '../reel/categories.js'
import { gapsBetween, mergeSpans, type Span } from './spans.js'

/** A stretch of the overview: how many cues of each category begin in it, and how far they are. */
export interface OverviewBin {
  readonly from: number
  readonly to: number
  readonly counts: Readonly<Partial<Record<Category, number>>>
  readonly states: Readonly<Partial<Record<CueState, number>>>
}

/** Counts cues in equal stretches of the reel. @param bins - At least 1. */
export function overviewBins(doc: Pick<ReelDocument, 'cue' | 'reel'>, bins: number): OverviewBin[] {
  const { length } = reelOf(doc)
  const edges = Array.from({ length: bins + 1 }, (_, index) => Math.round((index * length) / bins))
  const made = Array.from({ length: bins }, (_, index) => ({
    from: edges[index] as number,
    to: edges[index + 1] as number,
    counts: {} as Partial<Record<Category, number>>,
    states: {} as Partial<Record<CueState, number>>,
  }))
  for (const cue of doc.cue.values()) {
    let at = Math.min(bins - 1, Math.max(0, Math.floor((cue.in * bins) / length)))
    // Rounded edges may put a frame one bin beside its share of the length.
    while (at > 0 && cue.in < (edges[at] as number)) at--
    while (at < bins - 1 && cue.in >= (edges[at + 1] as number)) at++
    const bin = made[at]
    if (!bin) continue
    bin.counts[cue.category] = (bin.counts[cue.category] ?? 0) + 1
    bin.states[cue.state] = (bin.states[cue.state] ?? 0) + 1
  }
  return made
}

/** Stretches of the programme in which no placed sound is heard, at least so many frames long. */
export function silences(doc: Pick<ReelDocument, 'clip' | 'track' | 'reel'>, least: number): Span[] {
  const { programme, length } = reelOf(doc)
  const rate = rateOf(doc)
  const sounding = [...doc.clip.values()]
    .filter((clip) => !clip.mute && !doc.track.get(clip.trackId)?.mute)
    .map((clip) => ({
      from: sampleToFrame(clip.start, rate),
      to: sampleToFrame(clip.start + clip.length - 1, rate) + 1,
    }))
  return gapsBetween(mergeSpans(sounding), programme, length).filter((gap) => gap.to - gap.from >= least)
}

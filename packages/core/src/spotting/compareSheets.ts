import type { Cue } from '../reel/records.js'
import { likeness } from './likeness.js'

/** What two matched cues may differ in. */
export const COMPARED = ['category', 'in', 'out', 'sync', 'words'] as const
/** One of {@link COMPARED}. */
export type ComparedField = (typeof COMPARED)[number]

/** A line of a comparison: a pair of cues, or one that only one sheet has. */
export interface ComparedCue {
  readonly mine: Cue | null
  readonly theirs: Cue | null
  /** Empty when both say the same. */
  readonly differs: readonly ComparedField[]
}

/** How a line of a comparison is filed. */
export type Difference = 'same' | 'moved' | 'worded' | 'category' | 'mine' | 'theirs'

/** Words count as the same line, and may so have moved far, from this likeness on. */
const SAME_WORDS = 0.8
/** Below this the words say nothing for a pair. */
const SOME_WORDS = 0.3
const NEAR_SECONDS = 1
const FAR_SECONDS = 10

/**
 * Lays two sheets of one reel side by side.
 *
 * Two cues may be a pair when their sync frames lie at most 1 s apart and they share the category or have words in
 * common (likeness of 0.3), or at most 10 s apart when the words are nearly the same (0.8) and the category is.
 * Of all possible pairs the best is taken first: nearness in time counts 0.5, likeness of words 0.35,
 * the same category 0.15; ties go to the nearer pair, then to the earlier cue. No cue is in two pairs.
 *
 * @param framesPerSecond - Nominal rate of the reel; both sheets count frames from the same first frame.
 * @returns Lines in the order of time (of `mine`, where there is one).
 */
export function compareSheets(
  mine: readonly Cue[],
  theirs: readonly Cue[],
  framesPerSecond: number,
): ComparedCue[] {
  const near = NEAR_SECONDS * framesPerSecond
  const far = FAR_SECONDS * framesPerSecond
  const others = [...theirs].sort((a, b) => a.sync - b.sync)
  const pairs: { mine: Cue; theirs: Cue; score: number; distance: number }[] = []
  for (const cue of mine) {
    for (let at = lowerBound(others, cue.sync - far); at < others.length; at++) {
      const other = others[at] as Cue
      if (other.sync > cue.sync + far) break
      const distance = Math.abs(other.sync - cue.sync)
      const alike = likeness(cue.words, other.words)
      const sameCategory = cue.category === other.category
      const possible =
        distance <= near
          ? sameCategory || alike >= SOME_WORDS
          : sameCategory && alike >= SAME_WORDS && cue.words !== ''
      if (possible)
        pairs.push({
          mine: cue,
          theirs: other,
          distance,
          score: 0.5 * Math.max(0, 1 - distance / near) + 0.35 * alike + (sameCategory ? 0.15 : 0),
        })
    }
  }
  pairs.sort((a, b) => b.score - a.score || a.distance - b.distance || a.mine.sync - b.mine.sync)
  const partner = new Map<string, Cue>()
  const taken = new Set<string>()
  for (const pair of pairs) {
    if (partner.has(pair.mine.id) || taken.has(pair.theirs.id)) continue
    partner.set(pair.mine.id, pair.theirs)
    taken.add(pair.theirs.id)
  }
  const lines: ComparedCue[] = mine.map((cue) => {
    const other = partner.get(cue.id) ?? null
    return {
      mine: cue,
      theirs: other,
      differs: other ? COMPARED.filter((field) => cue[field] !== other[field]) : [],
    }
  })
  for (const cue of others) if (!taken.has(cue.id)) lines.push({ mine: null, theirs: cue, differs: [] })
  const timeOf = (line: ComparedCue): number => (line.mine ?? line.theirs)?.sync ?? 0
  return lines.sort((a, b) => timeOf(a) - timeOf(b))
}

/** Files a line under the one difference that matters most: missing, category, time, words. */
export function differenceOf(line: ComparedCue): Difference {
  if (!line.theirs) return 'mine'
  if (!line.mine) return 'theirs'
  if (line.differs.length === 0) return 'same'
  if (line.differs.includes('category')) return 'category'
  return line.differs.some((field) => field !== 'words') ? 'moved' : 'worded'
}

function lowerBound(cues: readonly Cue[], sync: number): number {
  let low = 0
  let high = cues.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((cues[middle] as Cue).sync < sync) low = middle + 1
    else high = middle
  }
  return low
}

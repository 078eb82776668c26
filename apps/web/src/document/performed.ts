import {
  keepTake,
  soundOfHit,
  type Change,
  type Hit,
  type Performed,
  type ReelDocument,
  type Result,
  type TakeCues,
} from '@yodel/core'
import type { PerformState } from './performSlice.js'
import { TRIED, triedBy, type Tried } from './tried.js'

/** What hits lay; those whose recording is gone lay nothing. */
export function performedBy(hits: readonly Hit[], { sounds }: PerformState): readonly Performed[] {
  return hits.flatMap((hit) => {
    const sound = soundOfHit(hit, (id) => sounds[id])
    return sound ? [{ sound, category: hit.category, at: hit.at }] : []
  })
}

/** The hits of all takes that are on; none while the row is shut, where nobody would see why they are heard. */
export const hitsOn = ({ on, takes }: Pick<PerformState, 'on' | 'takes'>): readonly Hit[] =>
  on ? takes.flatMap((take) => (take.on ? take.hits : [])) : []

/** The edit that keeps hits as clips. What is drawn and heard before is the same edit, on a document that nobody saves. */
export const keepHits = (
  doc: ReelDocument,
  hits: readonly Hit[],
  perform: PerformState,
  as: { cues: TakeCues; words: string; newId: () => string },
): Result<Change> => keepTake(doc, { performed: performedBy(hits, perform), ...as })

/** Some hits where they would be kept; null where there are none, or they could not be. */
export function performedIn(
  doc: ReelDocument,
  hits: readonly Hit[],
  perform: PerformState,
  /** What ids are counted from. */
  first = 0,
): Tried | null {
  if (hits.length === 0) return null
  let count = first
  const newId = (): string => `${TRIED}hit ${count++}`
  return triedBy(doc, keepHits(doc, hits, perform, { cues: 'none', words: '', newId }))
}

/** The same, followed hit by hit: only what came since the last time is laid, so that the two-hundredth hit costs what the first did. */
export function performedFollower(): typeof performedIn {
  let last: { doc: ReelDocument; sounds: PerformState['sounds']; hits: readonly Hit[]; tried: Tried } | null =
    null
  return (doc, hits, perform) => {
    const known = last?.doc === doc && last.sounds === perform.sounds ? last : null
    const goesOn =
      known && known.hits.length <= hits.length && known.hits.every((hit, index) => hit === hits[index])
    const before = goesOn ? known : null
    const fresh = hits.slice(before?.hits.length ?? 0)
    const added = performedIn(before?.tried.doc ?? doc, fresh, perform, 3 * (before?.hits.length ?? 0))
    if (!before) last = added && { doc, sounds: perform.sounds, hits, tried: added }
    else if (added) {
      const { tried } = before
      const clips = [...tried.clips, ...added.clips]
      const tracks = [...tried.tracks, ...added.tracks]
      last = { doc, sounds: perform.sounds, hits, tried: { doc: added.doc, clips, tracks } }
    }
    return hits.length === 0 ? null : (last?.tried ?? null)
  }
}

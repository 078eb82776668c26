import type { FoundSound } from '../contract/sounds.js'
import type { Cue } from '../reel/records.js'
import { rankForCue, type CueContext, type RankedSound } from './rankForCue.js'

/** What is asked of a search: the words of a cue, of which not all have to be met, or what sounds like a recording. */
export type FindSounds = (params: { q: string; cue?: '1'; like?: string }) => Promise<readonly FoundSound[]>

/** Letters that a search takes; a cue may have more words. */
const LONGEST = 400
/** So many candidates are kept for a cue. */
const KEPT = 12

/**
 * The candidates for a cue, the best first: what its words find, and what sounds like the best of these.
 *
 * @param find - Asks a search; what it throws is thrown
 */
export async function draftCue(cue: Cue, context: CueContext, find: FindSounds): Promise<RankedSound[]> {
  if (cue.words.trim() === '') return []
  const found = await find({ q: cue.words.slice(0, LONGEST), cue: '1' })
  const [best] = rankForCue(cue, found, context)
  if (!best) return []
  const like = await find({ q: '', like: best.sound.id })
  const ids = new Map(like.map(({ id }, index) => [id, 1 - index / like.length]))
  const both = [...found, ...like.filter(({ id }) => !found.some((one) => one.id === id))]
  return rankForCue(cue, both, { ...context, alike: { name: best.sound.name, met: best.met, ids } }).slice(
    0,
    KEPT,
  )
}

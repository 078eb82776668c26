import type { Category } from '../reel/categories.js'
import { syncPlace, type ReelDocument } from '../reel/document.js'
import { guessCategory } from './guessCategory.js'

/** A name without its number: those that share it are takes of one thing. */
export const takeStem = (name: string): string => name.replace(/[\s,]*\d+$/, '')

/**
 * Which of the results of a search is tried first: the best, for backgrounds the best of those, so that a signal box gets its room
 * tone before its door. Where there are other takes of the same thing among them, the one whose nearest use is farthest away, so
 * that steps go round them and none is heard twice by accident.
 *
 * @param found - The best first; not empty for an answer
 * @param at - Where it is tried, in samples from the reel's first frame, and of which category its cue is; null without a cue
 */
export function firstToTry<Sound extends Parameters<typeof guessCategory>[0] & { readonly id: string }>(
  found: readonly Sound[],
  { clip }: Pick<ReelDocument, 'clip'>,
  { place, category }: { readonly place: number; readonly category: Category | null },
): Sound | undefined {
  const best =
    (category === 'BG' ? found.find((sound) => guessCategory(sound) === 'BG') : undefined) ?? found[0]
  if (!best) return undefined
  const away = new Map<string, number>()
  for (const used of clip.values()) {
    const from = Math.abs(syncPlace(used) - place)
    away.set(used.soundId, Math.min(from, away.get(used.soundId) ?? Infinity))
  }
  const awayOf = ({ id }: Sound): number => away.get(id) ?? Infinity
  return found
    .filter(({ name }) => takeStem(name) === takeStem(best.name))
    .reduce((first, other) => (awayOf(other) > awayOf(first) ? other : first), best)
}

import { syncPlace, type ReelDocument } from '../reel/document.js'

/** A name without its number: those that share it are takes of one thing. */
export const takeStem = (name: string): string => name.replace(/[\s,]*\d+$/, '')

/**
 * Which of the results of a search is tried first: the best; but where there are other takes of the same thing among them, the
 * one whose nearest use is farthest away, so that steps go round them and none is heard twice by accident.
 *
 * @param found - The best first; not empty for an answer
 * @param place - Where it is tried, in samples from the reel's first frame
 */
export function firstToTry<Sound extends { readonly id: string; readonly name: string }>(
  found: readonly Sound[],
  { clip }: Pick<ReelDocument, 'clip'>,
  place: number,
): Sound | undefined {
  const [best] = found
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

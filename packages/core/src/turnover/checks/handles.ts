import { samplesIn } from '../../time/convert.js'
import { aboutClip, type Check } from './finding.js'

/** Sounds whose recordings have less to give before and after them than the recipe asks for. */
export const findHandles: Check = (doc, { recipe }) => {
  const wanted = samplesIn(recipe.handles)
  if (wanted === 0) return []
  return [...doc.clip.values()].flatMap((clip) => {
    const head = clip.offset
    const tail = clip.recorded - clip.offset - clip.length
    // A recording that is heard from its first to its last sample has nothing to hold back.
    const short = head < wanted && head > 0 ? 'before' : tail < wanted && tail > 0 ? 'after' : null
    return short
      ? [aboutClip(doc, clip, 'tells', `${clip.name} has less than ${recipe.handles} s ${short} it`)]
      : []
  })
}

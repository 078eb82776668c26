import { frameToSample } from '../time/convert.js'
import { frames } from '../time/units.js'
import { rateOf, syncPlace, type ReelDocument } from './document.js'

/** A place that a dragged edge is drawn to. */
export interface Magnet {
  /** Samples from the reel's first frame. */
  readonly at: number
  readonly what: 'onset' | 'cut' | 'cue' | 'edge' | 'sync point'
}

/**
 * Everything that a drag can be drawn to, by place: onsets of the guide, cuts of the picture, cues, ends and sync points of other sounds.
 *
 * @param marks - Frames from the reel's first frame.
 * @param ignore - Clips that are dragged.
 */
export function magnetsOf(
  doc: ReelDocument,
  marks: { readonly onsets: readonly number[]; readonly cuts: readonly number[] },
  ignore: ReadonlySet<string>,
): Magnet[] {
  const rate = rateOf(doc)
  const frame = (value: number): number => frameToSample(frames(value), rate)
  const found: Magnet[] = [
    ...marks.onsets.map((at): Magnet => ({ at: frame(at), what: 'onset' })),
    ...marks.cuts.map((at): Magnet => ({ at: frame(at), what: 'cut' })),
  ]
  for (const cue of doc.cue.values())
    for (const at of [cue.in, cue.out, cue.sync]) found.push({ at: frame(at), what: 'cue' })
  for (const clip of doc.clip.values()) {
    if (ignore.has(clip.id)) continue
    found.push(
      { at: clip.start, what: 'edge' },
      { at: clip.start + clip.length, what: 'edge' },
      { at: syncPlace(clip), what: 'sync point' },
    )
  }
  return found.sort((a, b) => a.at - b.at)
}

/** The magnet nearest to a place within reach, or null. @param magnets - By place. */
export function nearestMagnet(magnets: readonly Magnet[], at: number, reach: number): Magnet | null {
  let low = 0
  let high = magnets.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((magnets[middle] as Magnet).at < at) low = middle + 1
    else high = middle
  }
  const near = [magnets[low - 1], magnets[low]].flatMap((magnet) =>
    magnet && Math.abs(magnet.at - at) <= reach ? [magnet] : [],
  )
  return near.sort((a, b) => Math.abs(a.at - at) - Math.abs(b.at - at))[0] ?? null
}

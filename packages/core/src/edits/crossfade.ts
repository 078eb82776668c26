import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { clipsOnTrack, type ReelDocument } from '../reel/document.js'
import { findCollision, mayMeet } from '../reel/invariants.js'
import type { Clip } from '../reel/records.js'
import { withTimes } from '../reel/withTimes.js'

/**
 * Crossfades sounds that follow each other on a track: each pair is drawn over its boundary from both sides, as far as the
 * recordings go, with fades of equal power. A gap between the two is closed where both reach.
 *
 * @param args.ids - The sounds; each is crossfaded with the next of them on its track.
 * @param args.length - Wanted length in samples.
 */
export function crossfadeClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; length: number },
): Result<Change> {
  const chosen = new Set(args.ids)
  const now = new Map<string, Clip>()
  const at = (clip: Clip): Clip => now.get(clip.id) ?? clip
  let pairs = 0
  for (const trackId of new Set(args.ids.map((id) => doc.clip.get(id)?.trackId))) {
    const clips = clipsOnTrack(doc, trackId ?? '').filter((clip) => chosen.has(clip.id))
    for (const [index, second] of clips.entries()) {
      const first = clips[index - 1]
      if (!first) continue
      const faded = overBoundary(at(first), at(second), args.length)
      if (!faded) return refuse('CORE_NO_HANDLE', `crossfade of ${first.name} and ${second.name}`)
      for (const clip of faded) {
        const other = findCollision(doc, clip, chosen)
        if (other) return refuse('CORE_OVERLAP', clip.name, `it would sound over ${other.name}`)
        now.set(clip.id, clip)
      }
      pairs++
    }
  }
  if (pairs === 0) return refuse('CORE_NOT_NEIGHBOURS', 'crossfade', 'choose two sounds or more on one track')
  return ok({
    label: pairs === 1 ? 'Crossfade' : `${pairs} crossfades`,
    added: [],
    updated: [...now.values()].map((to) => [doc.clip.get(to.id) as Clip, to]),
    removed: [],
  })
}

function overBoundary(first: Clip, second: Clip, length: number): [Clip, Clip] | null {
  const boundary = Math.round((first.start + first.length + second.start) / 2)
  const start = Math.max(second.start - second.offset, boundary - Math.floor(length / 2), first.start + 1)
  const end = Math.min(
    first.start + first.recorded - first.offset,
    start + length,
    second.start + second.length,
  )
  const overlap = end - start
  if (overlap < 1) return null
  const by = second.start - start
  const a = withTimes({ ...first, fadeOutShape: 'power' }, { length: end - first.start, fadeOut: overlap })
  const b = withTimes(
    { ...second, fadeInShape: 'power' },
    { start, offset: second.offset - by, length: second.length + by, fadeIn: overlap },
  )
  const pair: [Clip, Clip] = [
    withTimes(a, { fadeIn: Math.min(a.fadeIn, a.length - overlap) }),
    withTimes(b, { fadeOut: Math.min(b.fadeOut, b.length - overlap) }),
  ]
  return mayMeet(...pair) ? pair : null
}

/**
 * Lets a clip that was laid over the end or the beginning of others meet them in crossfades as long as they overlap.
 *
 * @param ignore - Clips that move along.
 * @returns The clip with its fades, and its neighbours with theirs; null where it would cover one or be covered.
 */
export function meetInCrossfades(
  doc: ReelDocument,
  clip: Clip,
  ignore: ReadonlySet<string>,
): { clip: Clip; others: [Clip, Clip][] } | null {
  let met = clip
  const others: [Clip, Clip][] = []
  for (const other of clipsOnTrack(doc, clip.trackId)) {
    if (other.id === clip.id || ignore.has(other.id) || mayMeet(other, met)) continue
    const before = other.start < clip.start
    const overlap = before ? other.start + other.length - clip.start : clip.start + clip.length - other.start
    const out = (one: Clip): Clip => withTimes({ ...one, fadeOutShape: 'power' }, { fadeOut: overlap })
    const into = (one: Clip): Clip => withTimes({ ...one, fadeInShape: 'power' }, { fadeIn: overlap })
    const faded = before ? out(other) : into(other)
    met = before ? into(met) : out(met)
    if (other.locked || overlap > Math.min(clip.length, other.length) || !mayMeet(faded, met)) return null
    others.push([other, faded])
  }
  return { clip: met, others }
}

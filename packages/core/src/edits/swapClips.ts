import { ok, refuse, type Result } from '../errors.js'
import { chain, type Change } from '../reel/change.js'
import { syncPlace, type ReelDocument } from '../reel/document.js'
import type { Clip } from '../reel/records.js'
import { withTimes } from '../reel/withTimes.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import { clipAtSample } from './placeSound.js'
import { roomAround, SHORTEST_CLIP, withShorterFades } from './trimClip.js'

/**
 * Puts other sounds in the place of placed ones: sync point, track, cue, level and fades stay.
 * What is longer than the room between the neighbours is cut there.
 *
 * @param args.swaps - Which clip becomes which sound.
 */
export function swapClips(
  doc: ReelDocument,
  args: { swaps: readonly { readonly id: string; readonly sound: SoundToPlace }[] },
): Result<Change> {
  const { swaps } = args
  const [only] = swaps
  const before = doc.clip.get(only?.id ?? '')
  const label =
    swaps.length !== 1 || !only
      ? `Swap ${swaps.length} sounds`
      : before?.soundId === only.sound.id
        ? `Take another part of ${only.sound.name}`
        : `Swap ${before?.name} for ${only.sound.name}`
  const swap =
    ({ id, sound }: (typeof swaps)[number]) =>
    (now: ReelDocument): Result<Change> => {
      const from = now.clip.get(id)
      if (!from) return refuse('CORE_RECORD_MISSING', 'swapClips', id)
      const to = fitted(now, from, sound)
      if (!to)
        return refuse('CORE_OVERLAP', `${sound.name} for ${from.name}`, 'its neighbours leave no room for it')
      return ok({ label, added: [], updated: [[from, to]], removed: [] })
    }
  return chain(doc, label, swaps.map(swap))
}

function fitted(doc: ReelDocument, from: Clip, sound: SoundToPlace): Clip | null {
  const whole = clipAtSample({
    id: from.id,
    trackId: from.trackId,
    cueId: from.cueId,
    at: syncPlace(from),
    sound,
  })
  const [low, high] = roomAround(doc, from)
  const start = Math.max(low, whole.start)
  const end = Math.min(high, whole.start + whole.length)
  if (end - start < Math.min(SHORTEST_CLIP, whole.length)) return null
  const { gain, fadeInShape, fadeOutShape, mute, group, locked } = from
  const { runUp, runDown, passSpeed, passDistance } = from
  const treatment = sound.treatment ?? from.treatment
  const moved = { runUp, runDown, passSpeed, passDistance, treatment }
  const swapped = withTimes(
    { ...whole, ...moved, gain, fadeInShape, fadeOutShape, mute, group, locked },
    {
      start,
      length: end - start,
      offset: whole.offset + start - whole.start,
      fadeIn: Math.min(from.fadeIn, end - start),
      fadeOut: Math.min(from.fadeOut, end - start),
    },
  )
  return withShorterFades(swapped)
}

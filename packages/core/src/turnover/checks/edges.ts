import { clipsByTrack, type ReelDocument } from '../../reel/document.js'
import type { Clip } from '../../reel/records.js'
import { SAMPLES_PER_MS } from '../../time/units.js'
import { aboutClip, type Check, type Found } from './finding.js'

/** An attack is over within so many milliseconds before the sync point (a common-practice figure). */
const ATTACK_MS = 8
/** A step at a hard cut that is louder than this is heard as a click, dBFS. */
const CLICK_DB = -40

/** Fades that still rise when the sync point is there, and cuts into the attack before it. */
export const findAttacks: Check = (doc) =>
  [...doc.clip.values()].flatMap((clip): Found[] => {
    const ahead = clip.sync - clip.offset
    if (clip.mute || ahead <= 0 || ahead >= clip.length) return []
    if (clip.fadeIn > ahead && !isCrossfaded(doc, clip))
      return [aboutClip(doc, clip, 'mind', `The fade in of ${clip.name} reaches past its sync point`)]
    return clip.offset > 0 && ahead < ATTACK_MS * SAMPLES_PER_MS
      ? [aboutClip(doc, clip, 'mind', `${clip.name} begins inside its attack`)]
      : []
  })

/** Hard cuts inside something loud: what is heard there is a click. */
export const findClicks: Check = (doc, { edges }) =>
  edges.flatMap(({ clipId, first, last }) => {
    const clip = doc.clip.get(clipId)
    if (!clip || clip.mute) return []
    const at = [
      ...(first > CLICK_DB && clip.fadeIn === 0 && !meets(doc, clip, 'head') ? ['beginning'] : []),
      ...(last > CLICK_DB && clip.fadeOut === 0 && !meets(doc, clip, 'tail') ? ['end'] : []),
    ]
    return at.map((end) =>
      aboutClip(doc, clip, 'mind', `${clip.name} is cut hard inside something loud at its ${end}`),
    )
  })

const isCrossfaded = (doc: ReelDocument, clip: Clip): boolean =>
  (clipsByTrack(doc).get(clip.trackId) ?? []).some(
    (other) => other.id !== clip.id && other.start < clip.start && other.start + other.length > clip.start,
  )

/** Says whether the same recording goes on at an end, as it does where a sound was only split. */
function meets(doc: ReelDocument, clip: Clip, end: 'head' | 'tail'): boolean {
  return (clipsByTrack(doc).get(clip.trackId) ?? []).some((other) => {
    const [first, second] = end === 'head' ? [other, clip] : [clip, other]
    return (
      other.soundId === clip.soundId &&
      first.start + first.length === second.start &&
      first.offset + first.length === second.offset
    )
  })
}

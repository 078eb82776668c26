import { audibleTracks } from '../../audio/plan.js'
import { aboutClip, type Check } from './finding.js'

const TEMPORARY = /\b(scratch|temp|temporary|placeholder|guide)\b/i

/** Scratch voice and other temporary material that would be in the mix, told by what it is, by the name of its track or its own. */
export const findTemporary: Check = (doc) => {
  const tracks = new Map(audibleTracks(doc).map((track) => [track.id, track]))
  return [...doc.clip.values()].flatMap((clip) => {
    const track = tracks.get(clip.trackId)
    const why =
      !track || clip.mute
        ? ''
        : TEMPORARY.test(track.name)
          ? ` on ${track.name}`
          : clip.scratch !== '' || TEMPORARY.test(clip.name)
            ? ''
            : null
    return !track || clip.mute || why === null
      ? []
      : [aboutClip(doc, clip, 'mind', `${clip.name}${why} looks temporary, and is in the mix`)]
  })
}

import { mediaOf, playedOf } from '../audio/played.js'
import { warped, warpOf } from '../audio/warp.js'
import type { Clip } from '../reel/records.js'

/** The samples of its media with which a sound begins and ends, where it is cut hard there; null where it fades. */
export interface EdgePlaces {
  readonly mediaId: string
  readonly first: number | null
  readonly last: number | null
}

/** Where a sound is cut hard, as places in the media that it is played from (rounded to whole samples at other speeds). */
export function edgePlaces(clip: Clip): EdgePlaces {
  const warp = warpOf(clip)
  const played = playedOf(clip, warp)
  const inMedia = (at: number): number => {
    const place = warp ? clip.offset + warped(warp, at - clip.offset) : at
    return Math.round((played?.reverse ? clip.recorded - 1 - place : place) * (played?.speed ?? 1))
  }
  return {
    mediaId: mediaOf(clip),
    first: clip.fadeIn === 0 ? inMedia(clip.offset) : null,
    last: clip.fadeOut === 0 ? inMedia(clip.offset + clip.length - 1) : null,
  }
}

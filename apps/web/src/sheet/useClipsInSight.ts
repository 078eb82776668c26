import { samplesPerFrame, type Clip, type FrameRate } from '@yodel/core'
import { useMemo } from 'react'
import type { Stretch } from './geometry.js'

/**
 * Gives those of a track's clips that reach into the stretch that is drawn. A list that has not changed gives the
 * same list again, so that a drag draws only the tracks that it touches.
 */
export function useClipsInSight(
  { from, to }: Stretch,
  rate: FrameRate,
): (clips: readonly Clip[]) => readonly Clip[] {
  return useMemo(() => {
    const first = from * samplesPerFrame(rate)
    const last = to * samplesPerFrame(rate)
    const known = new WeakMap<readonly Clip[], readonly Clip[]>()
    return (clips) => {
      const inSight =
        known.get(clips) ?? clips.filter((clip) => clip.start < last && clip.start + clip.length > first)
      known.set(clips, inSight)
      return inSight
    }
  }, [from, to, rate])
}

import type { Picture } from '../contract/media.js'
import type { Reel } from '../reel/records.js'
import { FRAME_RATES, sameSpeed } from '../time/rates.js'
import { parseTimecode } from '../time/timecode.js'

/**
 * Frame of a reel at which a picture begins by the timecode of its file; negative where that is before the reel does.
 * Null where the file has none, or runs at another speed, so that its numbers mean nothing here.
 */
export function offsetByTimecode(
  { start, rate }: Pick<Picture, 'start' | 'rate'>,
  reel: Pick<Reel, 'rate' | 'firstFrame'>,
): number | null {
  const own = FRAME_RATES[reel.rate]
  if (start === null || !sameSpeed(FRAME_RATES[rate], own)) return null
  // Its numbers are read as the reel counts: what is called the same is the same place.
  const read = parseTimecode(start.replace(';', ':'), own)
  return read.ok ? read.frame - reel.firstFrame : null
}

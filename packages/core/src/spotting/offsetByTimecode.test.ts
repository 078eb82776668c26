import { expect, it } from 'vitest'
import type { FrameRateId } from '../time/rates.js'
import { frames } from '../time/units.js'
import { offsetByTimecode } from './offsetByTimecode.js'

// Frames since midnight of the reels' first: an hour is 90,000 frames at 25, 107,892 at 29.97 drop (SMPTE ST 12-1).
it.each([
  ['01:00:00:00', '25', '25', 90_000, 0],
  ['00:59:52:00', '25', '25', 90_000, -200],
  ['01:00:00;02', '29.97', '29.97d', 107_892, 2],
  ['01:00:00:02', '29.97', '29.97d', 107_892, 2],
  ['01:01:00;02', '29.97', '29.97d', 107_892, 1800],
  [null, '25', '25', 90_000, null],
  ['01:00:00:00', '24', '25', 90_000, null],
  // A number that drop-frame does not have.
  ['01:01:00:00', '29.97', '29.97d', 107_892, null],
] as const)(
  'a picture of %s at %s begins in a reel at %s from %i on at frame %s',
  (start, rate, of, first, at) => {
    const reel = { rate: of as FrameRateId, firstFrame: frames(first) }
    expect(offsetByTimecode({ start, rate }, reel)).toBe(at)
  },
)

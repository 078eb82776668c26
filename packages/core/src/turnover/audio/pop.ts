import type { Reel } from '../../reel/records.js'
import { frameToSample } from '../../time/convert.js'
import { FRAME_RATES } from '../../time/rates.js'
import { frames, SAMPLE_RATE } from '../../time/units.js'
import { gainFromDb } from '../../signal/levels.js'

/** A 2-pop: 1 kHz at -20 dBFS, one frame long, two seconds before the programme (common practice). */
const POP = { hz: 1000, level: -20, before: 2 } as const

/**
 * The 2-pop of a reel as it is made for files.
 *
 * @returns Its samples and the sample of the reel at which the first stands; null where the leader is too short for it.
 */
export function twoPopOf(
  reel: Pick<Reel, 'rate' | 'programme'>,
): { readonly at: number; readonly samples: Float32Array } | null {
  const rate = FRAME_RATES[reel.rate]
  const first = reel.programme - POP.before * rate.nominal
  if (first < 0) return null
  const at = frameToSample(frames(first), rate)
  const length = frameToSample(frames(first + 1), rate) - at
  const gain = gainFromDb(POP.level)
  return {
    at,
    samples: Float32Array.from(
      { length },
      (_, i) => gain * Math.sin((2 * Math.PI * POP.hz * i) / SAMPLE_RATE),
    ),
  }
}

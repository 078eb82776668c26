/**
 * A picture frame rate as an exact rational, with the way its frames are numbered.
 * `nominal` is the count of frame numbers in a timecode second (30 for 29.97).
 */
export interface FrameRate {
  readonly id: FrameRateId
  readonly num: number
  readonly den: number
  readonly nominal: number
  /** Frame numbers left out at each minute not divisible by ten: 0, 2 (29.97 DF) or 4 (59.94 DF). */
  readonly dropped: 0 | 2 | 4
  readonly label: string
}

/** Identifiers of the frame rates that reels may have; `d` marks drop-frame numbering. */
export const FRAME_RATE_IDS = [
  '23.976',
  '24',
  '25',
  '29.97',
  '29.97d',
  '30',
  '47.952',
  '48',
  '50',
  '59.94',
  '59.94d',
  '60',
] as const

/** One of {@link FRAME_RATE_IDS}. */
export type FrameRateId = (typeof FRAME_RATE_IDS)[number]

function rate(
  id: FrameRateId,
  nominal: number,
  pulled: boolean,
  dropped: 0 | 2 | 4,
  label: string,
): FrameRate {
  return Object.freeze({
    id,
    num: pulled ? nominal * 1000 : nominal,
    den: pulled ? 1001 : 1,
    nominal,
    dropped,
    label,
  })
}

/** Every supported rate by its identifier. Rational values after SMPTE ST 12-1. */
export const FRAME_RATES: Readonly<Record<FrameRateId, FrameRate>> = Object.freeze({
  '23.976': rate('23.976', 24, true, 0, '23.976 fps'),
  '24': rate('24', 24, false, 0, '24 fps'),
  '25': rate('25', 25, false, 0, '25 fps'),
  '29.97': rate('29.97', 30, true, 0, '29.97 fps non-drop'),
  '29.97d': rate('29.97d', 30, true, 2, '29.97 fps drop'),
  '30': rate('30', 30, false, 0, '30 fps'),
  '47.952': rate('47.952', 48, true, 0, '47.952 fps'),
  '48': rate('48', 48, false, 0, '48 fps'),
  '50': rate('50', 50, false, 0, '50 fps'),
  '59.94': rate('59.94', 60, true, 0, '59.94 fps non-drop'),
  '59.94d': rate('59.94d', 60, true, 4, '59.94 fps drop'),
  '60': rate('60', 60, false, 0, '60 fps'),
})

/**
 * Finds the supported rate that a movie's declared rational means, within 0.01 %.
 * The pulled-down rates come back non-drop; numbering is the reel's choice, not the movie's.
 *
 * @returns null when no supported rate is that near.
 */
export function rateFromRational(num: number, den: number): FrameRate | null {
  if (!(num > 0) || !(den > 0)) return null
  const fps = num / den
  for (const id of FRAME_RATE_IDS) {
    const candidate = FRAME_RATES[id]
    if (Math.abs((fps * candidate.den) / candidate.num - 1) < 1e-4) return candidate
  }
  return null
}

/** Says whether two rates run at the same speed, whatever their numbering. */
export function sameSpeed(a: FrameRate, b: FrameRate): boolean {
  return a.num * b.den === b.num * a.den
}

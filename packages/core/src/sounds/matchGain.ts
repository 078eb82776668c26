/** Loudness that sounds are matched to, LUFS; and the true peak that none may go above, dBTP. */
const MATCH = { loudness: -23, ceiling: -1 } as const

/** Gain in dB that brings a sound to the matched loudness without its true peak going over; 0 for one that has not been heard yet, and for silence. */
export function matchGain(sound: {
  readonly measured: boolean
  readonly loudness: number
  readonly truePeak: number
}): number {
  if (!sound.measured || sound.loudness <= -70) return 0
  return Math.min(MATCH.loudness - sound.loudness, MATCH.ceiling - sound.truePeak)
}

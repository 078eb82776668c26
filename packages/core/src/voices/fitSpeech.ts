/** How many times as long as by itself speech can be made to take, and still be followed. */
export const STRETCHES = { shortest: 0.4, longest: 3 } as const

/** The part of a line that its pauses may take where it has to be as long as its cue. */
const MOST_PAUSE = 0.5

/** How pauses are shortened so that words have at least half of the time. @param pauses - Seconds of all pauses @param wanted - Seconds of the line */
export const pauseScale = (pauses: number, wanted: number): number =>
  pauses <= wanted * MOST_PAUSE ? 1 : (wanted * MOST_PAUSE) / pauses

/**
 * The stretch by which a line comes nearer to the length that it is to have, inside of what can be followed.
 *
 * @param stretch - With which its words took `spoken` seconds
 * @param times.pauses - Seconds of its pauses, as they are kept
 * @param times.wanted - Seconds of the whole line
 */
export function nextStretch(
  stretch: number,
  { spoken, pauses, wanted }: { readonly spoken: number; readonly pauses: number; readonly wanted: number },
): number {
  const next = (stretch * Math.max(0, wanted - pauses)) / Math.max(1e-3, spoken)
  return Math.min(STRETCHES.longest, Math.max(STRETCHES.shortest, next))
}

/** What is softer than this, beside the loudest sample, is no voice yet: -50 dB. */
const SILENCE = 10 ** (-50 / 20)
/** Seconds that are kept around a voice. */
const AROUND = 0.01

/** Words without the silence that engines put around them. @param samples - -1 to 1 @param rate - Samples a second @returns A view of them; empty where nothing is said */
export function trimSpeech(samples: Float32Array, rate: number): Float32Array {
  const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
  if (peak === 0) return samples.subarray(0, 0)
  const heard = (sample: number): boolean => Math.abs(sample) > peak * SILENCE
  const around = Math.round(AROUND * rate)
  const from = Math.max(0, samples.findIndex(heard) - around)
  return samples.subarray(from, Math.min(samples.length, samples.findLastIndex(heard) + 1 + around))
}

/** Puts pieces of speech and pauses (seconds) one after the other. @param rate - Samples a second */
export function joinSpeech(pieces: readonly (Float32Array | number)[], rate: number): Float32Array {
  const length = (piece: Float32Array | number): number =>
    typeof piece === 'number' ? Math.round(piece * rate) : piece.length
  const joined = new Float32Array(pieces.reduce<number>((sum, piece) => sum + length(piece), 0))
  let at = 0
  for (const piece of pieces) {
    if (typeof piece !== 'number') joined.set(piece, at)
    at += length(piece)
  }
  return joined
}

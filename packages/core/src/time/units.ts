/** A whole number of picture frames; positions count from the reel's first frame unless said otherwise. */
export type Frames = number & { readonly __unit: 'frames' }

/** A whole number of audio samples at the reel's sample rate; positions count from the reel's first frame. */
export type Samples = number & { readonly __unit: 'samples' }

/** Real time in seconds; only for display and for talking to clocks, never stored. */
export type Seconds = number & { readonly __unit: 'seconds' }

/** The one sample rate at which reels are worked on and handed over. */
export const SAMPLE_RATE = 48_000

/** Samples of a millisecond, in which many settings of sound are given. */
export const SAMPLES_PER_MS = SAMPLE_RATE / 1000

/** Marks a whole number as frames. @throws RangeError if it is not a safe integer. */
export function frames(value: number): Frames {
  if (!Number.isSafeInteger(value)) throw new RangeError(`frames: must be a whole number, got ${value}`)
  return value as Frames
}

/** Marks a whole number as samples. @throws RangeError if it is not a safe integer. */
export function samples(value: number): Samples {
  if (!Number.isSafeInteger(value)) throw new RangeError(`samples: must be a whole number, got ${value}`)
  return value as Samples
}

/** Marks a finite number as seconds. @throws RangeError if it is not finite. */
export function seconds(value: number): Seconds {
  if (!Number.isFinite(value)) throw new RangeError(`seconds: must be finite, got ${value}`)
  return value as Seconds
}

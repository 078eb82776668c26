import type { FrameRate } from './rates.js'
import { SAMPLE_RATE, type Frames, type Samples, type Seconds } from './units.js'

// All products here stay far below 2^53: 24 h at 60 fps is 5.2e6 frames, times 48,000 x 1001 is 2.5e14.

/**
 * The sample at which a frame begins, rounded to the nearest whole sample (halves up).
 * Computed from the frame number each time, so rounding never adds up.
 */
export function frameToSample(frame: Frames, rate: FrameRate): Samples {
  return Math.floor((2 * frame * SAMPLE_RATE * rate.den + rate.num) / (2 * rate.num)) as Samples
}

/**
 * The frame on screen while a sample sounds: the last frame whose first sample, as {@link frameToSample}
 * rounds it, is not after the given one.
 */
export function sampleToFrame(sample: number, rate: FrameRate): Frames {
  const guess = Math.floor((sample * rate.num) / (SAMPLE_RATE * rate.den)) + 1
  return (
    frameToSample(guess as Frames, rate) <= sample
      ? guess
      : frameToSample((guess - 1) as Frames, rate) <= sample
        ? guess - 1
        : guess - 2
  ) as Frames
}

/** The frame whose beginning lies nearest to a sample; ties go to the later frame. */
export function nearestFrame(sample: number, rate: FrameRate): Frames {
  const before = sampleToFrame(sample, rate)
  const next = (before + 1) as Frames
  return sample - frameToSample(before, rate) < frameToSample(next, rate) - sample ? before : next
}

/** Exact duration of a number of frames in seconds (a float division, so only for display and clocks). */
export function framesToSeconds(frame: number, rate: FrameRate): Seconds {
  return ((frame * rate.den) / rate.num) as Seconds
}

/**
 * The picture frame of a movie running at its own rate at the beginning of a reel frame.
 * At equal rates it is the same number; otherwise the movie plays in real time.
 */
export function pictureFrameAt(reelFrame: number, reel: FrameRate, movie: FrameRate): number {
  return Math.floor((reelFrame * reel.den * movie.num) / (reel.num * movie.den))
}

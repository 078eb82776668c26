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

/** How many samples a frame lasts; not whole at most rates, so only for drawing and for lengths that are rounded after. */
export function samplesPerFrame(rate: FrameRate): number {
  return (SAMPLE_RATE * rate.den) / rate.num
}

/** How far a number of frames reaches from a sample on, in samples: counted from the frame that sounds there, so that no rounding adds up. */
export function samplesOfFrames(from: number, count: number, rate: FrameRate): Samples {
  const frame = sampleToFrame(Math.max(0, from), rate)
  return (frameToSample((frame + count) as Frames, rate) - frameToSample(frame, rate)) as Samples
}

/** A stretch of real time in whole samples, rounded to the nearest. @param time - Seconds */
export function samplesIn(time: number): Samples {
  return Math.round(time * SAMPLE_RATE) as Samples
}

/** A stretch of real time in whole frames, rounded to the nearest. @param time - Seconds */
export function framesIn(time: number, rate: FrameRate): Frames {
  return Math.round((time * rate.num) / rate.den) as Frames
}

/** A number of frames as what lasts as long at another rate, rounded to the nearest. */
export function framesAtRate(count: number, from: FrameRate, to: FrameRate): Frames {
  return Math.round((count * from.den * to.num) / (from.num * to.den)) as Frames
}

/** Real time that a number of samples lasts, in seconds (only for display and clocks). */
export function secondsOf(count: number): Seconds {
  return (count / SAMPLE_RATE) as Seconds
}

/** The place of a sample among the frames, with its fraction; only for drawing, where both are axes of one picture. */
export function frameOfSample(sample: number, rate: FrameRate): number {
  return sample / samplesPerFrame(rate)
}

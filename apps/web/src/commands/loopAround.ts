import { frames, frameToSample, samplesIn, type Clip, type Cue, type FrameRate } from '@yodel/core'

/** What is heard before a try and after it, and the longest stretch that is gone round. */
const BEFORE = samplesIn(0.75)
const AFTER = samplesIn(0.25)
const LONGEST = samplesIn(6)
/** However early a sound begins, the frame it is tried on is heard after so much. */
const LEAD = samplesIn(3)

/** The stretch that is gone round while sounds are tried on a frame, in samples of the reel; the frame is always in it. */
export function loopAround(
  frame: number,
  clips: readonly Clip[],
  cue: Cue | null,
  rate: FrameRate,
): { from: number; to: number } {
  const meet = frameToSample(frames(frame), rate)
  const first = Math.min(meet, ...clips.map((clip) => clip.start)) - BEFORE
  const from = Math.max(0, meet - LEAD, first)
  const out = cue ? frameToSample(cue.out, rate) : 0
  const end = Math.max(out, ...clips.map((clip) => clip.start + clip.length)) + AFTER
  return { from: Math.round(from), to: Math.round(Math.min(end, from + LONGEST)) }
}

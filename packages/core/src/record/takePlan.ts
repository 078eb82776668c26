import { SAMPLE_RATE } from '../time/units.js'

/** Whole seconds that are counted in, with a beep at each. */
export const COUNT_IN = 3
/** Seconds that are recorded before the in where nothing is counted in, and after the out: handles. */
export const HANDLE = 1

/** When a take rolls, in samples of the reel. */
export interface TakePlan {
  /** From here on it rolls and is recorded. */
  readonly roll: number
  /** What is wanted, `[in, out)`. */
  readonly in: number
  readonly out: number
  /** Here it ends by itself. */
  readonly end: number
  /** Where a beep begins. */
  readonly beeps: readonly number[]
}

/**
 * When a take rolls: early enough to count in, and long enough to have a handle at its end.
 * What would lie before the reel's first frame is left out, beeps too.
 *
 * @param args.in - Samples of the reel, and so are `out` and `reelEnd`
 * @param args.countIn - Whether there are beeps
 */
export function planTake(args: { in: number; out: number; reelEnd: number; countIn: boolean }): TakePlan {
  const lead = (args.countIn ? COUNT_IN : HANDLE) * SAMPLE_RATE
  const roll = Math.max(0, args.in - lead)
  const beeps = Array.from({ length: COUNT_IN }, (_, index) => args.in - (COUNT_IN - index) * SAMPLE_RATE)
  return {
    roll,
    in: args.in,
    out: args.out,
    end: Math.min(args.reelEnd, args.out + HANDLE * SAMPLE_RATE),
    beeps: args.countIn ? beeps.filter((beep) => beep >= roll) : [],
  }
}

/** How far a count-in has come at a sample of the reel, from 0 at its first beep to 1 at the in; null outside of it. */
export function countedIn(plan: TakePlan, sample: number): number | null {
  const from = plan.in - COUNT_IN * SAMPLE_RATE
  return plan.beeps.length === 0 || sample < from || sample >= plan.in
    ? null
    : (sample - from) / (plan.in - from)
}

/**
 * The sample of the reel to which the first sample of a recording was performed. What is played at a moment is heard, played to and
 * recorded a round trip later: out of the loudspeaker and into the input.
 *
 * @param args.first - Frame of the audio clock at which the first sample came in
 * @param args.rolling - The reel's sample `at` was played at the audio clock's `frame`; the reel rolls at its own speed
 * @param args.roundTrip - Samples
 * @returns Below 0 where it began before the reel did
 */
export function placeOfTake(args: {
  first: number
  rolling: { readonly frame: number; readonly at: number }
  roundTrip: number
}): number {
  const { first, rolling, roundTrip } = args
  return Math.round(rolling.at + first - rolling.frame - roundTrip)
}

/**
 * What of a recorded file is wanted: the plan's in and out and the cue's sync as samples of the file, held within it.
 *
 * @param start - The sample of the reel that its first one belongs to, see {@link placeOfTake}
 * @param length - Samples of the file
 * @returns in < out always; where it broke off before the in, all that there is
 */
export function partOfTake(
  { start, length }: { readonly start: number; readonly length: number },
  wanted: { readonly in: number; readonly out: number; readonly sync: number },
): { in: number; out: number; sync: number } {
  const held = (at: number): number => Math.max(0, Math.min(length, at - start))
  const [from, to] = [held(wanted.in), held(wanted.out)]
  const sync = Math.min(held(wanted.sync), Math.max(0, length - 1))
  return to > from ? { in: from, out: to, sync } : { in: 0, out: length, sync }
}

import { z } from 'zod'
import { plainText } from '../reel/text.js'

const samples = z
  .int()
  .min(0)
  .max(2 ** 40)

/** What is known of a take when its first samples come. */
export const takeAboutSchema = z.object({
  /** Made by the page that records. */
  id: z.uuid(),
  reelId: plainText(64).min(1),
  /** The cue that it is for, or null at the gate. */
  cueId: plainText(64).min(1).nullable(),
  /** What its file is called: `FX 004 take 2`. */
  name: plainText(120).min(1),
  /** Which of the cue's takes, from 1 on. */
  number: z.int().min(1).max(9999),
  channels: z.union([z.literal(1), z.literal(2)]),
  /** Sample of the reel that its first sample belongs to; below 0 where it began before the reel did. */
  start: z
    .int()
    .min(-(2 ** 40))
    .max(2 ** 40),
  /** What is wanted of it, and what is to meet the cue's sync (or the gate): samples of the reel. */
  in: samples,
  out: samples,
  sync: samples,
  /** Samples since midnight of the reel's first frame. */
  reelAt: samples,
  /** Through which device. */
  device: plainText(200),
  /** By how many samples its place was corrected, and where that figure is from. */
  roundTrip: z.number().min(0).max(96_000),
  measured: z.boolean(),
})

/** What is said when a take ends. */
export const takeEndSchema = z.object({
  /** Samples of each channel that were recorded; null where nobody knows, and what there is counts. */
  length: samples.nullable(),
  /** What is to be known of it: overs, that it broke off. */
  note: plainText(500),
  /** By how many samples it belongs later than was thought when it began: all that the clocks said is known at its end only. */
  later: z
    .int()
    .min(-(2 ** 40))
    .max(2 ** 40)
    .default(0),
})

/** A take that has not come onto its cue yet. */
export const openTakeSchema = z.object({
  about: takeAboutSchema,
  /** Samples of each channel that are written. */
  length: samples,
  /** Seconds since something was last written. */
  silent: z.number(),
})

/** What is known of a take. */
export type TakeAbout = z.infer<typeof takeAboutSchema>
/** A take's end. */
export type TakeEnd = z.infer<typeof takeEndSchema>
/** A take that has not come onto its cue yet. */
export type OpenTake = z.infer<typeof openTakeSchema>

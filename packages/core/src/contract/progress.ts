import { z } from 'zod'
import { CATEGORIES } from '../reel/categories.js'

/** A question of a reel that nobody has closed. */
export const openQuestionSchema = z.object({
  id: z.string(),
  words: z.string(),
  author: z.string(),
  /** Whom it is for, or empty for everybody. */
  to: z.string(),
  /** When it was asked, ISO 8601. */
  at: z.string(),
  /** Where, from the reel's first frame. */
  frame: z.int(),
  /** Code of its cue, or empty. */
  cue: z.string(),
})

/** A cue as the overview of a reel draws it: its span in frames, and whether it is covered by sounds. */
export const progressCueSchema = z.object({
  category: z.enum(CATEGORIES),
  from: z.int(),
  to: z.int(),
  covered: z.boolean(),
})

/** How far a reel has come. */
export const progressSchema = z.object({
  cues: z.array(progressCueSchema),
  /** How many of them nobody has begun, are covered by sounds, and are approved. */
  open: z.int(),
  covered: z.int(),
  approved: z.int(),
  questions: z.array(openQuestionSchema),
  /** Its picture, and the name of its version; null while it has none. */
  picture: z.object({ id: z.string(), name: z.string() }).nullable(),
})

/** How far a reel has come, and who touched it last. */
export const reelProgressSchema = progressSchema.extend({
  /** When it was changed last, ISO 8601, and by whom. */
  changedAt: z.string(),
  changedBy: z.string(),
})

/** A reel that was thrown away and can be brought back. */
export const thrownReelSchema = z.object({
  id: z.string(),
  show: z.string(),
  name: z.string(),
  by: z.string(),
  /** When it was thrown away, and after when it is gone for good, ISO 8601. */
  at: z.string(),
  until: z.string(),
})

/** An open question. */
export type OpenQuestion = z.infer<typeof openQuestionSchema>
/** A cue of an overview. */
export type ProgressCue = z.infer<typeof progressCueSchema>
/** How far a reel has come. */
export type Progress = z.infer<typeof progressSchema>
/** How far a reel has come, and who touched it last. */
export type ReelProgress = z.infer<typeof reelProgressSchema>
/** A reel that was thrown away. */
export type ThrownReel = z.infer<typeof thrownReelSchema>

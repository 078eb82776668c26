import { z } from 'zod'
import { plainText } from '../reel/text.js'
import { recordSchema } from '../reel/records.js'
import { CATEGORIES } from '../reel/categories.js'

/** What the server heard and saw in a picture. Samples and frames count from the picture's own first frame. */
export const analysisSchema = z.object({
  /** The sound track that was listened to. */
  track: z.int().default(0),
  onsets: z.array(z.object({ at: z.int(), strength: z.number() })),
  /** First frames of shots. */
  cuts: z.array(z.int()),
  /** Change of the picture at each frame, 0 to 255. */
  movement: z.array(z.int()),
  twoPop: z.object({ frame: z.int(), frames: z.int() }).nullable(),
})

const spanSchema = z.object({ from: z.int().min(0).max(10_000_000), to: z.int().min(0).max(10_000_000) })

/** A stretch that has been watched in a pass for a category. */
export const watchSchema = spanSchema.extend({ category: z.enum(CATEGORIES) })

/** All that one person has watched for one category. */
export const watchedSchema = z.object({
  person: z.string(),
  category: z.enum(CATEGORIES),
  spans: z.array(spanSchema),
})

/** A saved, named version of a reel: everything up to the change numbered `seq`. */
export const milestoneSchema = z.object({
  id: z.string(),
  name: z.string(),
  seq: z.int(),
  author: z.string(),
  at: z.string(),
})

/** What makes a milestone of the reel as it stands. */
export const newMilestoneSchema = z.object({ name: plainText(200).trim().min(1) })

/** A reel as it was at a change of its log. */
export const reelAtSchema = z.object({ seq: z.int(), records: z.array(recordSchema) })

/** What was heard and seen in a picture. */
export type Analysis = z.infer<typeof analysisSchema>
/** A watched stretch. */
export type Watch = z.infer<typeof watchSchema>
/** What one person has watched. */
export type Watched = z.infer<typeof watchedSchema>
/** A milestone. */
export type Milestone = z.infer<typeof milestoneSchema>
/** A reel as it was. */
export type ReelAt = z.infer<typeof reelAtSchema>

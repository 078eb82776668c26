import { z } from 'zod'
import { plainText } from '../reel/text.js'
import { recipeSchema } from './recipes.js'
import { MOST_VARIATIONS, variationSchema } from './stacks.js'
import { measuredSchema } from './turnover.js'

/** Where jobs wait for each other: each lane has its own workers, so that hours of listening never hold up a bounce. */
export const JOB_LANES = ['turnover', 'pictures', 'listening'] as const
/** One of the lanes. */
export type JobLane = (typeof JOB_LANES)[number]

const id = plainText(64).min(1)

/** Every kind of long work: in which lane it waits, what it is given, what it leaves. */
export const JOB_KINDS = {
  /** Makes a movie's frames quick to reach, its strip, its guide and what is seen and heard in it. */
  picture: { lane: 'pictures', payload: z.object({ id }), result: z.null() },
  /** Looks through the folder of a shelf and listens to what is new; the result counts what it found. */
  index: {
    lane: 'listening',
    payload: z.object({ shelfId: id }),
    result: z
      .object({
        fresh: z.int(),
        changed: z.int(),
        moved: z.int(),
        same: z.int(),
        gone: z.int(),
        problems: z.int(),
      })
      // Files that are no recordings, by their ending: `.txt`.
      .catchall(z.int()),
  },
  /** Bounces the mix of a reel as a recipe wants it: its highest sample in dBFS, how many had to be held at full scale, its file's name, what was measured. */
  bounce: {
    lane: 'turnover',
    payload: z.object({ reelId: id, recipe: recipeSchema.optional() }),
    result: z.object({
      ...{ peak: z.number(), overs: z.int(), misses: z.int(), name: z.string() },
      measured: measuredSchema,
    }),
  },
  /** Makes everything that a recipe wants of a reel, and keeps it. */
  turnover: {
    lane: 'turnover',
    payload: z.object({ reelId: id, recipe: recipeSchema, name: plainText(200), by: plainText(200) }),
    result: z.object({ turnoverId: z.string(), measured: measuredSchema.nullable() }),
  },
  /** Copies the recordings of a show beside it; those that could not be copied are named with the reason. */
  gather: {
    lane: 'turnover',
    payload: z.object({ showId: id }),
    result: z.object({ gathered: z.int(), left: z.array(z.string()) }),
  },
  /** Writes variations of a stack as recordings: how many were written, were there already, or found nothing; seconds of sound. */
  stacks: {
    lane: 'turnover',
    payload: z.object({
      ...{ reelId: id, planId: id, through: id.nullable(), by: plainText(200) },
      variations: z.array(variationSchema).max(MOST_VARIATIONS),
    }),
    result: z.object({
      ...{ written: z.int(), there: z.int(), empty: z.int(), seconds: z.number(), shelfId: z.string() },
    }),
  },
  /** Copies a turnover into a folder of a disk. */
  deliver: {
    lane: 'turnover',
    payload: z.object({ turnoverId: id, folder: plainText(4000) }),
    result: z.object({ folder: z.string() }),
  },
  /** Opens a package, a ZIP that was uploaded or a folder of a disk: makes its reel, its milestones and a shelf of its recordings. */
  open: {
    lane: 'turnover',
    payload: z.object({ file: plainText(4000), name: plainText(300), by: plainText(200) }),
    result: z.object({
      reelId: z.string(),
      show: z.string(),
      reel: z.string(),
      remarks: z.array(z.string()),
    }),
  },
} as const satisfies Record<string, { lane: JobLane; payload: z.ZodType; result: z.ZodType }>

/** A kind of long work. */
export type JobKind = keyof typeof JOB_KINDS
/** What a kind of work is given. */
export type JobPayload<Kind extends JobKind> = z.infer<(typeof JOB_KINDS)[Kind]['payload']>
/** What a kind of work leaves. */
export type JobResult<Kind extends JobKind> = z.infer<(typeof JOB_KINDS)[Kind]['result']>

/** Says whether a word names a kind of work. */
export const isJobKind = (kind: string): kind is JobKind => Object.hasOwn(JOB_KINDS, kind)

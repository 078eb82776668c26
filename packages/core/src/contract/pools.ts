import { z } from 'zod'
import { CATEGORIES } from '../reel/categories.js'
import { plainText } from '../reel/text.js'

/** Keys on which pools can stand: the ten of the bottom row of letters. */
export const POOL_KEYS = 10

/** How a pool picks: each member once before any again; never the same twice running; one after the other. */
export const PICKS = ['once', 'other', 'order'] as const

/** A recording, or a part of one, in a pool. Places are samples of the recording at 48 kHz. */
export const poolMemberSchema = z.object({
  soundId: plainText(64).min(1),
  name: plainText(400),
  /** `[from, to)`, and the attack in it; null for the whole recording and its own sync point. */
  part: z
    .object({ from: z.int().min(0), sync: z.int().min(0), to: z.int().min(1) })
    .refine(
      ({ from, sync, to }) => from <= sync && sync < to,
      'a part begins before its attack and ends after it',
    )
    .nullable(),
  /** How often it is picked beside the others; 0 leaves it out. */
  weight: z.number().min(0).max(10),
})

const limits = (least: number, most: number) =>
  z
    .tuple([z.number().min(least).max(most), z.number().min(least).max(most)])
    .refine(([low, high]) => low <= high, 'the lower limit is above the upper one')

/** What stands on a key while a reel is performed. It belongs to a show. */
export const poolSchema = z.object({
  id: z.uuid(),
  /** Which key of the row, from the left. */
  key: z
    .int()
    .min(0)
    .max(POOL_KEYS - 1),
  name: plainText(80).trim().min(1),
  category: z.enum(CATEGORIES),
  pick: z.enum(PICKS),
  /** A hit sounds while its key is held, and no longer than its recording; otherwise as a whole. */
  held: z.boolean(),
  /** Decibels on top, picked anew for each hit between the two. */
  gain: limits(-48, 12),
  /** Semitones higher, picked anew for each hit between the two. */
  pitch: limits(-24, 24),
  members: z.array(poolMemberSchema).max(500),
})

/** How a pool picks. */
export type PoolPick = (typeof PICKS)[number]
/** A member of a pool. */
export type PoolMember = z.infer<typeof poolMemberSchema>
/** A pool. */
export type Pool = z.infer<typeof poolSchema>

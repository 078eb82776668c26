import { z } from 'zod'
import { CATEGORIES } from '../reel/categories.js'
import { plainText } from '../reel/text.js'

/** Keys on which pools can stand: the ten of the bottom row of letters. */
export const POOL_KEYS = 10

/** Members of a pool at most. */
export const MOST_MEMBERS = 500

/** How a pool picks: each member once before any again; never the same twice running; one after the other. */
export const PICKS = ['once', 'other', 'order'] as const

/** `[from, to)` of a recording, and the attack in it, in samples of the recording at 48 kHz. */
export const partSchema = z
  .object({ from: z.int().min(0), sync: z.int().min(0), to: z.int().min(1) })
  .refine(
    ({ from, sync, to }) => from <= sync && sync < to,
    'a part begins before its attack and ends after it',
  )

/** A recording, or a part of one, in a pool. */
export const poolMemberSchema = z.object({
  soundId: plainText(64).min(1),
  name: plainText(400),
  /** Null for the whole recording and its own sync point. */
  part: partSchema.nullable(),
  /** How often it is picked beside the others; 0 leaves it out. */
  weight: z.number().min(0).max(10),
})

/** Two numbers, the lower first, between which is picked. */
export const limits = (least: number, most: number) =>
  z
    .tuple([z.number().min(least).max(most), z.number().min(least).max(most)])
    .refine(([low, high]) => low <= high, 'the lower limit is above the upper one')

/** What stands on a key while a reel is performed. It belongs to a show. */
export const poolSchema = z.object({
  id: z.uuid(),
  /** How often it was changed; who changes it says which state that was made from. */
  version: z.int().min(0),
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
  members: z.array(poolMemberSchema).max(MOST_MEMBERS),
  /** Words of a search whose finds join it by themselves; empty for none. */
  live: plainText(400),
})

/** One hit of a take: when its attack is to be heard, and what it plays. It needs its pool no more: pools change. */
export const hitSchema = poolMemberSchema.omit({ weight: true }).extend({
  poolId: z.string(),
  category: z.enum(CATEGORIES),
  /** Decibels. */
  gain: z.number(),
  /** 2 is twice as fast and an octave higher. */
  speed: z.number().min(0.25).max(4),
  /** Sample of the reel at which its attack lies. */
  at: z.number().min(0),
  /** Samples of the reel for which its key was held, where that counts; null for the whole sound. */
  length: z.number().min(0).nullable(),
})

/** What was performed between two stops, in the order of time. */
export const takeSchema = z.object({
  id: z.string(),
  hits: z.array(hitSchema),
  /** It is heard and would be kept. */
  on: z.boolean(),
  /** The speed at which the reel rolled: a hand that is late by so much is late by less of a slow reel. */
  rolled: z.number().positive(),
})

/** How a pool picks. */
export type PoolPick = (typeof PICKS)[number]
/** A member of a pool. */
export type PoolMember = z.infer<typeof poolMemberSchema>
/** A pool. */
export type Pool = z.infer<typeof poolSchema>
/** A hit. */
export type Hit = Readonly<z.infer<typeof hitSchema>>
/** A take. */
export type Take = Omit<z.infer<typeof takeSchema>, 'hits'> & { readonly hits: readonly Hit[] }

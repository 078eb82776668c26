import { z } from 'zod'
import { FRAME_RATE_IDS } from '../time/rates.js'
import { recipeSchema } from './recipes.js'

/** What is asked of a turnover, as far as findings depend on it. */
export const aimsSchema = z.object({
  /** A 2-pop is made when it is bounced. */
  twoPop: z.boolean(),
  /** Highest true peak in dBTP; null where none is asked for. */
  truePeak: z.number().nullable(),
  /** Loudness in LUFS and how far from it is near enough, in LU; null where none is asked for. */
  loudness: z.object({ target: z.number(), tolerance: z.number() }).nullable(),
  /** Seconds of recording wanted before and after each sound. */
  handles: z.number().min(0),
})

/** A recording in use, as it is now. */
export const soundStateSchema = z.object({
  id: z.string(),
  name: z.string(),
  state: z.enum(['here', 'missing', 'changed', 'unreadable']),
  licence: z.string(),
  source: z.string(),
  /** Samples per second of its file. */
  sampleRate: z.int(),
  /** Samples at 48 kHz. */
  length: z.int(),
})

/** What was measured of a mix. */
export const mixStateSchema = z.object({
  /** Number of the log at which it was measured. */
  seq: z.int(),
  /** Integrated loudness, LUFS; null where only stems or tracks were made. */
  loudness: z.number().nullable(),
  /** Highest true peak, dBTP; null like the loudness. */
  truePeak: z.number().nullable(),
  /** Stretches over the true peak that was asked for: samples from the reel's first frame, in what, how high (dBTP). */
  overs: z.array(z.object({ from: z.int(), to: z.int(), what: z.string(), peak: z.number() })),
})

/** What a bounce measured, and of what: it holds for a recipe with the same treatment and the same true peak. */
export const measuredSchema = mixStateSchema.extend({
  treatment: recipeSchema.shape.treatment,
  /** True peak asked for, dBTP, over which places were looked for. */
  limit: z.number().nullable(),
  /** Highest sample that stays when the stems are taken from the mix, dBFS; null where that was not asked or can't be said. */
  residual: z.number().nullable(),
})
/** What a bounce measured, and of what. */
export type Measured = z.infer<typeof measuredSchema>

/** What the document does not know of itself, and findings need. */
export const turnoverFactsSchema = z.object({
  sounds: z.array(soundStateSchema),
  picture: z.object({ id: z.string(), rate: z.enum(FRAME_RATE_IDS), frames: z.int() }).nullable(),
  mix: mixStateSchema.nullable(),
  /** Level of the first and the last sample that is heard of a sound, dBFS, as far as it is known. */
  edges: z.array(z.object({ clipId: z.string(), first: z.number(), last: z.number() })),
  recipe: aimsSchema,
  /** Sounds that were placed before the file of their recording was found to hold something else. */
  altered: z.array(z.string()).optional(),
})

/** What is asked of a turnover. */
export type Aims = z.infer<typeof aimsSchema>
/** A recording in use. */
export type SoundState = z.infer<typeof soundStateSchema>
/** What was measured of a mix. */
export type MixState = z.infer<typeof mixStateSchema>
/** What the document does not know of itself. */
export type TurnoverFacts = z.infer<typeof turnoverFactsSchema>

/** Nothing is asked for but that it is whole. */
export const NO_AIMS: Aims = { twoPop: false, truePeak: null, loudness: null, handles: 0 }

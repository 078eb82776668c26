import { z } from 'zod'
import { CATEGORIES } from '../reel/categories.js'
import { plainText } from '../reel/text.js'
import { limits, partSchema } from './pools.js'

/** Where a layer's sounds come from: what a search finds, a kit, a pool of the show. */
export const LAYER_SOURCES = ['search', 'kit', 'pool'] as const

/** How a layer lies to the moment of its stack: its own sync point on it, its last sample on it, its first one on it. */
export const LAYER_LIES = ['sync', 'ends', 'begins'] as const

/** Layers that a plan may have, and variations that may be asked for at once. */
export const MOST_LAYERS = 24
export const MOST_VARIATIONS = 1000

/** By which rule one layer of a stack is made. Limits are picked between anew for each variation. */
export const stackLayerSchema = z.object({
  /** Stays the same while the plan is changed, so that a seed goes on meaning the same for it. */
  id: plainText(16).regex(/^[a-z0-9]+$/),
  name: plainText(80).trim().min(1),
  category: z.enum(CATEGORIES),
  source: z.object({
    of: z.enum(LAYER_SOURCES),
    /** The words of the search, or the id of the kit or pool. */
    what: plainText(400),
    /** What the kit or pool is called. */
    called: plainText(400),
  }),
  /** Seconds that a sound, or a part of one, may be long. */
  seconds: limits(0, 3600),
  lies: z.enum(LAYER_LIES),
  /** Seconds by which it lies later than that. */
  later: limits(-60, 60),
  /** Decibels. */
  gain: limits(-48, 12),
  /** Semitones; speed follows. */
  pitch: limits(-24, 24),
  /** How many times as fast, its pitch kept, to a hundredth; where that is not 1 throughout, the limits of pitch say nothing. */
  tempo: limits(0.25, 4),
  /** Seconds; null for the fades that every fresh sound has. */
  fadeIn: z.number().min(0).max(60).nullable(),
  fadeOut: z.number().min(0).max(60).nullable(),
  /** Chance that it is played backwards, 0 to 1. */
  reverse: z.number().min(0).max(1),
  /** Chance that it is there at all, 0 to 1. */
  there: z.number().min(0).max(1),
})

/** By which rule stacks are made. It belongs to a show. */
export const stackPlanSchema = z.object({
  id: z.uuid(),
  /** How often it was changed; who changes it says which state that was made from. */
  version: z.int().min(0),
  name: plainText(80).trim().min(1),
  layers: z
    .array(stackLayerSchema)
    .max(MOST_LAYERS)
    .refine((layers) => new Set(layers.map(({ id }) => id)).size === layers.length, 'two layers have one id'),
})

/** Numbers from which chance is drawn. */
export const seedSchema = z.int().min(0).max(0xffff_ffff)

/** One of the stacks that a plan gives: its seed, and the seeds of the layers that were held while the others were shaken. */
export const variationSchema = z.object({
  seed: seedSchema,
  held: z.record(plainText(16), seedSchema),
})

/** A sound that a layer may pick. Lengths in samples at 48 kHz. */
export const layerSoundSchema = z.object({
  id: z.string(),
  name: z.string(),
  length: z.int().min(1),
  sync: z.int().min(0),
  /** Null for the whole recording. */
  part: partSchema.nullable(),
  weight: z.number().min(0),
})

/** What the layers of a plan may pick from, by their ids. */
export const foundLayersSchema = z.record(z.string(), z.array(layerSoundSchema))

/** A layer of a plan. */
export type StackLayer = z.infer<typeof stackLayerSchema>
/** A plan. */
export type StackPlan = z.infer<typeof stackPlanSchema>
/** A variation. */
export type Variation = z.infer<typeof variationSchema>
/** A sound that a layer may pick. */
export type LayerSound = z.infer<typeof layerSoundSchema>
/** What layers may pick from. */
export type FoundLayers = Readonly<Record<string, readonly LayerSound[]>>

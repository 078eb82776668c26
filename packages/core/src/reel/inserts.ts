import { z } from 'zod'
import { plainText } from './text.js'
import { CATEGORIES, type Category } from './categories.js'

/** Rooms that a reverb can set a sound in; see treatment/rooms.ts. */
export const ROOMS = [
  ...(['cabin', 'tiles', 'parlour', 'corridor', 'stairs', 'hall', 'nave', 'valley'] as const),
  ...(['helmet', 'tank'] as const),
] as const
/** One of {@link ROOMS}. */
export type Room = (typeof ROOMS)[number]

/** Places and devices that a sound can be put into; see treatment/places.ts. */
export const PLACES = [
  ...(['telephone', 'intercom', 'handheld', 'tannoy', 'television', 'door'] as const),
  ...(['wall', 'water', 'valley', 'car', 'helmet', 'record'] as const),
] as const
/** One of {@link PLACES}. */
export type PlaceId = (typeof PLACES)[number]

const hertz = z.number().min(20).max(20_000)
const decibels = z.number().min(-24).max(24)
const q = z.number().min(0.1).max(16)

/** What each treatment can be set to, and what it is set to when it is new. */
export const EFFECTS = {
  equaliser: z.object({
    /** Hz; 0 leaves it out. */
    highPass: z.number().min(0).max(20_000),
    lowHz: hertz,
    lowDb: decibels,
    firstHz: hertz,
    firstDb: decibels,
    firstQ: q,
    secondHz: hertz,
    secondDb: decibels,
    secondQ: q,
    highHz: hertz,
    highDb: decibels,
    /** Hz; 0 leaves it out. */
    lowPass: z.number().min(0).max(20_000),
  }),
  compressor: z.object({
    threshold: z.number().min(-60).max(0),
    ratio: z.number().min(1).max(20),
    /** Milliseconds. */
    attack: z.number().min(0.5).max(200),
    release: z.number().min(5).max(2000),
    /** Decibels over which the threshold is rounded. */
    knee: z.number().min(0).max(24),
    /** Decibels added afterwards. */
    makeUp: z.number().min(0).max(24),
  }),
  limiter: z.object({
    /** dBFS that no sample goes beyond. */
    ceiling: z.number().min(-24).max(0),
    release: z.number().min(5).max(2000),
  }),
  reverb: z.object({
    room: z.enum(ROOMS),
    /** Level of the room, and of the sound itself, in dB; -60 and less is none. */
    wet: z.number().min(-60).max(12),
    dry: z.number().min(-60).max(0),
    /** Milliseconds before the room answers. */
    preDelay: z.number().min(0).max(250),
  }),
  delay: z.object({
    /** Milliseconds between repeats. */
    time: z.number().min(1).max(2000),
    /** Part of a repeat that is repeated again. */
    feedback: z.number().min(0).max(0.95),
    wet: z.number().min(-60).max(12),
    /** Repeats lose what lies above, Hz. */
    lowPass: hertz,
  }),
  place: z.object({
    place: z.enum(PLACES),
    /** Of all that the place does, 0 to 1; at 0 every sample stays as it is. */
    amount: z.number().min(0).max(1),
    /** How large its room is, of what it is at first. Rows of before sizes have none. */
    size: z.number().min(0.5).max(2).default(1),
    /** Metres of air on the way. */
    distance: z.number().min(0).max(2000),
    /** How broken the device is, 0 to 1: it is overdriven and hisses. */
    broken: z.number().min(0).max(1),
  }),
} as const

/** A kind of treatment. */
export type Effect = keyof typeof EFFECTS
/** Settings of one kind of treatment. */
export type Settings<E extends Effect = Effect> = z.infer<(typeof EFFECTS)[E]>

const common = {
  kind: z.literal('insert' as const),
  id: plainText(64).min(1),
  /** Where it works: the id of a track, `stem:` and a category, or `whole`. */
  on: plainText(64).min(1),
  /** A fractional key among those at the same place; the lowest comes first. */
  order: plainText(200).min(1),
  bypass: z.boolean(),
}

/** A piece of treatment on a track, on the stem of a category or on the whole. */
export const insertSchema = z.discriminatedUnion('effect', [
  EFFECTS.equaliser.extend({ ...common, effect: z.literal('equaliser') }),
  EFFECTS.compressor.extend({ ...common, effect: z.literal('compressor') }),
  EFFECTS.limiter.extend({ ...common, effect: z.literal('limiter') }),
  EFFECTS.reverb.extend({ ...common, effect: z.literal('reverb') }),
  EFFECTS.delay.extend({ ...common, effect: z.literal('delay') }),
  EFFECTS.place.extend({ ...common, effect: z.literal('place') }),
])

/** A piece of treatment. */
export type Insert = z.infer<typeof insertSchema>
/** A piece of treatment of one kind. */
export type InsertOf<E extends Effect> = Extract<Insert, { effect: E }>

/** The place of treatment of everything. */
export const WHOLE = 'whole'
/** The place of treatment of a category's stem. */
export const stemPlace = (category: Category): string => `stem:${category}`
/** The places of all stems. */
export const STEM_PLACES: readonly string[] = CATEGORIES.map(stemPlace)

/** Names of the kinds of treatment. */
export const EFFECT_NAMES: Readonly<Record<Effect, string>> = {
  equaliser: 'Equaliser',
  compressor: 'Compressor',
  limiter: 'Limiter',
  reverb: 'Room',
  delay: 'Repeats',
  place: 'Place or device',
}

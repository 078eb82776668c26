import { z } from 'zod'
import { plainText } from '../reel/text.js'
import { sidesSchema, SPEEDS } from '../reel/records.js'
import { channelChoiceSchema } from '../sounds/channels.js'
import { FRAME_RATE_IDS } from '../time/rates.js'

/** Orders that results can stand in; `match` is how well the words fit. */
export const SOUND_ORDERS = [
  'match',
  'name',
  'length',
  'loudness',
  'weight',
  'brightness',
  'bite',
  'noisiness',
  'pitch',
  'events',
  'added',
] as const

/** Qualities that are measured from the sound itself, for sorting and steering. */
export const QUALITIES = ['length', 'loudness', 'weight', 'brightness', 'bite', 'noisiness', 'pitch'] as const

/** One of several separate sounds within a recording: `[start, sync, end)` in samples at 48 kHz; its attack begins at `sync`. */
export const soundEventSchema = z.tuple([z.int().min(0), z.int().min(0), z.int().min(0)])

/** Why a result was found: which typed word met which word of which field. */
export const matchSchema = z.object({
  typed: z.string(),
  found: z.string(),
  field: z.enum(['name', 'keywords', 'tags', 'description', 'note', 'category', 'folders']),
  how: z.enum(['typed', 'within', 'related', 'translated', 'respelt']),
})

/** A recording of a shelf. Lengths and the sync point count samples at 48 kHz, whatever the file's own rate. */
export const soundSchema = z.object({
  id: z.string(),
  shelfId: z.string(),
  shelf: z.string(),
  path: z.string(),
  name: z.string(),
  description: z.string(),
  keywords: z.string(),
  category: z.string(),
  licence: z.string(),
  source: z.string(),
  tags: z.string(),
  note: z.string(),
  /** 0 (not rated) to 5. */
  rating: z.int(),
  channels: z.int(),
  sampleRate: z.int(),
  bits: z.int().nullable(),
  codec: z.string(),
  length: z.int(),
  sync: z.int(),
  /** False until the recording has been listened to: its qualities are then unknown and its length is what the file says. */
  measured: z.boolean(),
  /** Highest sample in dBFS. */
  peak: z.number(),
  /** Integrated loudness in LUFS, -70 for silence. */
  loudness: z.number(),
  /** True peak in dBTP. */
  truePeak: z.number(),
  /** How much of the power lies low, 0 to 100. */
  weight: z.number(),
  /** Where the middle of the spectrum lies, in Hz. */
  brightness: z.number(),
  /** How suddenly it begins, 0 to 100. */
  bite: z.number(),
  /** From a tone (0) to noise (100). */
  noisiness: z.number(),
  /** Strongest pitch in Hz; 0 where there is none. */
  pitch: z.number(),
  /** Separate sounds in it. */
  events: z.int(),
  /** Its file is not there at present. */
  missing: z.boolean(),
})

/** A search result. */
export const foundSoundSchema = soundSchema.extend({ why: z.array(matchSchema) })

/** A page of search results. */
export const soundPageSchema = z.object({
  sounds: z.array(foundSoundSchema),
  /** How many there are; null where too many match to count while typing. */
  total: z.int().nullable(),
  next: z.string().nullable(),
  /** Words that nothing begins with, and what was searched instead: nothing where none is spelt like it. */
  respelt: z.array(z.object({ typed: z.string(), words: z.array(z.string()) })),
  /** Filters that were not understood. */
  problems: z.array(z.string()),
  /** When nothing is found: what would find something, with how many. */
  instead: z.array(z.object({ query: z.string(), total: z.int() })),
})

const counts = z.record(z.string(), z.int())

/** How many results have each value of a facet, shelves by id, lengths by their class; `about` when counted on a sample. */
export const soundFacetsSchema = z.object({
  total: z.int(),
  about: z.boolean(),
  fields: z.object({
    shelf: counts,
    category: counts,
    licence: counts,
    channels: counts,
    rate: counts,
    length: counts,
    rating: counts,
  }),
})

/** An order of results. */
export type SoundOrder = (typeof SOUND_ORDERS)[number]
/** A measured quality. */
export type Quality = (typeof QUALITIES)[number]
/** One event of a recording. */
export type SoundEvent = z.infer<typeof soundEventSchema>
/** Why a result was found. */
export type Match = z.infer<typeof matchSchema>
/** A recording. */
export type Sound = z.infer<typeof soundSchema>
/** A search result. */
export type FoundSound = z.infer<typeof foundSoundSchema>
/** A page of results. */
export type SoundPage = z.infer<typeof soundPageSchema>
/** Counts by facet. */
export type SoundFacets = z.infer<typeof soundFacetsSchema>

/** The events of a recording; `byHand` once somebody has set them. */
export const eventsSchema = z.object({ events: z.array(soundEventSchema).max(20_000), byHand: z.boolean() })

/**
 * How a sound is prepared before it is placed. Nothing of it touches the file: it is carried into the clip.
 * Positions are samples of the recording as it is in the file, at 48 kHz; `null` leaves a thing as it is.
 */
export const preparationSchema = z.object({
  in: z.int().min(0).nullable(),
  out: z.int().min(1).nullable(),
  sync: z.int().min(0).nullable(),
  /** Lengths of the fades in samples as they are heard. */
  fadeIn: z.int().min(0).nullable(),
  fadeOut: z.int().min(0).nullable(),
  gain: z.number().min(-96).max(24),
  /** 2 is twice as fast. */
  speed: z.number().min(SPEEDS.slowest).max(SPEEDS.fastest),
  keepPitch: z.boolean(),
  reverse: z.boolean(),
  sides: sidesSchema,
  /** Which channels are heard; all when it was kept before there was a choice. */
  channels: channelChoiceSchema.default(''),
})

/** What a person may write of sounds, of many at once. */
export const soundEditSchema = z.object({
  licence: plainText(400).optional(),
  source: plainText(400).optional(),
  category: plainText(200).optional(),
  tags: plainText(2000).optional(),
  note: plainText(4000).optional(),
  rating: z.int().min(0).max(5).optional(),
})

/** A person's own group of recordings. */
export const kitSchema = z.object({
  id: z.string(),
  name: z.string(),
  owner: z.string(),
  shared: z.boolean(),
  parentId: z.string().nullable(),
  sounds: z.int(),
})

/** What can be changed of a kit. */
export const kitEditSchema = z.object({
  name: plainText(200).trim().min(1).optional(),
  shared: z.boolean().optional(),
  parentId: z.uuid().nullable().optional(),
})

/** A search made before; `ofCue` when it was made for the cue that was asked for. */
export const pastSearchSchema = z.object({ query: z.string(), ofCue: z.boolean() })

/** A place where a sound is used. `start` counts samples from the reel's first frame. */
export const soundUseSchema = z.object({
  reelId: z.string(),
  show: z.string(),
  reel: z.string(),
  rate: z.enum(FRAME_RATE_IDS),
  firstFrame: z.int(),
  start: z.number(),
  cue: z.string(),
})

/** A folder of recordings that is indexed, with what the last run found. */
export const shelfSchema = z.object({
  id: z.string(),
  name: z.string(),
  root: z.string(),
  sounds: z.int(),
  problems: z.array(z.object({ path: z.string(), reason: z.string() })),
  jobId: z.string().nullable(),
  owner: z.string(),
  shared: z.boolean(),
  /** What holds for sounds whose files don't say. */
  licence: z.string(),
  source: z.string(),
  /** Its folder was not there at the last look. */
  away: z.boolean(),
  counts: z.record(z.string(), z.int()).nullable(),
  /** What happens in its folders is noticed at once. */
  watched: z.boolean(),
})

/** What can be changed of a shelf. */
export const shelfEditSchema = z.object({
  name: plainText(200).trim().min(1).optional(),
  licence: plainText(400).optional(),
  source: plainText(400).optional(),
  shared: z.boolean().optional(),
})

/** A folder inside the allowed roots, for choosing one; the list of roots when `path` is empty. */
export const folderSchema = z.object({
  path: z.string(),
  parent: z.string().nullable(),
  folders: z.array(z.object({ name: z.string(), path: z.string() })),
})

/** Folders that were let be read while the server runs, and whether who asks may change them. */
export const rootsSchema = z.object({ own: z.array(z.string()), mayChange: z.boolean() })

/** Preparation of a sound. */
export type Preparation = z.infer<typeof preparationSchema>
/** What a person writes of sounds. */
export type SoundEdit = z.infer<typeof soundEditSchema>
/** A kit. */
export type Kit = z.infer<typeof kitSchema>
/** A past search. */
export type PastSearch = z.infer<typeof pastSearchSchema>
/** A place of use. */
export type SoundUse = z.infer<typeof soundUseSchema>
/** A shelf. */
export type Shelf = z.infer<typeof shelfSchema>
/** What can be changed of a shelf. */
export type ShelfEdit = z.infer<typeof shelfEditSchema>
/** What {@link rootsSchema} says. */
export type Roots = z.infer<typeof rootsSchema>
/** A folder that can be chosen. */
export type Folder = z.infer<typeof folderSchema>

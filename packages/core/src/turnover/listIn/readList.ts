import { z } from 'zod'
import { CATEGORIES } from '../../reel/categories.js'
import { fadeShapeSchema, movementSchema, ownTextsSchema, sidesSchema, STILL } from '../../reel/records.js'
import { channelChoiceSchema } from '../../sounds/channels.js'

/** A placed sound as a list of somebody else's tells of it. Samples are at 48 kHz. */
export const readClipSchema = z.object({
  /** Number of its track, from 0. */
  track: z.int(),
  name: z.string(),
  /** Path or name of its file, as the list has it. */
  file: z.string(),
  /** SHA-256, or empty. */
  sha256: z.string(),
  /** Length of its file in samples; null where the list says nothing. */
  fileLength: z.int().nullable(),
  /** From the beginning of the list's programme. */
  start: z.int(),
  length: z.int(),
  /** Lowest sample of the file that is heard. */
  offset: z.int(),
  /** The offset counts from midnight, as the file's own timecode does, and not from its first sample. */
  clock: z.boolean(),
  /** Sample of the file that is its sync point; null where the list says nothing. */
  sync: z.int().nullable(),
  /** Decibels. */
  gain: z.number(),
  fadeIn: z.int(),
  fadeOut: z.int(),
  fadeInShape: fadeShapeSchema,
  fadeOutShape: fadeShapeSchema,
  speed: z.number(),
  keepPitch: z.boolean(),
  reverse: z.boolean(),
  sides: sidesSchema,
  channels: channelChoiceSchema,
  mute: z.boolean(),
  ...movementSchema.shape,
  ...ownTextsSchema.shape,
})

/** A track of a list; what it does not say stands as a new track has it. */
export const readTrackSchema = z.object({
  name: z.string(),
  category: z.enum(CATEGORIES).nullable(),
  level: z.number(),
  pan: z.number(),
  mute: z.boolean(),
})

/** A marker of a list: samples from the beginning of its programme. */
export const readMarkerSchema = z.object({ at: z.int(), length: z.int(), words: z.string() })

/** What a list holds, and what of it could not be taken over, in sentences. */
export const readListSchema = z.object({
  title: z.string(),
  tracks: z.array(readTrackSchema),
  clips: z.array(readClipSchema),
  markers: z.array(readMarkerSchema),
  /** Timecode of its beginning in seconds; null where it says nothing. */
  begins: z.number().nullable(),
  left: z.array(z.string()),
})

/** A placed sound of a list. */
export type ReadClip = z.infer<typeof readClipSchema>
/** A track of a list. */
export type ReadTrack = z.infer<typeof readTrackSchema>
/** A marker of a list. */
export type ReadMarker = z.infer<typeof readMarkerSchema>
/** What a list holds. */
export type ReadList = z.infer<typeof readListSchema>

/** What a clip is when a list says nothing else of it. */
export const PLAIN_CLIP: Omit<ReadClip, 'track' | 'name' | 'file' | 'start' | 'length' | 'offset'> = {
  ...{ sha256: '', fileLength: null, clock: false, sync: null },
  ...{ gain: 0, fadeIn: 0, fadeOut: 0, fadeInShape: 'linear', fadeOutShape: 'linear' },
  ...{ speed: 1, keepPitch: false, reverse: false, sides: 'kept', channels: '', mute: false },
  ...STILL,
  ...{ scratch: '', treatment: '' },
}

/** A track of which only the name is known. */
export const plainTrack = (name: string): ReadTrack => ({
  name,
  category: null,
  level: 0,
  pan: 0,
  mute: false,
})

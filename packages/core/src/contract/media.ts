import { z } from 'zod'
import { FRAME_RATE_IDS } from '../time/rates.js'

/** Samples of one chunk of decoded sound as it is served; a whole number of mixer blocks. */
export const PCM_CHUNK = 65_536

/** Frames on one sheet of the thumbnail strip: ten across, ten down. */
export const STRIP_SHEET = 100
/** Size of one thumbnail in pixels. */
export const STRIP_WIDTH = 96
/** Size of one thumbnail in pixels. */
export const STRIP_HEIGHT = 54

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
  channels: z.int(),
  sampleRate: z.int(),
  bits: z.int().nullable(),
  codec: z.string(),
  length: z.int(),
  sync: z.int(),
  /** Highest sample in dBFS. */
  peak: z.number(),
})

/** A page of search results. */
export const soundPageSchema = z.object({
  sounds: z.array(soundSchema),
  total: z.int(),
  next: z.string().nullable(),
  /** Set when nothing matched and the nearest names are shown instead. */
  nearest: z.boolean(),
})

/** A folder of recordings that is indexed, with what the last run found. */
export const shelfSchema = z.object({
  id: z.string(),
  name: z.string(),
  root: z.string(),
  sounds: z.int(),
  problems: z.array(z.object({ path: z.string(), reason: z.string() })),
  jobId: z.string().nullable(),
})

/** A movie and what was made from it. Frames are those of the movie, at its own rate. */
export const pictureSchema = z.object({
  id: z.string(),
  name: z.string(),
  rate: z.enum(FRAME_RATE_IDS),
  frames: z.int(),
  width: z.int(),
  height: z.int(),
  codec: z.string(),
  state: z.enum(['waiting', 'ready', 'failed']),
  message: z.string(),
  /** Length of the guide in samples, 0 when the movie has no sound. */
  guide: z.int(),
  jobId: z.string().nullable(),
})

/** Long work of the server as a person sees it. */
export const jobSchema = z.object({
  id: z.string(),
  kind: z.string(),
  title: z.string(),
  state: z.enum(['waiting', 'running', 'done', 'failed', 'cancelled']),
  /** 0 to 1. */
  progress: z.number(),
  message: z.string(),
  result: z.record(z.string(), z.unknown()).nullable(),
})

/** Every refusal of the server: a code, and a sentence that says what, where and what to do. */
export const problemSchema = z.object({ code: z.string(), message: z.string(), details: z.unknown().optional() })

/** A recording. */
export type Sound = z.infer<typeof soundSchema>
/** A page of results. */
export type SoundPage = z.infer<typeof soundPageSchema>
/** A shelf. */
export type Shelf = z.infer<typeof shelfSchema>
/** A movie. */
export type Picture = z.infer<typeof pictureSchema>
/** Long work. */
export type Job = z.infer<typeof jobSchema>

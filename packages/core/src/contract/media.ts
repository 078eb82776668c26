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
  state: z.enum(['waiting', 'running', 'paused', 'done', 'failed', 'cancelled']),
  /** 0 to 1. */
  progress: z.number(),
  message: z.string(),
  result: z.record(z.string(), z.unknown()).nullable(),
})

/** Every refusal of the server: a code, and a sentence that says what, where and what to do. */
export const problemSchema = z.object({
  code: z.string(),
  message: z.string(),
  details: z.unknown().optional(),
})

/** A movie. */
export type Picture = z.infer<typeof pictureSchema>
/** Long work. */
export type Job = z.infer<typeof jobSchema>

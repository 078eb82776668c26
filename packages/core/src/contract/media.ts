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

/** A sound track of a movie. */
export const guideTrackSchema = z.object({
  /** As far as the file says it; may be empty. */
  name: z.string(),
  channels: z.union([z.literal(1), z.literal(2)]),
  /** Samples from the picture's first frame on; 0 where there is nothing to hear. */
  length: z.int(),
  silent: z.boolean(),
  /** Why it can't be heard; empty where it can. */
  problem: z.string(),
})

/** Which sound tracks of a movie are heard as the guide, and which one is drawn and listened to for onsets. */
export const guideChoiceSchema = z.object({
  heard: z.array(z.int().min(0)).max(64),
  drawn: z.int().min(0),
})

/** A movie and what was made from it. Frames are those of the movie, at its own rate. */
export const pictureSchema = z.object({
  id: z.string(),
  name: z.string(),
  rate: z.enum(FRAME_RATE_IDS),
  frames: z.int(),
  /** How many of them, from the first, can be shown: all when it is ready. */
  made: z.int(),
  width: z.int(),
  height: z.int(),
  codec: z.string(),
  state: z.enum(['waiting', 'ready', 'failed']),
  message: z.string(),
  /** Timecode of its first frame, where its file has one. */
  start: z.string().nullable(),
  /** Its sound tracks, each a guide of its own. */
  tracks: z.array(guideTrackSchema),
  ...guideChoiceSchema.shape,
  jobId: z.string().nullable(),
})

/** How far a movie that is being brought in has been looked through, 0 to 1; null when that has not begun or is over. */
export const lookingSchema = z.object({ part: z.number().min(0).max(1).nullable() })

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

/** Media id of a sound track of a movie. @param track - Its number, from 0 */
export const guideMedia = (pictureId: string, track: number): string =>
  `guide-${pictureId}${track === 0 ? '' : `+${track}`}`

/** The picture and the number of the sound track that a media id of a guide means; null for any other id. */
export function partsOfGuide(mediaId: string): { pictureId: string; track: number } | null {
  const parts = /^guide-([\w-]+?)(?:\+(\d{1,3}))?$/.exec(mediaId)
  return parts ? { pictureId: parts[1] as string, track: Number(parts[2] ?? 0) } : null
}

/** How far a movie has been looked through. */
export type Looking = z.infer<typeof lookingSchema>
/** A sound track of a movie. */
export type GuideTrack = z.infer<typeof guideTrackSchema>
/** Which tracks are heard and drawn. */
export type GuideChoice = z.infer<typeof guideChoiceSchema>
/** A movie. */
export type Picture = z.infer<typeof pictureSchema>
/** Long work. */
export type Job = z.infer<typeof jobSchema>

import { z } from 'zod'
import { plainText } from '../reel/text.js'
import { recordSchema, reelSchema } from '../reel/records.js'

/** A change as it crosses the wire. */
export const changeSchema = z.object({
  label: plainText(500).min(1),
  added: z.array(recordSchema).max(20_000),
  updated: z.array(z.tuple([recordSchema, recordSchema])).max(20_000),
  removed: z.array(recordSchema).max(20_000),
})

/** The highest number that a change of a reel's log can have: as large as its column takes. */
export const LAST_NUMBER = 2_147_483_647
const number = z.int().min(1).max(LAST_NUMBER)

/** What a client sends for each act. `changeId` makes sending twice harmless; `base` is the last number it has seen. */
export const commitSchema = z.object({
  changeId: z.uuid(),
  base: z.int().min(0).max(LAST_NUMBER),
  role: z.enum(['do', 'undo', 'redo']),
  target: number.nullable(),
  change: changeSchema,
})

/** A change as the log keeps it. */
export const loggedChangeSchema = commitSchema.omit({ base: true }).extend({
  seq: number,
  author: z.string(),
  at: z.string(),
})

/** A line of the log without the change itself. */
export const logEntrySchema = z.object({
  seq: z.int(),
  author: z.string(),
  at: z.string(),
  role: z.enum(['do', 'undo', 'redo']),
  target: z.int().nullable(),
  label: z.string(),
})

/** The answer to a commit: its number, and what others did since `base`. */
export const committedSchema = z.object({ seq: z.int(), missed: z.array(loggedChangeSchema) })

/** A reel when it is opened: all records, the log's headlines, who you are. */
export const reelStateSchema = z.object({
  seq: z.int(),
  me: z.string(),
  records: z.array(recordSchema),
  log: z.array(logEntrySchema),
})

/** A reel in the list of shows. */
export const reelSummarySchema = z.object({
  id: z.string(),
  showId: z.string(),
  reel: reelSchema,
  seq: z.int(),
  cues: z.int(),
  clips: z.int(),
})

/** A show with its reels. */
export const showSchema = z.object({
  id: z.string(),
  name: z.string(),
  company: z.string(),
  reels: z.array(reelSummarySchema),
})

/** What creates a reel; without a `showId` a new show is made. */
export const newReelSchema = z.object({
  showId: z.string().nullable(),
  company: plainText(200).default(''),
  showName: plainText(200).min(1),
  name: plainText(200).min(1),
  rate: reelSchema.shape.rate,
  firstTimecode: plainText(20).min(1),
  lengthSeconds: z.number().min(1).max(86_400),
})

/** What a show is called. */
export const showEditSchema = z.object({
  name: plainText(200).trim().min(1),
  company: plainText(200),
})
/** What a reel is called. */
export const reelEditSchema = z.object({ name: plainText(200).trim().min(1) })

/** A commit body. */
export type Commit = z.infer<typeof commitSchema>
/** A logged change. */
export type LoggedChange = z.infer<typeof loggedChangeSchema>
/** The answer to a commit. */
export type Committed = z.infer<typeof committedSchema>
/** An opened reel. */
export type ReelState = z.infer<typeof reelStateSchema>
/** A show with its reels. */
export type Show = z.infer<typeof showSchema>
/** A reel in a list. */
export type ReelSummary = z.infer<typeof reelSummarySchema>
/** What creates a reel. */
export type NewReel = z.infer<typeof newReelSchema>
/** A line of the log without the change itself. */
export type LogLine = z.infer<typeof logEntrySchema>

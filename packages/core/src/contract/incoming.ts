import { z } from 'zod'
import { readListSchema } from '../turnover/listIn/readList.js'

/** A recording that may be a file of a list. Lengths and times count samples at 48 kHz. */
export const listedSoundSchema = z.object({
  id: z.string(),
  name: z.string(),
  shelf: z.string(),
  path: z.string(),
  length: z.int(),
  sync: z.int(),
  channels: z.int(),
  /** Samples since midnight of its first; 0 where its file says nothing. */
  timeReference: z.int(),
})

/** What was found for a file of a list. */
export const mediaMatchSchema = z.object({
  media: z.object({
    ...{ key: z.string(), file: z.string(), sha256: z.string() },
    ...{ fileLength: z.int().nullable(), uses: z.int() },
  }),
  id: z.string().nullable(),
  by: z.enum(['checksum', 'path', 'name']).nullable(),
  differs: z.boolean(),
  choices: z.array(z.string()),
})

/** A list of placed sounds that came in, and what of this machine's recordings it may play. */
export const incomingListSchema = z.object({
  list: readListSchema,
  matches: z.array(mediaMatchSchema),
  sounds: z.array(listedSoundSchema),
})

/** A file read as a sheet of cues, as a list of placed sounds, or as both; one that is no sheet has no rows. */
export const incomingSheetSchema = z.object({
  name: z.string(),
  /** Its lines, those of the head among them. */
  rows: z.array(z.array(z.string())),
  lines: z.array(z.int()).optional(),
  problems: z.array(z.object({ line: z.int(), severity: z.enum(['error', 'warning']), message: z.string() })),
  /** The sheets of a workbook, and which of them this is; empty for other files. */
  sheets: z.array(z.string()),
  sheet: z.string(),
  placed: incomingListSchema.nullable(),
})

/** A file that came in. */
export type IncomingSheet = z.infer<typeof incomingSheetSchema>
/** A list of placed sounds that came in. */
export type IncomingList = z.infer<typeof incomingListSchema>
/** A recording that a list may play, and where it is. */
export type FoundSoundFile = z.infer<typeof listedSoundSchema>

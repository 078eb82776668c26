import { z } from 'zod'

/** Where the recordings of a show lie: a shelf, how many sounds of it are placed in any reel, and their bytes. */
export const recordingsInUseSchema = z.array(
  z.object({
    /** Null where no shelf knows them any more. */
    shelfId: z.string().nullable(),
    shelf: z.string(),
    sounds: z.int(),
    bytes: z.number(),
    /** Sounds whose file was not there at the last look. */
    missing: z.int(),
    /** It is the shelf of what was gathered for this show. */
    gathered: z.boolean(),
  }),
)

/** Where the recordings of a show lie. */
export type RecordingsInUse = z.infer<typeof recordingsInUseSchema>

import { writeFile } from 'node:fs/promises'
import path from 'node:path'
import { documentOf, packRecords, recordSchema, reelOf } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { z } from 'zod'
import { listMilestones, reelAt } from '../../reels/milestones.js'
import type { Stand } from '../../reels/reelStore.js'
import type { Written } from './makeTurnover.js'
import type { PackedSounds } from './packSounds.js'

const standSchema = z.object({
  /** Name of a milestone, or empty for the reel as it left. */
  name: z.string(),
  author: z.string(),
  /** When it was made, ISO 8601. */
  at: z.string(),
  records: z.array(recordSchema),
})

/** A reel in a package: as it stood at each milestone, the first first, and as it left. */
export const packedReelSchema = z.object({ stands: z.array(standSchema).min(1) })

/** Where the reel lies in a package. */
export const REEL_PATH = 'reel/reel.json'

/**
 * Writes a reel as a package holds it. Sounds that only a milestone has are not in the package, nor are they in the
 * milestone there.
 */
export async function packReel(
  db: DataSource,
  { doc, seq, author, changedAt }: Stand,
  { parts }: PackedSounds,
  folder: string,
): Promise<Written[]> {
  const reelId = reelOf(doc).id
  const stands: z.infer<typeof standSchema>[] = []
  for (const milestone of (await listMilestones(db, reelId)).reverse()) {
    if (milestone.seq > seq) continue
    const { records } = await reelAt(db, reelId, milestone.seq)
    const { name, author: by, at } = milestone
    stands.push({ name, author: by, at, records: packRecords(documentOf(records), parts) })
  }
  stands.push({ name: '', author, at: changedAt.toISOString(), records: packRecords(doc, parts) })
  await writeFile(path.join(folder, REEL_PATH), JSON.stringify(packedReelSchema.parse({ stands })))
  return [{ path: REEL_PATH, kind: 'reel', title: 'The reel' }]
}

import { rename } from 'node:fs/promises'
import path from 'node:path'
import { SHIPPED_RECIPES, type JobResult, type Recipe } from '@yodel/core'
import type { JobContext } from '../../jobs/JobQueue.js'
import type { MediaStore } from '../../media/MediaStore.js'
import { loadStand } from '../../reels/reelStore.js'
import { makeAudio, type AudioDeps } from './makeAudio.js'

/** Where a finished bounce lies. */
export async function bounceFile(media: MediaStore, jobId: string): Promise<string> {
  return path.join(await media.folder('bounces'), `${jobId}.wav`)
}

/** How a mix is bounced that no recipe was named for: as it is heard. */
const AS_HEARD = SHIPPED_RECIPES.find(({ id }) => id === 'review') as Recipe

/**
 * Bounces the stereo mix of a reel: 48 kHz, 24 bit, Broadcast WAV whose TimeReference is that of its first sample.
 * The file appears only when it is whole.
 */
export async function bounceReel(
  deps: AudioDeps,
  { reelId, recipe = AS_HEARD }: { reelId: string; recipe?: Recipe | undefined },
  context: JobContext,
): Promise<JobResult<'bounce'>> {
  const stand = await loadStand(deps.db, reelId)
  const target = await bounceFile(deps.media, context.id)
  const only = { ...recipe, mix: true, stems: false, tracks: false }
  const { files, measured } = await makeAudio(deps, stand, only, context, () => `${target}.new`)
  const [{ name, measures }] = files as [(typeof files)[number]]
  await rename(`${target}.new`, target)
  const { peak, overs } = measures
  return { ...{ peak, overs, misses: 0, name: `${name}.wav` }, measured }
}

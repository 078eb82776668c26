import { rename, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { MessageChannel } from 'node:worker_threads'
import {
  frames,
  nameByRule,
  frameToSample,
  partsOfMedia,
  planReel,
  rateOf,
  reelOf,
  type JobResult,
} from '@yodel/core'
import type { Piscina } from 'piscina'
import type { DataSource } from 'typeorm'
import { explainDisk } from '../errors.js'
import type { JobContext } from '../jobs/JobQueue.js'
import { sourceOf } from '../media/findSource.js'
import type { MediaStore } from '../media/MediaStore.js'
import { loadDocument } from '../reels/reelStore.js'
import { soundPlaces } from '../sounds/soundRows.js'
import type { BounceOrder, BounceReport } from './bounceWorker.js'

/** Where a finished bounce lies. */
export async function bounceFile(media: MediaStore, jobId: string): Promise<string> {
  return path.join(await media.folder('bounces'), `${jobId}.wav`)
}

/**
 * Bounces the stereo mix of a reel: 48 kHz, 24 bit, Broadcast WAV whose TimeReference is the reel's first frame.
 * The file appears only when it is whole.
 */
export async function bounceReel(
  deps: { db: DataSource; media: MediaStore; pool: Piscina<BounceOrder, BounceReport>; clock: () => Date },
  reelId: string,
  context: JobContext,
): Promise<JobResult<'bounce'>> {
  const doc = await loadDocument(deps.db, reelId)
  const reel = reelOf(doc)
  const rate = rateOf(doc)
  const plan = planReel(doc)
  const media: Record<string, { file: string; channels: 1 | 2 }> = {}
  const ids = [...new Set(plan.strips.flatMap(({ voices }) => voices.map((voice) => voice.mediaId)))]
  const places = new Map(
    (
      await soundPlaces(
        deps.db,
        ids.map((id) => partsOfMedia(id).soundId),
      )
    ).map((place) => [place.id, place]),
  )
  for (const [index, id] of ids.entries()) {
    context.signal.throwIfAborted()
    context.progress((0.5 * index) / ids.length, 'Reading the sounds')
    const { soundId, stretch } = partsOfMedia(id)
    const place = places.get(soundId)
    if (!place)
      throw new Error(
        `A placed sound (${id}) is on no shelf any more; delete or replace it, then bounce again.`,
      )
    const pcm = await deps.media.pcm(sourceOf(place, stretch))
    media[id] = { file: pcm.file, channels: pcm.channels }
  }
  const now = deps.clock().toISOString()
  const target = await bounceFile(deps.media, context.id)
  const order: BounceOrder = {
    plan,
    media,
    from: 0,
    to: frameToSample(frames(reel.length), rate),
    out: `${target}.new`,
    bext: {
      description: `${reel.show}, ${reel.name}, stereo mix`,
      originator: 'Yodel',
      originatorReference: context.id.slice(0, 32),
      date: now.slice(0, 10),
      time: now.slice(11, 19),
      timeReference: frameToSample(frames(reel.firstFrame), rate),
      codingHistory: 'A=PCM,F=48000,W=24,M=stereo,T=Yodel\r\n',
    },
  }
  try {
    await writeFile(order.out, '')
    const { port1, port2 } = new MessageChannel()
    port1.on('message', (part: number) => context.progress(0.5 + part / 2, 'Mixing'))
    const report = await deps.pool
      .run({ ...order, port: port2 }, { transferList: [port2], signal: context.signal })
      .finally(() => port1.close())
    if (report.misses > 0)
      throw new Error(
        `${report.misses} pieces of sound were shorter than the reel says; index their shelves again.`,
      )
    await rename(order.out, target)
    return { ...report, name: `${nameByRule(reel, 'mix', deps.clock().toISOString().slice(0, 10))}.wav` }
  } catch (error) {
    await rm(order.out, { force: true })
    throw explainDisk(error, 'the mix')
  }
}

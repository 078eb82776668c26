import { randomUUID } from 'node:crypto'
import { rm } from 'node:fs/promises'
import path from 'node:path'
import {
  SAMPLE_RATE,
  fileName,
  planOfStack,
  samplesIn,
  shakeStack,
  soundIxml,
  stackSpan,
  throughTrack,
  variationText,
  type JobPayload,
  type JobResult,
  type PlanStrip,
  type ShakenLayer,
  type Sound,
  type StackPlan,
  type Variation,
} from '@yodel/core'
import type { Piscina } from 'piscina'
import type { DataSource } from 'typeorm'
import { AppError, explainDisk } from '../errors.js'
import type { JobContext } from '../jobs/JobQueue.js'
import { giveName, MADE, makeMadeShelf } from '../made/madeShelf.js'
import { decodeMedia } from '../media/decodeMedia.js'
import type { MediaStore } from '../media/MediaStore.js'
import { loadDocument } from '../reels/reelStore.js'
import { listKept } from '../shows/keptWithShow.js'
import { soundsByIds } from '../sounds/soundRows.js'
import { findLayers } from './findLayers.js'
import type { StackOrder, StackReport } from './stackWorker.js'

/** What stacks are written with. */
export interface StackDeps {
  readonly db: DataSource
  readonly media: MediaStore
  /** Threads that render stacks. */
  readonly stackers: Piscina<StackOrder, StackReport>
  readonly clock: () => Date
}

const AT_ONCE = 2
/** A stack is rendered in memory as a whole. */
const LONGEST = samplesIn(600)

/** A plan of the show of a reel. @throws AppError `NOT_FOUND`, `REEL_MISSING` */
export async function planOf(db: DataSource, reelId: string, planId: string): Promise<StackPlan> {
  const plan = (await listKept<StackPlan>(db, 'stack_plan', reelId)).find(({ id }) => id === planId)
  if (!plan) throw new AppError('NOT_FOUND', 'This plan is gone; somebody may have taken it away.')
  return plan
}

/**
 * Writes variations of a plan as recordings on the shelf of what was made: with their names, the keywords and licences of
 * their parts, through the treatment of a track where that is wanted. The same variation of the same sounds is the same file
 * to the last bit; what is there already is not written twice.
 *
 * @throws AppError `NOT_FOUND` when the plan or the track is gone, `BAD_REQUEST` when a stack is longer than ten minutes, `DISK_FULL`
 */
export async function writeStacks(
  deps: StackDeps,
  { reelId, planId, variations, through, by }: JobPayload<'stacks'>,
  context: JobContext,
): Promise<JobResult<'stacks'>> {
  const { db, clock } = deps
  const plan = await planOf(db, reelId, planId)
  const strip = await stripOf(db, reelId, through)
  const made = await makeMadeShelf(deps, reelId)
  const place = { root: made.root, folder: path.join(MADE.variations, fileName(plan.name)) }
  const found = await findLayers({ db, reelId, person: by, now: clock(), made: made.id }, plan)
  const result = { written: 0, there: 0, empty: 0, seconds: 0, shelfId: made.id }
  let next = 0
  const work = async (): Promise<void> => {
    for (let at = next++; at < variations.length; at = next++) {
      context.signal.throwIfAborted()
      const variation = variations[at] as Variation
      const layers = shakeStack(plan, variation, found)
      context.progress(at / variations.length, `Writing ${at + 1} of ${variations.length}`)
      if (layers.length === 0) result.empty++
      else {
        const name = `${plan.name} ${variationText(variation)}`
        const wrote = await writeOne(deps, { name, layers, strip, place }, context.signal)
        result[wrote.fresh ? 'written' : 'there']++
        result.seconds += wrote.seconds
      }
    }
  }
  const stopped = (error: unknown): never => {
    // Whoever works beside it takes nothing new.
    next = variations.length
    throw error
  }
  const ends = await Promise.allSettled(Array.from({ length: AT_ONCE }, () => work().catch(stopped)))
  const failed = ends.find((end) => end.status === 'rejected')
  if (failed) throw explainDisk(failed.reason, 'what stacks make')
  return result
}

async function stripOf(db: DataSource, reelId: string, through: string | null): Promise<Partial<PlanStrip>> {
  if (through === null) return {}
  const doc = await loadDocument(db, reelId)
  const track = doc.track.get(through)
  if (!track) throw new AppError('NOT_FOUND', 'The track that it was to go through is gone. Choose another.')
  return throughTrack(doc, track)
}

interface OneStack {
  readonly name: string
  readonly layers: readonly ShakenLayer[]
  readonly strip: Partial<PlanStrip>
  readonly place: { readonly root: string; readonly folder: string }
}

/** Writes one stack; it appears when it is whole, and never over another one. */
async function writeOne(
  { db, media, stackers }: StackDeps,
  { name, layers, strip, place }: OneStack,
  signal: AbortSignal,
): Promise<{ fresh: boolean; seconds: number }> {
  const [from, to] = stackSpan(layers) ?? [0, 0]
  if (to - from > LONGEST)
    throw new AppError(
      'BAD_REQUEST',
      `${name} would be ${Math.round((to - from) / SAMPLE_RATE / 60)} minutes long; stacks of up to ten minutes can be written. Make the limits of length of its layers narrower.`,
    )
  const ids = layers.map(({ sound }) => sound.id)
  const voices = planOfStack(layers).strips.flatMap((strip) => strip.voices)
  const played = voices.map(({ mediaId }) => mediaId)
  const decoded = await decodeMedia({ db, media }, played, (soundId) => {
    const gone = layers.find(({ sound }) => sound.id === soundId)?.sound.name
    return new AppError('NOT_FOUND', `${gone} is on no shelf any more.`)
  })
  // Beside the shelf: what is half there is nothing to listen to, and is swept when the server was killed.
  const unfinished = path.join(await media.folder('incoming'), `${randomUUID()}.part`)
  try {
    const facts = factsOf(name, await soundsByIds(db, ids))
    const { length } = await stackers.run(
      { layers, strip, media: decoded, out: unfinished, ...facts },
      { signal },
    )
    const { fresh } = await giveName(unfinished, { ...place, name })
    return { fresh, seconds: length / SAMPLE_RATE }
  } finally {
    await rm(unfinished, { force: true })
  }
}

/** What the file says of itself. Nothing of the day on which it was made, so that the same seed gives the same file. */
function factsOf(name: string, parts: readonly Sound[]): Pick<StackOrder, 'bext' | 'ixml'> {
  const once = (values: readonly string[], between: string): string =>
    [...new Set(values.map((value) => value.trim()).filter(Boolean))].join(between)
  const made = `Made of ${once(
    parts.map((part) => part.name),
    '; ',
  )}`
  const words = parts.flatMap(({ keywords }) => keywords.split(','))
  return {
    bext: {
      ...{ description: made, originator: 'Yodel', originatorReference: fileName(name).slice(0, 32) },
      ...{ date: '', time: '', timeReference: 0 },
      codingHistory: 'A=PCM,F=48000,W=24,M=stereo,T=Yodel\r\n',
    },
    ixml: new TextEncoder().encode(
      soundIxml({
        ...{ name, note: made, keywords: once(words, ', '), category: parts[0]?.category ?? '' },
        licence: once(
          parts.map(({ licence }) => licence),
          '; ',
        ),
      }),
    ),
  }
}

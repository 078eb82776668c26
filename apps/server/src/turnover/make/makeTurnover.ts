import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import {
  acceptancesOf,
  findingsOf,
  packageManifestSchema,
  PACKAGE_VERSION,
  shortTitle,
  type JobPayload,
  type JobResult,
  type KeptFile,
  type KeptFinding,
  type Measured,
  type PackageManifest,
  type Recipe,
  reelOf,
} from '@yodel/core'
import type { Piscina } from 'piscina'
import { TurnoverEntity } from '../../db/entities.js'
import { explainDisk } from '../../errors.js'
import type { JobContext } from '../../jobs/JobQueue.js'
import { loadStand, type Stand } from '../../reels/reelStore.js'
import type { Settings } from '../../settings.js'
import { makeAudio, type AudioDeps, type MadeAudio } from '../audio/makeAudio.js'
import { gatherFacts } from '../gatherFacts.js'
import { keepTurnover, turnoverFolder } from '../kept/turnovers.js'
import type { FileOrder, FileSums } from './fileWorker.js'
import { makeMovie, type MadeMovie } from './makeMovie.js'
import { packReel } from './packReel.js'
import { packSounds, type PackedSounds } from './packSounds.js'
import { writeLists } from './writeLists.js'

/** What a turnover is made with. */
export interface TurnoverDeps extends AudioDeps {
  readonly settings: Pick<Settings, 'ffmpeg' | 'ffprobe'>
  /** Threads that copy, cut and sum up. */
  readonly files: Piscina<FileOrder, FileSums>
}

/** Where the package's manifest lies in it. */
export const MANIFEST_PATH = 'manifest.json'
const NO_SOUNDS: PackedSounds = { parts: [], sounds: [], files: [], remarks: [] }
/** What of the work each step is, roughly. */
const STEPS = { audio: 0.5, movie: 0.1, sounds: 0.25, lists: 0.15 } as const

/** A file that was written into a turnover's folder, before it is summed up. */
export type Written = Pick<KeptFile, 'path' | 'kind' | 'title'>

/**
 * Makes everything that a recipe wants of a reel as it stands, and keeps it: a folder that appears when it is whole,
 * and the row that tells of it. After a crash it begins anew, unless it was kept already.
 *
 * @throws Error that says what could not be made; nothing stays of it then
 */
export async function makeTurnover(
  parts: TurnoverDeps,
  { reelId, recipe, name, by }: JobPayload<'turnover'>,
  context: JobContext,
): Promise<JobResult<'turnover'>> {
  const known = await parts.db.getRepository(TurnoverEntity).findOneBy({ id: context.id })
  if (known) return { turnoverId: known.id, measured: known.measured }
  const stand = await loadStand(parts.db, reelId)
  // One moment for all of it: files that are named after the day are named after the same one.
  const now = parts.clock()
  const deps = { ...parts, clock: () => now }
  const folder = await turnoverFolder(deps.media, context.id)
  const unfinished = `${folder}.new`
  await rm(unfinished, { recursive: true, force: true })
  await rm(folder, { recursive: true, force: true })
  try {
    for (const part of ['audio', 'sounds', 'lists', 'reel'])
      await mkdir(path.join(unfinished, part), { recursive: true })
    const step = stepper(context)
    const written: Written[] = []
    const audio = await audioInto(deps, stand, recipe, step(STEPS.audio), unfinished)
    written.push(...audio.written)
    const movie = await movieInto(deps, stand, recipe, audio.made, step(STEPS.movie), unfinished)
    written.push(...movie.written)
    const packed =
      recipe.sounds === 'none'
        ? NO_SOUNDS
        : await packSounds(deps, stand.doc, recipe, unfinished, step(STEPS.sounds))
    step(STEPS.lists).progress(0, 'Writing the lists')
    const findings = await findingsAt(deps, stand, recipe, audio.measured)
    const facts = { ...{ name, by, recipe, findings, measured: audio.measured }, at: now.toISOString() }
    const lists = await writeLists(
      deps,
      stand,
      { ...facts, packed, files: audio.made, remarks: movie.remarks },
      unfinished,
    )
    written.push(...lists.written)
    if (recipe.sounds !== 'none') written.push(...(await packReel(deps.db, stand, packed, unfinished)))
    const files = [...(await sumUp(deps.files, written, unfinished, context.signal)), ...packed.files]
    const remarks = [...movie.remarks, ...lists.remarks]
    await writeManifest(path.join(unfinished, MANIFEST_PATH), stand, { ...facts, files, packed })
    const manifest: Written = { path: MANIFEST_PATH, kind: 'report', title: 'Manifest' }
    const all = [...(await sumUp(deps.files, [manifest], unfinished, context.signal)), ...files]
    context.signal.throwIfAborted()
    await rename(unfinished, folder)
    const kept = { id: context.id, reelId, seq: stand.seq, name, author: by, at: now }
    await keepTurnover(deps.db, { ...kept, recipe, findings, measured: audio.measured, remarks, files: all })
    return { turnoverId: context.id, measured: audio.measured }
  } catch (error) {
    await rm(unfinished, { recursive: true, force: true })
    throw explainDisk(error, 'the turnover')
  }
}

/** Gives each step its part of a job's progress. */
function stepper({ signal, progress }: JobContext) {
  let before = 0
  return (part: number): Pick<JobContext, 'signal' | 'progress'> => {
    const from = before
    before += part
    return { signal, progress: (done, message) => progress(from + done * part, message) }
  }
}

/** Makes the audio, where the recipe wants any. */
async function audioInto(
  deps: TurnoverDeps,
  stand: Stand,
  recipe: Recipe,
  context: Pick<JobContext, 'signal' | 'progress'>,
  folder: string,
) {
  if (!recipe.mix && !recipe.stems && !recipe.tracks) return { written: [], made: [], measured: null }
  const inside = (name: string): string => `audio/${name}.wav`
  const { files, measured } = await makeAudio(deps, stand, recipe, context, ({ name }) =>
    path.join(folder, inside(name)),
  )
  const written = files.map(({ name, title }): Written => ({ path: inside(name), kind: 'audio', title }))
  return { written, made: files, measured }
}

/** Makes the movie for review, where the recipe wants one; it needs the mix. */
async function movieInto(
  deps: TurnoverDeps,
  stand: Stand,
  recipe: Recipe,
  audio: readonly MadeAudio[],
  context: Pick<JobContext, 'signal' | 'progress'>,
  folder: string,
): Promise<MadeMovie> {
  const mix = audio.find(({ source }) => source.of === 'whole')?.file
  if (recipe.movie === 'none' || mix === undefined) return { written: [], remarks: [] }
  const first = recipe.from === 'programme' ? reelOf(stand.doc).programme : 0
  const date = deps.clock().toISOString().slice(0, 10)
  return makeMovie(deps, stand, recipe, { mix, first }, folder, context, date)
}

/** The findings with which a reel leaves, those that were accepted with who did. */
async function findingsAt(
  deps: TurnoverDeps,
  { doc }: Stand,
  recipe: Recipe,
  measured: Measured | null,
): Promise<KeptFinding[]> {
  const facts = await gatherFacts(deps, doc, recipe, measured)
  const all = findingsOf(doc, facts)
  const accepted = acceptancesOf(doc, all)
  return all.map((finding) => {
    const { check, weight, at, text } = finding
    const by = accepted.get(finding)
    return { check, weight, at, text, accepted: by ? { reason: by.reason, by: by.by } : null }
  })
}

/** Sizes and checksums of files that were written. */
async function sumUp(
  threads: TurnoverDeps['files'],
  written: readonly Written[],
  folder: string,
  signal: AbortSignal,
): Promise<KeptFile[]> {
  const files: KeptFile[] = []
  for (const one of written)
    files.push({
      ...one,
      title: shortTitle(one.title),
      ...(await threads.run({ do: 'sum', file: path.join(folder, one.path) }, { signal })),
    })
  return files
}

async function writeManifest(
  file: string,
  { doc }: Stand,
  facts: Pick<PackageManifest, 'recipe' | 'files'> & { at: string; packed: PackedSounds },
): Promise<void> {
  const { show, name, company, rate } = reelOf(doc)
  const manifest: PackageManifest = packageManifestSchema.parse({
    ...{ format: 'yodel-package', version: PACKAGE_VERSION, maker: 'Yodel', made: facts.at },
    ...{ show, reel: name, company, rate, recipe: facts.recipe, files: facts.files },
    sounds: facts.packed.sounds,
  })
  await writeFile(file, JSON.stringify(manifest, null, 1))
}

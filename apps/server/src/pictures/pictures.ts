import { randomUUID } from 'node:crypto'
import { rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { FRAME_RATES, guideMedia, type FrameRateId, type Picture, type PictureMovement } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { PictureEntity } from '../db/entities.js'
import type { PictureRow } from '../db/rows.js'
import { AppError, explainDisk } from '../errors.js'
import { saveUpload, type Upload } from '../http/upload.js'
import type { JobContext, JobQueue } from '../jobs/JobQueue.js'
import type { MediaStore } from '../media/MediaStore.js'
import type { Settings } from '../settings.js'
import { analysisOf } from './analysePicture.js'
import { growingOf } from './growing.js'
import { lookingThrough } from './lookingThrough.js'
import { makeProxy } from './makeProxy.js'
import { holesIn, remarksOn, shortOf } from './movieRemarks.js'
import { probeMovie, type MovieFacts } from './probeMovie.js'
import { soundRemarks, takeGuides } from './takeGuides.js'

/** What picture work needs. */
export interface PictureDeps {
  readonly db: DataSource
  readonly settings: Settings
  readonly media: MediaStore
}

/** What taking a movie in needs: its work is done later. */
export interface PictureTaking extends PictureDeps {
  readonly jobs: Pick<JobQueue, 'add'>
  /** A movie is taken although its file ends before its head says so. */
  readonly takeShort?: boolean
  /** Under which it can be asked how far the movie has been looked through; see lookingThrough.ts. */
  readonly look?: string | null
}

/** Folder of a picture's proxy, strip and copy. */
export async function pictureFolder(media: MediaStore, id: string): Promise<string> {
  return media.folder('pictures', id)
}

/**
 * Takes an uploaded movie: writes it beside its place, checks that it is one, and only then keeps it and starts the proxy.
 * Whatever goes wrong leaves nothing behind.
 */
export async function takeUpload(deps: PictureTaking, upload: Upload): Promise<Picture> {
  const { name } = upload
  const id = randomUUID()
  const folder = await pictureFolder(deps.media, id)
  const incoming = path.join(folder, 'movie.part')
  try {
    await saveUpload(upload, incoming)
    const movie = path.join(folder, 'movie')
    const row = await describeMovie(deps, id, name, incoming)
    await rename(incoming, movie)
    return await keepPicture(deps, { ...row, file: movie })
  } catch (error) {
    await rm(folder, { recursive: true, force: true })
    throw explainDisk(error, name)
  }
}

/** Takes a movie that lies on a disk of the server; it is read where it is, never copied. */
export async function takeFile(
  deps: PictureTaking,
  file: string,
  id: string = randomUUID(),
): Promise<Picture> {
  const row = await describeMovie(deps, id, path.basename(file), file)
  await pictureFolder(deps.media, id)
  return keepPicture(deps, row)
}

async function describeMovie(
  deps: PictureTaking,
  id: string,
  name: string,
  file: string,
): Promise<PictureRow> {
  const facts = await lookingThrough(deps.look ?? null, (tell) =>
    probeMovie(deps.settings, file, name, 'packets', tell),
  )
  if (facts.missing > 0 && !deps.takeShort)
    throw new AppError('MOVIE_CUT_SHORT', `${shortOf(name, facts)} Copy it again, or take it as it is.`)
  const { remark, ...row } = rowOf(name, facts)
  return {
    ...{ id, name, file, ...row, remark, drawn: 0 },
    tracks: facts.sounds.map((sound) => ({ ...sound, length: 0, silent: false, problem: '' })),
    ...{ heard: [], state: 'waiting', message: remark, jobId: null },
  }
}

/** What a picture's row says of its movie. */
function rowOf(
  name: string,
  facts: MovieFacts,
): Omit<PictureRow, 'id' | 'name' | 'file' | 'tracks' | 'heard' | 'drawn' | 'state' | 'message' | 'jobId'> {
  const { frames, width, height, codec, firstTime, start, pacing, rate } = facts
  const remarks = [...(facts.missing > 0 ? [shortOf(name, facts)] : []), ...remarksOn(name, pacing)]
  return {
    ...{ frames, width, height, codec, firstTime, start },
    ...{ rate: rate.id, variable: !pacing.even, remark: remarks.join(' ') },
  }
}

async function keepPicture(deps: PictureTaking, row: PictureRow): Promise<Picture> {
  const pictures = deps.db.getRepository(PictureEntity)
  await pictures.upsert(row, ['id'])
  const jobId = await deps.jobs.add('picture', `Preparing ${row.name}`, { id: row.id })
  await pictures.update({ id: row.id }, { jobId })
  return pictureOf({ ...row, jobId })
}

/** The work behind a picture: proxy, strip, guide. Safe to run again from the start; {@link tellPicture} has the picture say when it fails. */
export async function preparePicture(deps: PictureDeps, id: string, context: JobContext): Promise<null> {
  const pictures = deps.db.getRepository(PictureEntity)
  const row = await pictures.findOneByOrFail({ id })
  if (!(await stat(row.file).catch(() => null)))
    throw new Error(`${row.file} is not there. Connect its disk or put it back, then try again.`)
  const folder = await pictureFolder(deps.media, row.id)
  // The sound is taken out meanwhile, so that it can be heard before the picture is whole.
  const ending = new AbortController()
  const sound = takeSound(deps, row, AbortSignal.any([context.signal, ending.signal]))
  const settled = sound.catch(() => undefined)
  const { seen, ...facts } = await makeFrames(deps, row, folder, context).catch(async (error: unknown) => {
    // Whoever tries again must not find the sound still being written.
    ending.abort()
    await settled
    throw error
  })
  Object.assign(row, await sound)
  if (facts.firstTime !== undefined && facts.firstTime !== row.firstTime) {
    // Laid against another frame than the one that is shown first.
    for (const index of row.tracks.keys()) await deps.media.forget(guideMedia(row.id, index))
    Object.assign(row, await takeSound(deps, { ...row, ...facts }, context.signal))
  }
  Object.assign(row, facts)
  context.progress(0.97, 'Looking for cuts and onsets')
  await analysisOf(deps.media, row, seen)
  // Which tracks are heard may have been chosen meanwhile.
  const { jobId: _, heard: __, drawn: ___, ...made } = row
  const message = [row.remark, ...soundRemarks(row)].filter((text) => text !== '').join(' ')
  await pictures.update({ id: row.id }, { ...made, state: 'ready', message })
  return null
}

async function takeSound(
  deps: PictureDeps,
  row: PictureRow,
  signal: AbortSignal,
): Promise<Awaited<ReturnType<typeof takeGuides>>> {
  const taken = await takeGuides(deps, row, signal)
  await deps.db.getRepository(PictureEntity).update({ id: row.id }, taken)
  return taken
}

/**
 * Makes the proxy. Where not all that the file holds can be shown (trimmed between frames that need each other, damaged in the
 * middle), the frames that can be decoded are what counts, each at its time.
 */
async function makeFrames(
  { settings }: PictureDeps,
  row: PictureRow,
  folder: string,
  { signal, progress }: JobContext,
): Promise<Partial<PictureRow> & { seen: PictureMovement }> {
  const make = (now: PictureRow): ReturnType<typeof makeProxy> => {
    const facts = { ...now, rate: FRAME_RATES[now.rate as FrameRateId] }
    return makeProxy(settings, { id: row.id, movie: row.file, facts, folder }, signal, (part) =>
      progress(part * 0.95, 'Making frames quick to reach'),
    )
  }
  const first = await make(row)
  if (first.made === row.frames || row.variable) return { frames: first.made, seen: first.seen }
  const facts = await probeMovie(settings, row.file, row.name, 'shown')
  const shown = rowOf(row.name, facts)
  if (shown.variable) shown.remark += holesIn(facts.pacing)
  const { made, seen } = shown.variable ? await make({ ...row, ...shown }) : first
  if (!shown.variable && made !== shown.frames)
    throw new Error(
      `the proxy of ${row.name} has ${made} frames, the movie ${shown.frames}; positions would be wrong. Export the movie again`,
    )
  return { ...shown, start: row.start, frames: made, seen }
}

/** Has a picture say what became of the work behind it. @param message - Why it failed; empty while it waits */
export async function tellPicture(
  db: DataSource,
  id: string,
  state: 'waiting' | 'failed',
  message: string,
): Promise<void> {
  const pictures = db.getRepository(PictureEntity)
  const row = await pictures.findOneBy({ id })
  if (!row) return
  await pictures.update({ id }, { state, message: state === 'failed' ? message : row.remark })
}

/** A picture as it crosses the wire. */
export function pictureOf(row: PictureRow): Picture {
  const { id, name, frames, width, height, codec, state, message, start, heard, drawn, jobId } = row
  return {
    ...{ id, name, rate: row.rate as FrameRateId, frames, width, height, codec, state, message, start },
    tracks: row.tracks.map(({ name: called, channels, length, silent, problem }) => ({
      ...{ name: called, channels, length, silent, problem },
    })),
    ...{ heard, drawn, jobId },
    made: state === 'ready' ? frames : (growingOf(id)?.whole ?? 0),
  }
}

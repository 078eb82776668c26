import { randomUUID } from 'node:crypto'
import { rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { FRAME_RATES, type FrameRateId, type Pacing, type Picture } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { PictureEntity, type PictureRow } from '../db/entities.js'
import { AppError, explainDisk } from '../errors.js'
import { saveUpload, type Upload } from '../http/upload.js'
import type { JobContext, JobQueue } from '../jobs/JobQueue.js'
import type { MediaStore } from '../media/MediaStore.js'
import type { Settings } from '../settings.js'
import { analysisOf } from './analysePicture.js'
import { guideSource } from './guideSource.js'
import { makeProxy, makeStrip } from './makeProxy.js'
import { probeMovie } from './probeMovie.js'

/** What picture work needs. */
export interface PictureDeps {
  readonly db: DataSource
  readonly settings: Settings
  readonly media: MediaStore
}

/** What taking a movie in needs: its work is done later. */
export interface PictureTaking extends PictureDeps {
  readonly jobs: Pick<JobQueue, 'add'>
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

async function describeMovie(deps: PictureDeps, id: string, name: string, file: string): Promise<PictureRow> {
  const facts = await probeMovie(deps.settings, file, name)
  const { pacing, rate, ...more } = facts
  const remark = remarkOn(name, pacing)
  return {
    ...{ id, name, file, ...more, rate: rate.id, variable: !pacing.even, remark, guide: 0 },
    ...{ state: 'waiting', message: remark, jobId: null },
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
  const rate = FRAME_RATES[row.rate as FrameRateId]
  const facts = { ...row, rate }
  const made = await makeProxy(deps.settings, row.file, facts, folder, context.signal, (part) =>
    context.progress(part * 0.7, 'Making frames quick to reach'),
  )
  if (made !== row.frames && !row.variable)
    throw new Error(
      `the proxy of ${row.name} has ${made} frames, the movie ${row.frames}; positions would be wrong. Export the movie again`,
    )
  context.progress(0.75, 'Drawing the picture strip')
  await makeStrip(deps.settings, rate, folder, context.signal)
  context.progress(0.9, 'Taking out the guide')
  const { guide, problem } = await takeGuide(deps, row)
  context.progress(0.95, 'Looking for cuts and onsets')
  await analysisOf(deps, { ...row, hasSound: guide > 0 }, context.signal)
  const message = [row.remark, problem].filter((text) => text !== '').join(' ')
  await pictures.update({ id: row.id }, { state: 'ready', guide, frames: made, message })
  return null
}

/** Takes the guide out of a movie. Sound that can't be had never costs the picture: it is said, and there is no guide. */
async function takeGuide(
  { media }: PictureDeps,
  row: PictureRow,
): Promise<{ guide: number; problem: string }> {
  if (!row.hasSound) return { guide: 0, problem: '' }
  try {
    const { length } = await media.pcm(guideSource(row))
    await media.peaks(guideSource(row), 0)
    return { guide: length, problem: '' }
  } catch (error) {
    if (!(error instanceof AppError) || error.code !== 'SOUND_UNREADABLE') throw error
    return { guide: 0, problem: `${row.name} has sound that can't be decoded: there is no guide.` }
  }
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

/** What is said of a movie that can be shown, but not quite as it is; empty where there is nothing to say. */
function remarkOn(name: string, { even, rate, repeated, leftOut }: Pacing): string {
  if (even) return ''
  const frames = (count: number, what: string): string[] =>
    count === 0 ? [] : [`${count.toLocaleString('en')} ${count === 1 ? 'frame is' : 'frames are'} ${what}`]
  const how = [...frames(repeated, 'shown longer'), ...frames(leftOut, 'left out')].join(', ')
  return `${name} does not run evenly at ${rate.label}: each moment is shown where it belongs; ${how}.`
}

/** A picture as it crosses the wire. */
export function pictureOf(row: PictureRow): Picture {
  const { id, name, frames, width, height, codec, state, message, guide, jobId } = row
  return {
    id,
    name,
    rate: row.rate as FrameRateId,
    frames,
    width,
    height,
    codec,
    state,
    message,
    guide,
    jobId,
  }
}

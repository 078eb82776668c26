import { PEAK_STEPS } from '@yodel/core'
import type { GuideTrackRow, PictureRow } from '../db/rows.js'
import { AppError, isDiskFull } from '../errors.js'
import type { MediaSource, MediaStore } from '../media/MediaStore.js'
import { guideSource } from './guideSource.js'

type Source = Required<Omit<MediaSource, 'stretch'>>

/**
 * Takes every sound track out of a movie, in one reading of it where that can be done. Sound that can't be had never costs the
 * picture: its track says so. All tracks that sound are heard, and the first of them is drawn, until somebody chooses others.
 */
export async function takeGuides(
  { media }: { readonly media: MediaStore },
  row: PictureRow,
  signal: AbortSignal,
): Promise<Pick<PictureRow, 'tracks' | 'heard' | 'drawn'>> {
  const sources = row.tracks.flatMap((_, index) => guideSource(row, index) ?? [])
  // What is missing is decoded in one go; where that fails, each by itself, to find out which it is.
  const timed = sources.flatMap((source) => (source.from === undefined ? [] : [source as Source]))
  await media.decodeAll(timed, signal).catch((error: unknown) => {
    if (signal.aborted || isDiskFull(error) || error instanceof AppError) throw error
  })
  const tracks: GuideTrackRow[] = []
  for (const [index, source] of sources.entries())
    tracks.push({ ...(row.tracks[index] as GuideTrackRow), ...(await hear(media, source)) })
  const sounding = tracks.flatMap(({ length, silent }, index) => (length > 0 && !silent ? [index] : []))
  const isChosen = row.heard.length > 0
  return {
    tracks,
    heard: isChosen ? row.heard : sounding,
    drawn: isChosen ? row.drawn : (sounding[0] ?? 0),
  }
}

/** What is said of a movie's sound that can't be heard, all of it or some. */
export function soundRemarks({ name, tracks }: Pick<PictureRow, 'name' | 'tracks'>): string[] {
  const lost = tracks.flatMap(({ problem }, index) => (problem === '' ? [] : [index + 1]))
  if (lost.length === 0) return []
  if (lost.length === tracks.length) return [`${name} has sound that can't be decoded: there is no guide.`]
  return [`Sound ${lost.length === 1 ? 'track' : 'tracks'} ${lost.join(', ')} of ${name} can't be decoded.`]
}

async function hear(
  media: MediaStore,
  source: MediaSource,
): Promise<Pick<GuideTrackRow, 'length' | 'silent' | 'problem'>> {
  try {
    const { length } = await media.pcm(source)
    const outline = await media.peaks(source, PEAK_STEPS.length - 1)
    return { length, silent: outline.every((value) => value === 0), problem: '' }
  } catch (error) {
    if (!(error instanceof AppError) || error.code !== 'SOUND_UNREADABLE') throw error
    return { length: 0, silent: true, problem: 'It can’t be decoded.' }
  }
}

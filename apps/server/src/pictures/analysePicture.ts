import { readFile, rename, writeFile } from 'node:fs/promises'
import path from 'node:path'
import {
  samplesIn,
  analysisSchema,
  findTwoPop,
  FRAME_RATES,
  OnsetDetector,
  PCM_CHUNK,
  type Analysis,
  type FrameRateId,
  type PictureMovement,
} from '@yodel/core'
import type { PictureRow } from '../db/rows.js'
import { AppError } from '../errors.js'
import type { MediaStore } from '../media/MediaStore.js'
import { guideSource } from './guideSource.js'

const ANALYSIS = 'analysis.json'
/** The 2-pop is looked for in the first minute of a picture. */
const LEADER_SAMPLES = samplesIn(60)

/**
 * Onsets of the guide, cuts and movement of the picture, and its 2-pop; made once and kept.
 *
 * @param seen - How it moves, when its proxy has just been made; what was kept then holds no longer.
 * @throws AppError `NOT_FOUND` for a picture that was never watched
 */
export async function analysisOf(
  media: MediaStore,
  row: PictureRow,
  seen: PictureMovement | null = null,
): Promise<Analysis> {
  const file = path.join(await media.folder('pictures', row.id), ANALYSIS)
  const text = seen ? null : await readFile(file, 'utf8').catch(() => null)
  const kept = text === null ? null : analysisSchema.parse(JSON.parse(text))
  if (kept?.track === row.drawn) return kept
  const known = seen ? watched(seen) : kept
  if (!known) throw new AppError('NOT_FOUND', `${row.name} has not been looked through; prepare it again.`)
  return media.once(`${file} ${row.drawn}`, async () => {
    // What was seen stays when another track is listened to.
    const analysis: Analysis = { ...known, ...(await listen(media, row)), track: row.drawn }
    const temporary = `${file}.${process.pid}.${row.drawn}.new`
    await writeFile(temporary, JSON.stringify(analysis))
    await rename(temporary, file)
    return analysis
  })
}

const watched = ({ movement, cuts }: PictureMovement): Pick<Analysis, 'cuts' | 'movement'> => ({
  movement: [...movement].map((change) => Math.round(change * 255)),
  cuts: [...cuts],
})

async function listen(media: MediaStore, row: PictureRow): Promise<Pick<Analysis, 'onsets' | 'twoPop'>> {
  const source = guideSource(row, row.drawn)
  if (!source || row.tracks[row.drawn]?.length === 0) return { onsets: [], twoPop: null }
  const { length } = await media.pcm(source)
  const detector = new OnsetDetector()
  const leader = new Float32Array(Math.min(length, LEADER_SAMPLES))
  // Chunk by chunk, so that a long guide neither fills the memory nor keeps the server from answering.
  for (let index = 0; index * PCM_CHUNK < length; index++) {
    const bytes = await media.chunk(source, index)
    const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4)
    const mono =
      source.channels === 1
        ? samples
        : Float32Array.from(
            { length: samples.length / 2 },
            (_, i) => ((samples[2 * i] as number) + (samples[2 * i + 1] as number)) / 2,
          )
    detector.push(mono)
    const at = index * PCM_CHUNK
    if (at < leader.length) leader.set(mono.subarray(0, leader.length - at), at)
  }
  return {
    onsets: detector.finish().map(({ at, strength }) => ({ at, strength: Math.round(strength * 10) / 10 })),
    twoPop: findTwoPop(leader, FRAME_RATES[row.rate as FrameRateId]),
  }
}

import { readFile, rename, writeFile } from 'node:fs/promises'
import path from 'node:path'
import {
  samplesIn,
  analysisSchema,
  findTwoPop,
  FRAME_RATES,
  MOVEMENT_SIZE,
  MovementMeter,
  OnsetDetector,
  PCM_CHUNK,
  type Analysis,
  type FrameRateId,
} from '@yodel/core'
import type { PictureRow } from '../db/entities.js'
import type { MediaStore } from '../media/MediaStore.js'
import { inputArgs, runTool } from '../processes/runTool.js'
import type { Settings } from '../settings.js'
import { PROXY_FILES } from './makeProxy.js'
import { guideSource } from './guideSource.js'

const TIMEOUT_MS = 60 * 60 * 1000
const ANALYSIS = 'analysis.json'
/** The 2-pop is looked for in the first minute of a picture. */
const LEADER_SAMPLES = samplesIn(60)

/** What analysing needs. */
export interface AnalysisDeps {
  readonly settings: Pick<Settings, 'ffmpeg'>
  readonly media: MediaStore
}

/** Onsets of the guide, cuts and movement of the picture, and its 2-pop; made once from the proxy and kept. */
export async function analysisOf(
  deps: AnalysisDeps,
  row: PictureRow,
  signal?: AbortSignal,
): Promise<Analysis> {
  const folder = await deps.media.folder('pictures', row.id)
  const file = path.join(folder, ANALYSIS)
  const text = await readFile(file, 'utf8').catch(() => null)
  const kept = text === null ? null : analysisSchema.parse(JSON.parse(text))
  if (kept?.track === row.drawn) return kept
  return deps.media.once(`${file} ${row.drawn}`, async () => {
    const analysis: Analysis = {
      // What was seen stays when another track is listened to.
      ...(kept ?? (await watch(deps.settings, folder, signal))),
      ...(await listen(deps.media, row)),
      track: row.drawn,
    }
    const temporary = `${file}.${process.pid}.${row.drawn}.new`
    await writeFile(temporary, JSON.stringify(analysis))
    await rename(temporary, file)
    return analysis
  })
}

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

async function watch(
  settings: AnalysisDeps['settings'],
  folder: string,
  signal?: AbortSignal,
): Promise<Pick<Analysis, 'cuts' | 'movement'>> {
  const { width, height } = MOVEMENT_SIZE
  const size = width * height
  const meter = new MovementMeter()
  let carry = Buffer.alloc(0)
  const args = [
    '-nostdin',
    '-v',
    'error',
    ...inputArgs(path.join(folder, PROXY_FILES.video)),
    '-vf',
    `scale=${width}:${height}:flags=area,format=gray`,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-',
  ]
  await runTool(settings.ffmpeg, args, {
    timeoutMs: TIMEOUT_MS,
    ...(signal ? { signal } : {}),
    onData: (piece) => {
      const bytes = Buffer.concat([carry, piece])
      const whole = Math.floor(bytes.length / size) * size
      for (let at = 0; at < whole; at += size) meter.push(bytes.subarray(at, at + size))
      carry = bytes.subarray(whole)
    },
  })
  const { movement, cuts } = meter.finish()
  return { movement: [...movement].map((change) => Math.round(change * 255)), cuts: [...cuts] }
}

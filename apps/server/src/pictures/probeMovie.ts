import { rateFromRational, type FrameRate } from '@yodel/core'
import { z } from 'zod'
import { AppError, reasonOf } from '../errors.js'
import { inputArgs, runTool } from '../media/runTool.js'
import type { Settings } from '../settings.js'

/** What ffprobe says about a movie. */
export interface MovieFacts {
  readonly rate: FrameRate
  /** Frames of the picture, counted, not estimated. */
  readonly frames: number
  readonly width: number
  readonly height: number
  readonly codec: string
  /** Frames do not come at equal distances. */
  readonly variable: boolean
  readonly hasSound: boolean
}

const streamSchema = z.object({
  codec_type: z.string(),
  codec_name: z.string().default('unknown'),
  width: z.number().default(0),
  height: z.number().default(0),
  r_frame_rate: z.string().default('0/0'),
  avg_frame_rate: z.string().default('0/0'),
  nb_read_packets: z.string().default('0'),
  disposition: z.object({ attached_pic: z.number().default(0) }).default({ attached_pic: 0 }),
})

const PROBE_TIMEOUT_MS = 120_000

/**
 * Reads rate, size and number of frames off a movie file.
 *
 * @throws AppError `MOVIE_UNREADABLE`, `MOVIE_NO_PICTURE`, `MOVIE_RATE_UNKNOWN`
 */
export async function probeMovie(settings: Pick<Settings, 'ffprobe'>, file: string, name: string): Promise<MovieFacts> {
  const args = ['-v', 'error', '-count_packets', '-show_streams', '-of', 'json', ...inputArgs(file)]
  const output = await runTool(settings.ffprobe, args, { timeoutMs: PROBE_TIMEOUT_MS }).catch((error: unknown) => {
    throw new AppError('MOVIE_UNREADABLE', `${name} can't be read as a movie: ${reasonOf(error)}. Check that it was copied whole, or export it again.`)
  })
  const { streams } = z.object({ streams: z.array(streamSchema).default([]) }).parse(JSON.parse(output.toString()))
  const video = streams.find((stream) => stream.codec_type === 'video' && stream.disposition.attached_pic === 0)
  const frames = Number(video?.nb_read_packets ?? 0)
  if (!video || frames === 0 || video.width === 0) {
    throw new AppError('MOVIE_NO_PICTURE', `${name} holds no picture${streams.length > 0 ? `, only ${streams.map((stream) => stream.codec_type).join(' and ')}` : ''}. Bring in a movie file; recordings belong on a shelf.`)
  }
  const average = rational(video.avg_frame_rate)
  const declared = rational(video.r_frame_rate)
  const rate = rateFromRational(...average) ?? rateFromRational(...declared)
  if (!rate) {
    throw new AppError('MOVIE_RATE_UNKNOWN', `${name} runs at ${(average[0] / average[1]).toFixed(3)} frames a second, which no reel can have. Export it at the rate of the edit.`)
  }
  const variable = frames > 1 && Math.abs((average[0] / average[1] / (declared[0] / declared[1])) - 1) > 1e-3
  return {
    rate,
    frames,
    width: video.width,
    height: video.height,
    codec: video.codec_name,
    variable,
    hasSound: streams.some((stream) => stream.codec_type === 'audio'),
  }
}

function rational(text: string): [number, number] {
  const [num = 0, den = 0] = text.split('/').map(Number)
  return [num, den]
}

import { FRAME_RATES, rateFromRational, type FrameRate } from '@yodel/core'
import { z } from 'zod'
import { AppError, reasonOf } from '../errors.js'
import { inputArgs, runTool } from '../processes/runTool.js'
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
  index: z.number(),
  codec_type: z.string(),
  codec_name: z.string().default('unknown'),
  width: z.number().default(0),
  height: z.number().default(0),
  r_frame_rate: z.string().default('0/0'),
  avg_frame_rate: z.string().default('0/0'),
  disposition: z.object({ attached_pic: z.number().default(0) }).default({ attached_pic: 0 }),
})

const PROBE_TIMEOUT_MS = 120_000

/**
 * Reads rate, size and number of frames off a movie file.
 *
 * @throws AppError `MOVIE_UNREADABLE`, `MOVIE_NO_PICTURE`, `MOVIE_RATE_UNKNOWN`
 */
export async function probeMovie(
  settings: Pick<Settings, 'ffprobe'>,
  file: string,
  name: string,
): Promise<MovieFacts> {
  const probe = (...args: string[]): Promise<Buffer> =>
    runTool(settings.ffprobe, ['-v', 'error', ...args, ...inputArgs(file)], {
      timeoutMs: PROBE_TIMEOUT_MS,
    }).catch((error: unknown) => {
      throw new AppError(
        'MOVIE_UNREADABLE',
        `${name} can't be read as a movie: ${reasonOf(error)}. Check that it was copied whole, or export it again.`,
      )
    })
  const { streams } = z
    .object({ streams: z.array(streamSchema).default([]) })
    .parse(JSON.parse((await probe('-show_streams', '-of', 'json')).toString()))
  const video = streams.find(
    (stream) => stream.codec_type === 'video' && stream.disposition.attached_pic === 0,
  )
  const times = video
    ? packetTimes(
        (
          await probe(
            '-select_streams',
            String(video.index),
            '-show_entries',
            'packet=pts_time',
            '-of',
            'csv=p=0',
          )
        ).toString(),
      )
    : []
  if (!video || times.length === 0 || video.width === 0) {
    throw new AppError(
      'MOVIE_NO_PICTURE',
      `${name} holds no picture${streams.length > 0 ? `, only ${streams.map((stream) => stream.codec_type).join(' and ')}` : ''}. Bring in a movie file; recordings belong on a shelf.`,
    )
  }
  const measured = (times.length - 1) / ((times.at(-1) ?? 0) - (times[0] ?? 0))
  const variable = isUneven(times)
  const rate =
    (variable
      ? null
      : (rateFromRational(...rational(video.avg_frame_rate)) ??
        rateFromRational(...rational(video.r_frame_rate)))) ?? nearestRate(measured)
  if (!rate) {
    throw new AppError(
      'MOVIE_RATE_UNKNOWN',
      `${name} runs at ${measured.toFixed(3)} frames a second, which no reel can have. Export it at the rate of the edit.`,
    )
  }
  return {
    rate,
    frames: times.length,
    width: video.width,
    height: video.height,
    codec: video.codec_name,
    variable,
    hasSound: streams.some((stream) => stream.codec_type === 'audio'),
  }
}

/** Times of all packets in seconds, in the order of showing. A packet without a time follows the one before. */
function packetTimes(csv: string): number[] {
  const lines = csv.split('\n').filter((line) => line.trim() !== '')
  return lines
    .map((line) => Number.parseFloat(line))
    .map((time, index) => (Number.isFinite(time) ? time : index))
    .sort((a, b) => a - b)
}

/** Says whether any frame is shown for half as long again, or half as long, as most are. */
function isUneven(times: readonly number[]): boolean {
  const gaps = times.slice(1).map((time, index) => time - (times[index] ?? 0))
  const usual = [...gaps].sort((a, b) => a - b)[gaps.length >> 1] ?? 0
  return gaps.some((gap) => Math.abs(gap - usual) > usual / 2)
}

/** The supported rate within 3 % of a measured one, or null. */
function nearestRate(fps: number): FrameRate | null {
  const distance = (rate: FrameRate): number => Math.abs((fps * rate.den) / rate.num - 1)
  const [best] = Object.values(FRAME_RATES).sort((a, b) => distance(a) - distance(b))
  return best && distance(best) < 0.03 ? best : null
}

function rational(text: string): [number, number] {
  const [num = 0, den = 0] = text.split('/').map(Number)
  return [num, den]
}

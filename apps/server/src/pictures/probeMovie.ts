import { findPacing, rateFromRational, type FrameRate, type Pacing } from '@yodel/core'
import { z } from 'zod'
import { AppError, reasonOf } from '../errors.js'
import { inputArgs, runTool } from '../processes/runTool.js'
import type { Settings } from '../settings.js'

/** What ffprobe says about a movie. */
export interface MovieFacts {
  readonly rate: FrameRate
  /** Frames of the picture, counted, not estimated. */
  readonly frames: number
  /** When the first of them is shown, in seconds as the file counts. */
  readonly firstTime: number
  readonly width: number
  readonly height: number
  readonly codec: string
  /** How its frames lie on the rate; where they are not even, they are put on it by their times. */
  readonly pacing: Pacing
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

/** Half an hour: a movie of many gigabytes on a slow disk is read from end to end. */
const PROBE_TIMEOUT_MS = 30 * 60_000

/**
 * Reads rate, size and number of frames off a movie file.
 *
 * @throws AppError `MOVIE_UNREADABLE`, `MOVIE_NO_PICTURE`
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
    ? shownTimes(
        (
          await probe(
            ...['-select_streams', String(video.index)],
            ...['-show_entries', 'packet=pts_time,dts_time,flags', '-of', 'csv=p=0'],
          )
        ).toString(),
        declaredOf(video)[0],
      )
    : []
  if (!video || times.length === 0 || video.width === 0) {
    throw new AppError(
      'MOVIE_NO_PICTURE',
      `${name} holds no picture${streams.length > 0 ? `, only ${streams.map((stream) => stream.codec_type).join(' and ')}` : ''}. Bring in a movie file; recordings belong on a shelf.`,
    )
  }
  const pacing = findPacing(times, declaredOf(video))
  return {
    ...{ rate: pacing.rate, pacing },
    ...{ frames: times.length, firstTime: times[0] ?? 0 },
    width: video.width,
    height: video.height,
    codec: video.codec_name,
    hasSound: streams.some((stream) => stream.codec_type === 'audio'),
  }
}

/** Rates that a stream states and a reel can have: that of its shortest frames, then the mean. */
function declaredOf(stream: z.infer<typeof streamSchema>): FrameRate[] {
  return [stream.r_frame_rate, stream.avg_frame_rate].flatMap((text) => {
    const [num = 0, den = 0] = text.split('/').map(Number)
    return rateFromRational(num, den) ?? []
  })
}

/**
 * When frames are shown, in seconds and in that order, by the lines of their packets: time of showing, of decoding, marks. Frames that
 * are only decoded for others to be shown are left out. Where packets have no times, they follow each other at the stated rate.
 */
function shownTimes(csv: string, rate: FrameRate | undefined): number[] {
  const packets = csv
    .split('\n')
    .map((line) => line.trim().split(','))
    .filter(([, , flags = '']) => flags !== '' && !flags.includes('D'))
  const readAs = (column: 0 | 1): number[] => packets.map((packet) => Number.parseFloat(packet[column] ?? ''))
  const whole = (times: number[]): number[] | null =>
    times.length > 0 && times.every(Number.isFinite) ? times : null
  const shown = readAs(0)
  // Some streams say of a few frames only when they are shown; all are decoded that much earlier.
  const decoded = whole(readAs(1))
  const ahead = decoded ? earliest(shown) - earliest(decoded) : 0
  const known = whole(shown) ?? decoded?.map((time) => time + (Number.isFinite(ahead) ? ahead : 0))
  const step = rate ? rate.den / rate.num : 1 / 25
  return (known ?? packets.map((_, index) => index * step)).sort((a, b) => a - b)
}

const earliest = (times: readonly number[]): number =>
  times.reduce((first, time) => (time < first ? time : first), Infinity)

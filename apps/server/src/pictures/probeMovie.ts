import {
  findPacing,
  formatTimecode,
  FRAME_RATES,
  parseTimecode,
  rateFromRational,
  SAMPLE_RATE,
  type FrameRate,
  type FrameRateId,
  type Pacing,
} from '@yodel/core'
import { z } from 'zod'
import { AppError, reasonOf } from '../errors.js'
import { inputArgs, runTool } from '../processes/runTool.js'
import type { Settings } from '../settings.js'
import { soundsOf, type MovieSound } from './movieSounds.js'

/** What ffprobe says about a movie. */
export interface MovieFacts {
  readonly rate: FrameRate
  /** Frames of the picture, counted, not estimated; put on the rate where they are not even. */
  readonly frames: number
  /** When the first of them is shown, in seconds as the file counts. */
  readonly firstTime: number
  /** Pixels as it is shown: with square pixels, and turned where the file says so. */
  readonly width: number
  readonly height: number
  readonly codec: string
  /** Its sound tracks, in the order of the file. */
  readonly sounds: readonly MovieSound[]
  /** Timecode of its first frame, where the file has one. */
  readonly start: string | null
  /** Seconds that the file says it has beyond what it holds; 0 for one that is whole. */
  readonly missing: number
  /** How its frames lie on the rate; where they are not even, they are put on it by their times. */
  readonly pacing: Pacing
}

/** What ffprobe calls a form that it does not know. */
const UNKNOWN = 'unknown'

const streamSchema = z.object({
  index: z.number(),
  codec_type: z.string(),
  channels: z.number().default(0),
  channel_layout: z.string().default(''),
  sample_rate: z.coerce.number().default(SAMPLE_RATE),
  sample_aspect_ratio: z.string().default(''),
  duration: z.coerce.number().optional(),
  nb_frames: z.coerce.number().optional(),
  tags: z.record(z.string(), z.string()).default({}),
  side_data_list: z.array(z.object({ rotation: z.number().default(0) })).default([]),
  codec_name: z.string().default(UNKNOWN),
  codec_tag_string: z.string().default(''),
  width: z.number().default(0),
  height: z.number().default(0),
  r_frame_rate: z.string().default('0/0'),
  avg_frame_rate: z.string().default('0/0'),
  disposition: z.object({ attached_pic: z.number().default(0) }).default({ attached_pic: 0 }),
})

const probeSchema = z.object({
  streams: z.array(streamSchema).default([]),
  format: z
    .object({
      start_time: z.coerce.number().default(0),
      duration: z.coerce.number().optional(),
      tags: z.record(z.string(), z.string()).default({}),
    })
    .default({ start_time: 0, tags: {} }),
})
type Probed = z.infer<typeof probeSchema>
type Stream = z.infer<typeof streamSchema>

/** What goes with the first packet of a stream. */
const FIRST_PACKET = ['-read_intervals', '%+#1', '-show_packets', '-of', 'json']

/** Half an hour: a movie of many gigabytes on a slow disk is read from end to end. */
const PROBE_TIMEOUT_MS = 30 * 60_000

/**
 * Reads rate, size, number of frames, sound tracks and timecode off a movie file.
 *
 * @param how - `shown`: its frames are those that can be decoded, which takes as long as that takes; else what its packets say.
 * @param tell - Told how far it has come, 0 to 1; a long file is read from end to end.
 * @throws AppError `MOVIE_UNREADABLE`, `MOVIE_NO_PICTURE`
 */
export async function probeMovie(
  settings: Pick<Settings, 'ffprobe'>,
  file: string,
  name: string,
  how: 'packets' | 'shown' = 'packets',
  tell: (part: number) => void = () => undefined,
): Promise<MovieFacts> {
  const probe = async (args: readonly string[], onData?: (piece: Buffer) => void): Promise<string> => {
    const text = await runTool(settings.ffprobe, ['-v', 'error', ...args, ...inputArgs(file)], {
      timeoutMs: PROBE_TIMEOUT_MS,
      ...(onData ? { onData } : {}),
    }).catch((error: unknown) => {
      throw new AppError(
        'MOVIE_UNREADABLE',
        `${name} can't be read as a movie: ${reasonOf(error)}. Check that it was copied whole, or export it again.`,
      )
    })
    return text.toString()
  }
  const probed = probeSchema.parse(JSON.parse(await probe(['-show_streams', '-show_format', '-of', 'json'])))
  const { streams } = probed
  const video = streams.find(
    (stream) => stream.codec_type === 'video' && stream.disposition.attached_pic === 0,
  )
  if (video?.codec_name === UNKNOWN)
    throw new AppError(
      'MOVIE_UNREADABLE',
      `The picture of ${name} is in a form (“${video.codec_tag_string}”) that ffmpeg on this computer does not know. Export it again, as H.264, ProRes or DNxHD.`,
    )
  const picked = video ? ['-select_streams', String(video.index)] : []
  if (video && /Encryption/.test(await probe([...picked, ...FIRST_PACKET])))
    throw new AppError(
      'MOVIE_UNREADABLE',
      `${name} is protected (encrypted), so its frames can’t be decoded. Ask for a copy without protection.`,
    )
  const entries = {
    packets: 'packet=pts_time,dts_time,duration_time,flags',
    shown: 'frame=best_effort_timestamp_time',
  }
  const pieces: Buffer[] = []
  if (video)
    await probe([...picked, '-show_entries', entries[how], '-of', 'csv=p=0'], (piece) => {
      pieces.push(piece)
      tell(partAt(piece, probed.format))
    })
  const listed = Buffer.concat(pieces).toString()
  const rates = video ? declaredOf(video) : []
  const times = how === 'packets' ? shownTimes(listed, rates[0]) : decodedTimes(listed)
  if (!video || times.length === 0 || video.width === 0) {
    throw new AppError(
      'MOVIE_NO_PICTURE',
      `${name} holds no picture${streams.length > 0 ? `, only ${streams.map((stream) => stream.codec_type).join(' and ')}` : ''}. Bring in a movie file; recordings belong on a shelf.`,
    )
  }
  const pacing = findPacing(times, rates)
  return {
    ...{ rate: pacing.rate, pacing },
    ...{ frames: times.length, firstTime: times[0] ?? 0 },
    ...shownSize(video),
    codec: video.codec_name,
    sounds: soundsOf(streams),
    start: startOf(probed, video, pacing.rate),
    missing: missingOf(probed, video, times, how === 'packets' ? listed : ''),
  }
}

/** How far a list of frames has come, by the time of its last whole line. */
function partAt(piece: Buffer, { start_time: start, duration }: Probed['format']): number {
  const time = Number.parseFloat(piece.toString('latin1').split('\n').at(-2) ?? '')
  return duration && Number.isFinite(time) ? Math.max(0, Math.min(1, (time - start) / duration)) : 0
}

/** Pixels as they are shown: square, and turned. */
function shownSize({ width, height, sample_aspect_ratio, side_data_list }: Stream): {
  width: number
  height: number
} {
  const [num = 1, den = 1] = sample_aspect_ratio.split(':').map(Number)
  const wide = num > 0 && den > 0 ? Math.round((width * num) / den) : width
  const isTurned = side_data_list.some(({ rotation }) => Math.abs(rotation) % 180 === 90)
  return isTurned ? { width: height, height: wide } : { width: wide, height }
}

/** The first frame's timecode: that of the file, its picture or its timecode track, or the time its sound says. */
function startOf({ format, streams }: Probed, video: Stream, rate: FrameRate): string | null {
  const places = [video, ...streams.filter(({ codec_type: type }) => type === 'data'), format, ...streams]
  const text = places.map(({ tags }) => tags['timecode']).find((found) => found !== undefined)
  if (text !== undefined) {
    const dropped = FRAME_RATES[`${rate.id}d` as FrameRateId]
    const isDrop = text.includes(';') && dropped
    const read = parseTimecode(text, isDrop ? dropped : rate)
    return read.ok ? formatTimecode(read.frame, isDrop ? dropped : rate) : null
  }
  const time = Number(format.tags['time_reference'])
  const sampleRate = streams.find(({ codec_type: type }) => type === 'audio')?.sample_rate
  if (!(time > 0) || !sampleRate) return null
  return formatTimecode(Math.round(((time / sampleRate) * rate.num) / rate.den), rate)
}

/** A file that misses less than this, in seconds, is whole. */
const WHOLE = 1

/** Seconds of picture that the head of the file promises and the file does not hold. */
function missingOf(
  { format, streams }: Probed,
  video: Stream,
  times: readonly number[],
  packets: string,
): number {
  const first = times[0] ?? 0
  // The last frame may be shown for as long as any is said to be: a still end is no missing one.
  const held = (times.at(-1) ?? first) - first + longestOf(packets)
  // A file's own length may be that of its sound.
  const isAlone = streams.every(({ codec_type: type }) => type !== 'audio')
  const said =
    video.duration ?? clockOf(video.tags['DURATION']) ?? (isAlone ? format.duration : undefined) ?? held
  // Some heads (AVI) count frames; their length ffprobe has set right by then.
  const count = packets.split('\n').filter((line) => line !== '').length
  const short = count === 0 ? 0 : (((video.nb_frames ?? 0) - count) * held) / count
  const missing = Math.max(said - held, short)
  return missing > WHOLE ? missing : 0
}

/** Seconds of a length as Matroska's tags write it, `00:00:08.000000000`. */
function clockOf(text: string | undefined): number | undefined {
  const parts = /^(\d+):(\d+):(\d+(?:\.\d+)?)$/.exec(text ?? '')
  return parts ? Number(parts[1]) * 3600 + Number(parts[2]) * 60 + Number(parts[3]) : undefined
}

/** How long the longest frame is shown, in seconds, as packets say it; 0 where they don't. */
const longestOf = (csv: string): number =>
  csv.split('\n').reduce((most, line) => Math.max(most, Number(line.split(',')[2]) || 0), 0)

const decodedTimes = (csv: string): number[] =>
  csv
    .split('\n')
    .map((line) => Number.parseFloat(line))
    .filter(Number.isFinite)
    .sort((a, b) => a - b)

/** Rates that a stream states and a reel can have: that of its shortest frames, then the mean. */
function declaredOf(stream: Stream): FrameRate[] {
  return [stream.r_frame_rate, stream.avg_frame_rate].flatMap((text) => {
    const [num = 0, den = 0] = text.split('/').map(Number)
    return rateFromRational(num, den) ?? []
  })
}

/**
 * When frames are shown, in seconds and in that order, by the lines of their packets: time of showing, of decoding, how long, marks. Frames that
 * are only decoded for others to be shown are left out. Where packets have no times, they follow each other at the stated rate.
 */
function shownTimes(csv: string, rate: FrameRate | undefined): number[] {
  const packets = csv
    .split('\n')
    .map((line) => line.trim().split(','))
    .filter(([, , , flags = '']) => flags !== '' && !flags.includes('D'))
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

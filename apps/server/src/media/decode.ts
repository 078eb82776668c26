import { SAMPLE_RATE } from '@yodel/core'
import { isDiskFull, reasonOf } from '../errors.js'
import type { Settings } from '../settings.js'
import { inputArgs, runTool } from '../processes/runTool.js'

const DECODE_TIMEOUT_MS = 30 * 60 * 1000
/** A movie of many gigabytes is read from end to end. */
const MOVIE_TIMEOUT_MS = 6 * 60 * 60 * 1000
/** Silence after a stretched sound: its length is good to a few samples only, and a clip may ask for its last. */
const MARGIN = 'apad=pad_len=4800'
const BEFORE = ['-nostdin', '-hide_banner', '-v', 'error']
const AFTER = ['-ar', String(SAMPLE_RATE), '-f', 'f32le', '-']

/** A file to be decoded. */
export interface DecodeOrder {
  readonly file: string
  /** As probed. */
  readonly channels: 1 | 2
  /** How many times as fast, its pitch kept (0.25 to 4; ffmpeg's atempo); 1 is as it is. */
  readonly stretch?: number
  /** Seconds, as the file counts, at which the first sample stands. Then its times hold: what is missing is silence. From its first sample, gapless, when left out. */
  readonly from?: number
  /** Which of a file's sounds; the first stream when left out. */
  readonly track?: SoundTrack
}

/** A sound of a file: one of its sound streams, and one or two channels of that or all. */
export interface SoundTrack {
  readonly stream: number
  /** From 0: one, or the left and the right one; none for all of them. */
  readonly picked: readonly number[]
  /** Its low channel is kept when it is mixed down. */
  readonly isWide: boolean
}

/**
 * Decodes a file's first sound stream, or another, to interleaved 32-bit floats at 48 kHz, mono or stereo
 * (more channels are mixed down), handing it on in whole sample frames as it comes.
 *
 * @returns Sample frames decoded.
 * @throws Error with the decoder's reason; also when nothing at all could be decoded.
 */
export async function decodeSound(
  settings: Pick<Settings, 'ffmpeg'>,
  { file, channels, stretch = 1, from, track }: DecodeOrder,
  onFrames: (interleaved: Float32Array) => void,
): Promise<number> {
  const frameBytes = 4 * channels
  let rest = Buffer.alloc(0)
  let frames = 0
  const decode = (mixing: readonly string[], filters: readonly string[]): Promise<unknown> => {
    const chain = filters.length > 0 ? ['-af', filters.join(',')] : []
    const clock = from === undefined ? [] : ['-copyts']
    const args = [
      ...BEFORE,
      ...clock,
      ...inputArgs(file),
      '-map',
      `0:a:${track?.stream ?? 0}`,
      '-vn',
      ...mixing,
      ...chain,
      ...AFTER,
    ]
    return runTool(settings.ffmpeg, args, {
      timeoutMs: DECODE_TIMEOUT_MS,
      onData: (piece) => {
        const bytes = rest.length > 0 ? Buffer.concat([rest, piece]) : piece
        const whole = bytes.length - (bytes.length % frameBytes)
        rest = Buffer.from(bytes.subarray(whole))
        if (whole === 0) return
        const copy = new Uint8Array(whole)
        copy.set(bytes.subarray(0, whole))
        frames += whole / frameBytes
        onFrames(new Float32Array(copy.buffer))
      },
    })
  }
  const filters = [...channelOf(track), ...tempoOf(stretch), ...timesOf(from)]
  await decode(['-ac', String(channels)], filters).catch(async (cause: unknown) => {
    const isPicked = (track?.picked.length ?? 0) > 0
    const error = new Error(reasonOf(cause).replace(`file:${file}: `, ''), { cause })
    if (frames > 0 || stretch !== 1 || isPicked || isDiskFull(cause)) throw error
    // More channels than any layout of loudspeakers can't be mixed down by rule: the first ones are taken.
    const first = `pan=${channels}c|c0=c0${channels === 2 ? '|c1=c1' : ''}`
    await decode([], [first, ...filters]).catch(() => {
      throw error
    })
  })
  if (frames === 0) throw new Error('The file holds no sound that can be decoded.')
  return frames
}

/**
 * Decodes several sounds of a file, as {@link decodeSound} does each of them, in one reading of the file.
 *
 * @param outs - What goes where; the files are replaced.
 * @throws Error with the decoder's reason when any of them can't be decoded; what was written is of no use then.
 */
export async function decodeSounds(
  settings: Pick<Settings, 'ffmpeg'>,
  { file, from }: Pick<DecodeOrder, 'file' | 'from'>,
  outs: readonly { readonly track: SoundTrack; readonly channels: 1 | 2; readonly out: string }[],
  signal: AbortSignal,
): Promise<void> {
  const clock = from === undefined ? [] : ['-copyts']
  const outputs = outs.flatMap(({ track, channels, out }) => {
    const filters = [...channelOf(track), ...timesOf(from)]
    return [
      ...['-map', `0:a:${track.stream}`, '-ac', String(channels)],
      ...(filters.length > 0 ? ['-af', filters.join(',')] : []),
      ...['-ar', String(SAMPLE_RATE), '-f', 'f32le', `file:${out}`],
    ]
  })
  await runTool(settings.ffmpeg, [...BEFORE, '-y', ...clock, ...inputArgs(file), ...outputs], {
    timeoutMs: MOVIE_TIMEOUT_MS,
    signal,
  })
}

/** Channels by themselves; or many mixed down with the low one among them, 3 dB down (common practice: the rules for mixing down leave it out). */
function channelOf(track: SoundTrack | undefined): string[] {
  if (!track) return []
  const [left, right] = track.picked
  if (right !== undefined) return [`pan=stereo|c0=c${left}|c1=c${right}`]
  if (left !== undefined) return [`pan=mono|c0=c${left}`]
  return track.isWide ? ['aresample=ochl=stereo:lfe_mix_level=0.7071'] : []
}

/** One step of atempo stretches to a half at most; at a quarter there are two. In floating point, whatever the file has. */
function tempoOf(stretch: number): string[] {
  if (stretch === 1) return []
  const steps = stretch < 0.5 ? ['atempo=0.5', `atempo=${stretch / 0.5}`] : [`atempo=${stretch}`]
  return ['aformat=flt', ...steps, MARGIN]
}

/** Lays sound where its times say, to the sample: silence where it is missing, nothing of what comes before. Times that are only rounded to milliseconds move nothing. */
function timesOf(from: number | undefined): string[] {
  return from === undefined
    ? []
    : [`asetpts=PTS-(${from})/TB`, `aresample=${SAMPLE_RATE}:async=1:min_hard_comp=0.01:first_pts=0`]
}

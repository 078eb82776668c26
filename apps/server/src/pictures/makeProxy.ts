import { createReadStream } from 'node:fs'
import { readdir, rename, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { STRIP_HEIGHT, STRIP_WIDTH } from '@yodel/core'
import { inputArgs, runTool } from '../processes/runTool.js'
import type { Settings } from '../settings.js'
import type { MovieFacts } from './probeMovie.js'

const PROXY_TIMEOUT_MS = 6 * 60 * 60 * 1000

/** Files made from a movie, inside its folder. */
export const PROXY_FILES = {
  video: 'frames.h264',
  index: 'frames.idx',
  strip: 'strip',
  sparse: 'sparse',
} as const

/** One thumbnail a second, for zooms at which single frames are too fine. */
export const sparseStep = (rate: { nominal: number }): number => rate.nominal

/**
 * Makes the proxy: 640x360 H.264, every frame a key frame, as a bare byte stream with an index of where each frame begins.
 * So frame n of the picture is the n-th entry of the index, whatever a container's time stamps say.
 *
 * @returns Number of frames made.
 */
export async function makeProxy(
  settings: Pick<Settings, 'ffmpeg'>,
  movie: string,
  facts: Pick<MovieFacts, 'rate' | 'frames' | 'width' | 'height'> & { readonly variable: boolean },
  folder: string,
  signal: AbortSignal,
  progress: (part: number) => void,
): Promise<number> {
  const video = path.join(folder, PROXY_FILES.video)
  const temporary = `${video}.new`
  // A movie that is not even shows, in each frame of the rate, what it shows at that moment.
  const { num, den } = facts.rate
  const conformed = facts.variable ? `setpts=PTS-STARTPTS,fps=${num}/${den}:round=near,` : ''
  const args = [
    ...[
      '-nostdin',
      '-hide_banner',
      '-v',
      'error',
      '-y',
      '-progress',
      'pipe:1',
      ...inputArgs(movie),
      '-map',
      '0:V:0',
      '-an',
      '-sn',
      '-dn',
    ],
    ...[
      '-vf',
      `${conformed}scale=${fitted(facts)},setsar=1,pad=640:360:(ow-iw)/2:(oh-ih)/2,format=yuv420p`,
      ...['-fps_mode', 'passthrough'],
    ],
    ...['-c:v', 'libx264', '-profile:v', 'baseline', '-preset', 'veryfast', '-crf', '24'],
    ...[
      '-x264-params',
      'keyint=1:scenecut=0:repeat-headers=1:annexb=1:aud=1:bframes=0',
      '-f',
      'h264',
      temporary,
    ],
  ]
  await runTool(settings.ffmpeg, args, {
    timeoutMs: PROXY_TIMEOUT_MS,
    signal,
    onData: (piece) => {
      const done = /frame=\s*(\d+)/g.exec(piece.toString())
      if (done) progress(Math.min(1, Number(done[1]) / facts.frames))
    },
  })
  const starts = await indexFrames(temporary)
  await writeFile(path.join(folder, PROXY_FILES.index), new Uint8Array(Float64Array.from(starts).buffer))
  await rename(temporary, video)
  return starts.length - 1
}

/** Size of a picture as it is shown, as large as the proxy has room for, in even pixels. */
function fitted({ width, height }: Pick<MovieFacts, 'width' | 'height'>): string {
  const scale = Math.min(640 / width, 360 / height)
  const even = (size: number, most: number): number =>
    Math.min(most, Math.max(2, 2 * Math.round((size * scale) / 2)))
  return `${even(width, 640)}:${even(height, 360)}`
}

/**
 * Finds where each frame of an Annex B stream begins: at its access unit delimiter (ITU-T H.264, 7.3.2.4; type 9).
 *
 * @returns Byte offsets of all frames, and the size of the file as the last entry.
 */
export async function indexFrames(file: string): Promise<number[]> {
  const starts: number[] = []
  let base = 0
  let carry = Buffer.alloc(0)
  for await (const piece of createReadStream(file, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>) {
    const bytes = Buffer.concat([carry, piece])
    for (let at = bytes.indexOf(DELIMITER); at >= 0; at = bytes.indexOf(DELIMITER, at + 4)) {
      if (at + 4 < bytes.length && ((bytes[at + 4] as number) & 31) === 9) starts.push(base + at)
    }
    const keep = Math.min(4, bytes.length)
    base += bytes.length - keep
    carry = bytes.subarray(bytes.length - keep)
  }
  return [...starts, base + carry.length]
}

const DELIMITER = Buffer.from([0, 0, 0, 1])

/** Makes the thumbnail sheets: every frame, and one a second, ten by ten on a JPEG. */
export async function makeStrip(
  settings: Pick<Settings, 'ffmpeg'>,
  rate: MovieFacts['rate'],
  folder: string,
  signal: AbortSignal,
): Promise<void> {
  const step = sparseStep(rate)
  for (const name of [PROXY_FILES.strip, PROXY_FILES.sparse]) {
    for (const old of await readdir(folder)) if (old.startsWith(`${name}-`)) await rm(path.join(folder, old))
  }
  const sheet = (name: string): string[] => [
    '-fps_mode',
    'passthrough',
    '-q:v',
    '5',
    path.join(folder, `${name}-%d.jpg`),
  ]
  const small = `scale=${STRIP_WIDTH}:${STRIP_HEIGHT}`
  const graph = `[0:v]${small},split[a][b];[a]tile=10x10[all];[b]select='not(mod(n,${step}))',tile=10x10[few]`
  const args = [
    ...[
      '-nostdin',
      '-hide_banner',
      '-v',
      'error',
      '-y',
      '-r',
      String(rate.nominal),
      ...inputArgs(path.join(folder, PROXY_FILES.video)),
      '-filter_complex',
      graph,
    ],
    ...['-map', '[all]', ...sheet(PROXY_FILES.strip), '-map', '[few]', ...sheet(PROXY_FILES.sparse)],
  ]
  await runTool(settings.ffmpeg, args, { timeoutMs: PROXY_TIMEOUT_MS, signal })
}

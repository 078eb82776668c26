import { readdir, rename, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { MOVEMENT_SIZE, MovementMeter, STRIP_HEIGHT, STRIP_WIDTH, type PictureMovement } from '@yodel/core'
import { isDiskFull, reasonOf } from '../errors.js'
import { inputArgs, runTool } from '../processes/runTool.js'
import type { Settings } from '../settings.js'
import { FrameIndex } from './FrameIndex.js'
import { letGrow } from './growing.js'
import type { MovieFacts } from './probeMovie.js'

const PROXY_TIMEOUT_MS = 24 * 60 * 60 * 1000
/** Milliseconds between two looks at how far the stream has grown. */
const LOOK_MS = 300

/** Files made from a movie, inside its folder. */
export const PROXY_FILES = {
  video: 'frames.h264',
  index: 'frames.idx',
  strip: 'strip',
  sparse: 'sparse',
  /** Made when it is first asked for; see poster.ts. */
  poster: 'poster.jpg',
} as const

/** One thumbnail a second, for zooms at which single frames are too fine. */
const sparseStep = (rate: { nominal: number }): number => rate.nominal

const UNDECODABLE =
  'None of its frames can be decoded: it is damaged, or in a form that ffmpeg on this computer does not know. Export it again, as H.264, ProRes or DNxHD.'

/** What is made from a movie. */
export interface ProxyOrder {
  readonly id: string
  readonly movie: string
  readonly facts: Pick<MovieFacts, 'rate' | 'frames' | 'width' | 'height'> & { readonly variable: boolean }
  readonly folder: string
}

/**
 * Makes the proxy in one decoding of the movie: 640x360 H.264, every frame a key frame, as a bare byte stream with an index of where
 * each frame begins, so that frame n of the picture is the n-th entry of the index, whatever a container's time stamps say;
 * the thumbnail sheets, every frame and one a second, ten by ten on a JPEG; and how it moves, for its cuts. What is there can be
 * looked at from the first second, see growing.ts.
 *
 * @returns Number of frames made, and how they move.
 */
export async function makeProxy(
  settings: Pick<Settings, 'ffmpeg'>,
  { id, movie, facts, folder }: ProxyOrder,
  signal: AbortSignal,
  progress: (part: number) => void,
): Promise<{ made: number; seen: PictureMovement }> {
  for (const old of await readdir(folder))
    if (old === PROXY_FILES.poster || /^(strip|sparse)-\d+\.jpg$/.test(old)) await rm(path.join(folder, old))
  const video = path.join(folder, PROXY_FILES.video)
  const temporary = `${video}.new`
  await rm(temporary, { force: true })
  const index = new FrameIndex(temporary)
  const end = letGrow(id, index)
  const looking = setInterval(() => void index.scan(), LOOK_MS)
  const meter = new MovementMeter()
  const size = MOVEMENT_SIZE.width * MOVEMENT_SIZE.height
  let carry = Buffer.alloc(0)
  let frames = 0
  try {
    await runTool(settings.ffmpeg, argsOf(movie, facts, folder, temporary), {
      timeoutMs: PROXY_TIMEOUT_MS,
      signal,
      onData: (piece) => {
        const bytes = Buffer.concat([carry, piece])
        const whole = Math.floor(bytes.length / size) * size
        for (let at = 0; at < whole; at += size) meter.push(bytes.subarray(at, at + size))
        carry = bytes.subarray(whole)
        frames += whole / size
        if (whole > 0) progress(Math.min(1, frames / facts.frames))
      },
    })
    clearInterval(looking)
    const starts = await index.finish()
    if (starts.length < 2) throw new Error('no frame came out of it')
    await writeFile(path.join(folder, PROXY_FILES.index), new Uint8Array(starts.buffer))
    await rename(temporary, video)
    return { made: starts.length - 1, seen: meter.finish() }
  } catch (error) {
    if (
      frames > 0 ||
      signal.aborted ||
      isDiskFull(error) ||
      /Unknown encoder|No such filter/.test(reasonOf(error))
    )
      throw error
    throw new Error(UNDECODABLE, { cause: error })
  } finally {
    clearInterval(looking)
    end()
  }
}

function argsOf(movie: string, facts: ProxyOrder['facts'], folder: string, video: string): string[] {
  const { num, den } = facts.rate
  // A movie that is not even shows, in each frame of the rate, what it shows at that moment.
  const conformed = facts.variable ? `setpts=PTS-STARTPTS,fps=${num}/${den}:round=near,` : ''
  const { width, height } = MOVEMENT_SIZE
  const graph = [
    `[0:V:0]${conformed}scale=${fitted(facts)},setsar=1,pad=640:360:(ow-iw)/2:(oh-ih)/2,format=yuv420p,split=2[video][small]`,
    `[small]scale=${STRIP_WIDTH}:${STRIP_HEIGHT}:flags=area,split=3[a][b][grey]`,
    '[a]tile=10x10[all]',
    `[b]select='not(mod(n,${sparseStep(facts.rate)}))',tile=10x10[few]`,
    `[grey]scale=${width}:${height}:flags=area,format=gray[moving]`,
  ].join(';')
  const out = (label: string, ...args: string[]): string[] => [
    ...['-map', `[${label}]`, '-fps_mode', 'passthrough', ...args],
  ]
  const sheet = (name: string): string[] => ['-q:v', '5', `file:${path.join(folder, `${name}-%d.jpg`)}`]
  // Key frames only: nothing to look ahead for, and each frame is written as soon as it is made.
  const x264 = 'keyint=1:scenecut=0:repeat-headers=1:annexb=1:aud=1:bframes=0:rc-lookahead=0:sync-lookahead=0'
  return [
    ...['-nostdin', '-hide_banner', '-v', 'error', '-y', ...inputArgs(movie), '-filter_complex', graph],
    ...out('video', '-c:v', 'libx264', '-profile:v', 'baseline', '-preset', 'veryfast', '-crf', '24'),
    ...['-x264-params', x264, '-flush_packets', '1', '-f', 'h264', `file:${video}`],
    ...out('all', ...sheet(PROXY_FILES.strip)),
    ...out('few', ...sheet(PROXY_FILES.sparse)),
    ...out('moving', '-f', 'rawvideo', 'pipe:1'),
  ]
}

/** Size of a picture as it is shown, as large as the proxy has room for, in even pixels. */
function fitted({ width, height }: Pick<MovieFacts, 'width' | 'height'>): string {
  const scale = Math.min(640 / width, 360 / height)
  const even = (size: number, most: number): number =>
    Math.min(most, Math.max(2, 2 * Math.round((size * scale) / 2)))
  return `${even(width, 640)}:${even(height, 360)}`
}

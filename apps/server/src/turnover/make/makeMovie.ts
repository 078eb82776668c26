import { copyFile, mkdir, rm, writeFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import path from 'node:path'
import {
  burntCues,
  currentCut,
  FRAME_RATES,
  formatTimecode,
  frames,
  frameToSample,
  nameByRule,
  rateOf,
  reelOf,
  samplesOfFrames,
  type FrameRateId,
  type Recipe,
} from '@yodel/core'
import { PictureEntity } from '../../db/entities.js'
import type { PictureRow } from '../../db/rows.js'
import type { JobContext } from '../../jobs/JobQueue.js'
import { inputArgs, runTool } from '../../processes/runTool.js'
import type { Stand } from '../../reels/reelStore.js'
import type { TurnoverDeps, Written } from './makeTurnover.js'

const require = createRequire(import.meta.url)
const FONTS = { words: 'DejaVuSans.ttf', figures: 'DejaVuSansMono.ttf' } as const
const TIMEOUT_MS = 6 * 60 * 60 * 1000
/** Pictures that an MP4 can hold as they are (ISO/IEC 14496-14 and its registered codecs, common ones). */
const IN_MP4 = new Set(['h264', 'hevc', 'mpeg4', 'av1'])
/** How a picture is made anew: H.264 at a quality at which the loss is not seen (common practice). */
const ENCODED = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-pix_fmt', 'yuv420p'] as const

/** The movie with the new sound, or why there is none. */
export interface MadeMovie {
  readonly written: Written[]
  readonly remarks: string[]
}

/**
 * Makes the movie for review: the picture's own stream with the mix beside it, or with timecode and cues burnt in. Its first
 * frame meets the mix where its cut stands on the reel; what the mix does not reach is silent.
 *
 * @param mix - The bounced mix. @param first - Frame of the reel at which it begins.
 */
export async function makeMovie(
  deps: Pick<TurnoverDeps, 'db' | 'settings'>,
  { doc }: Stand,
  recipe: Recipe,
  sound: { readonly mix: string; readonly first: number },
  folder: string,
  { signal, progress }: Pick<JobContext, 'signal' | 'progress'>,
  date: string,
): Promise<MadeMovie> {
  const cut = currentCut(doc)
  const row = cut && (await deps.db.getRepository(PictureEntity).findOneBy({ id: cut.pictureId }))
  if (!cut || !row) return { written: [], remarks: ['There is no movie: the reel has no picture.'] }
  progress(0, 'Making the movie')
  const reel = reelOf(doc)
  const ending = recipe.movie === 'mov' ? 'mov' : 'mp4'
  const name = nameByRule(
    { ...reel, nameRule: recipe.nameRule || reel.nameRule },
    recipe.movie === 'burnt' ? 'review cues' : 'review',
    date,
  )
  const inside = `movie/${name}.${ending}`
  const work = path.join(folder, 'movie')
  await mkdir(path.join(work, 'fonts'), { recursive: true })
  if (recipe.movie === 'burnt') {
    await writeFile(path.join(work, 'cues.ass'), burntCues(doc, cut.offset, 'DejaVu Sans'))
    for (const font of Object.values(FONTS))
      await copyFile(require.resolve(`dejavu-fonts-ttf/ttf/${font}`), path.join(work, 'fonts', font))
  }
  const isCopied = recipe.movie !== 'burnt' && (ending === 'mov' || IN_MP4.has(row.codec))
  const timecode = formatTimecode(reel.firstFrame + cut.offset, rateOf(doc))
  const args = [
    ...['-nostdin', '-v', 'error', '-y', ...inputArgs(row.file), ...inputArgs(sound.mix)],
    ...[
      '-filter_complex',
      filters(recipe, row, { ...sound, offset: cut.offset, rate: rateOf(doc), timecode }),
    ],
    ...['-map', recipe.movie === 'burnt' ? '[v]' : '0:v:0', '-map', '[a]'],
    ...(isCopied ? ['-c:v', 'copy'] : ENCODED),
    ...(ending === 'mov'
      ? ['-c:a', 'pcm_s24le']
      : ['-c:a', 'aac', '-b:a', '320k', '-movflags', '+faststart']),
    ...['-timecode', timecode, '-map_metadata', '-1', `file:${path.join(folder, inside)}`],
  ]
  await runTool(deps.settings.ffmpeg, args, { timeoutMs: TIMEOUT_MS, signal, cwd: work })
  await rm(path.join(work, 'fonts'), { recursive: true })
  await rm(path.join(work, 'cues.ass'), { force: true })
  const remarks =
    isCopied || recipe.movie === 'burnt'
      ? []
      : [`The picture of the movie was encoded anew: an MP4 can’t hold ${row.codec}.`]
  return { written: [{ path: inside, kind: 'movie', title: 'Movie for review' }], remarks }
}

/** The mix laid against the picture, exactly as long as that; and the picture with timecode and cues, where those are burnt in. */
function filters(
  { movie }: Pick<Recipe, 'movie'>,
  picture: Pick<PictureRow, 'frames' | 'rate'>,
  at: {
    readonly first: number
    readonly offset: number
    readonly rate: ReturnType<typeof rateOf>
    readonly timecode: string
  },
): string {
  const own = FRAME_RATES[picture.rate as FrameRateId]
  const late = frameToSample(frames(at.first), at.rate) - frameToSample(frames(at.offset), at.rate)
  const place = late < 0 ? `atrim=start_sample=${-late},asetpts=PTS-STARTPTS` : `adelay=${late}S:all=1`
  const length = samplesOfFrames(0, picture.frames, own)
  const sound = `[1:a]${place},apad=whole_len=${length},atrim=end_sample=${length}[a]`
  if (movie !== 'burnt') return sound
  const clock = `drawtext=fontfile=fonts/${FONTS.figures}:timecode='${at.timecode.replace(/[:;]/g, (mark) => `\\${mark}`)}':r=${own.num}/${own.den}:x=10:y=10:fontsize=h/18:fontcolor=white:box=1:boxcolor=black@0.5:boxborderw=4`
  return `[0:v]${clock},subtitles=cues.ass:fontsdir=fonts[v];${sound}`
}

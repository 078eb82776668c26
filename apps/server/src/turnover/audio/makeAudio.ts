import { rm, writeFile } from 'node:fs/promises'
import { MessageChannel } from 'node:worker_threads'
import {
  audioFiles,
  fileName,
  frames,
  frameToSample,
  ixmlText,
  planFor,
  planReel,
  rateOf,
  reelOf,
  twoPopOf,
  type AudioFile,
  type Bext,
  type Measured,
  type Recipe,
} from '@yodel/core'
import type { Piscina } from 'piscina'
import type { DataSource } from 'typeorm'
import { explainDisk } from '../../errors.js'
import { goneFromShelves } from '../goneFromShelves.js'
import type { JobContext } from '../../jobs/JobQueue.js'
import { decodeMedia } from '../../media/decodeMedia.js'
import type { MediaStore } from '../../media/MediaStore.js'
import type { Stand } from '../../reels/reelStore.js'
import type { MixOrder, MixReport } from './mixWorker.js'
import type { WavMeasures } from './WavPart.js'

/** What audio is made with. */
export interface AudioDeps {
  readonly db: DataSource
  readonly media: MediaStore
  /** Threads that mix. */
  readonly pool: Piscina<MixOrder, MixReport>
  readonly clock: () => Date
}

/** An audio file that was made. */
export interface MadeAudio extends AudioFile {
  readonly file: string
  readonly measures: WavMeasures
}

const encode = (text: string): Uint8Array => new TextEncoder().encode(text)

/**
 * Makes all audio files of a recipe in one pass: 48 kHz, 24 bit, Broadcast WAV. The same reel, recipe and sounds give
 * the same files to the last bit, wherever they are made: their date is that of the reel's last change.
 *
 * @param place - Where a file goes; none may be there. All are taken away when anything fails.
 * @throws Error which names a sound that is gone or short, AppError `DISK_FULL`
 */
export async function makeAudio(
  deps: AudioDeps,
  stand: Stand,
  recipe: Recipe,
  context: Pick<JobContext, 'signal' | 'progress'>,
  place: (file: AudioFile) => string,
): Promise<{ files: MadeAudio[]; measured: Measured }> {
  const { doc, seq } = stand
  const reel = reelOf(doc)
  const rate = rateOf(doc)
  const plan = planFor(planReel(doc), recipe.treatment)
  const files = audioFiles(doc, plan, recipe, deps.clock().toISOString().slice(0, 10))
  const ids = plan.strips.flatMap(({ voices }) => voices.map((voice) => voice.mediaId))
  const media = await decodeMedia(
    deps,
    ids,
    (soundId) => goneFromShelves(doc, soundId),
    (index, count) => {
      context.signal.throwIfAborted()
      context.progress((0.5 * index) / count, 'Reading the sounds')
    },
  )
  const first = recipe.from === 'programme' ? reel.programme : 0
  const made = files.map((file) => ({ ...file, file: place(file) }))
  const { port1, port2 } = new MessageChannel()
  port1.on('message', (part: number) => context.progress(0.5 + part / 2, 'Mixing'))
  try {
    for (const { file } of made) await writeFile(file, '')
    const timeReference = frameToSample(frames(reel.firstFrame + first), rate)
    const order: MixOrder = {
      ...{ plan, media, truePeak: recipe.truePeak },
      span: { from: frameToSample(frames(first), rate), to: frameToSample(frames(reel.length), rate) },
      files: made.map(({ source, title, file }) => ({
        ...{ source, out: file },
        bext: bextOf(stand, title, timeReference),
        ixml: encode(
          ixmlText({
            ...{ project: reel.show, scene: reel.name, note: title, rate, bits: 24, timeReference },
            tracks: [`${title} L`, `${title} R`],
          }),
        ),
      })),
      pop: recipe.twoPop && recipe.from === 'leader' ? twoPopOf(reel) : null,
    }
    const report = await deps.pool.run(
      { ...order, port: port2 },
      { transferList: [port2], signal: context.signal },
    )
    if (report.misses > 0)
      throw new Error(
        `${report.misses} pieces of sound were shorter than the reel says; index their shelves again.`,
      )
    const result = made.map((one, index) => ({ ...one, measures: report.files[index] as WavMeasures }))
    return { files: result, measured: measuredOf(result, recipe, seq, report.residual) }
  } catch (error) {
    for (const { file } of made) await rm(file, { force: true })
    throw explainDisk(error, 'the mix')
  } finally {
    port1.close()
  }
}

function bextOf({ doc, changedAt }: Stand, title: string, timeReference: number): Bext {
  const reel = reelOf(doc)
  const changed = changedAt.toISOString()
  return {
    description: `${reel.show}, ${reel.name}, ${title}`,
    originator: 'Yodel',
    // Nothing of the day on which it is made: the file's name may hold that.
    originatorReference: fileName(reel.name, title).slice(0, 32),
    date: changed.slice(0, 10),
    time: changed.slice(11, 19),
    timeReference,
    codingHistory: 'A=PCM,F=48000,W=24,M=stereo,T=Yodel\r\n',
  }
}

/** What the files say of the mix: its loudness and true peak, and every place where it or a stem is over. */
function measuredOf(
  files: readonly MadeAudio[],
  recipe: Recipe,
  seq: number,
  residual: number | null,
): Measured {
  const mix = files.find(({ source }) => source.of === 'whole')?.measures
  return {
    ...{ seq, residual, treatment: recipe.treatment, limit: recipe.truePeak },
    loudness: mix?.integrated ?? null,
    truePeak: mix?.truePeak ?? null,
    overs: files.flatMap(({ source, title, measures }) =>
      source.of === 'track'
        ? []
        : measures.places.map((place) => ({ ...place, what: source.of === 'whole' ? 'The mix' : title })),
    ),
  }
}

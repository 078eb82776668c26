import { randomUUID } from 'node:crypto'
import { rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { packSamples24, soundIxml, speechOf, wavHeader, type Saying, type Sound } from '@yodel/core'
import { explainDisk } from '../errors.js'
import { giveName, MADE, makeMadeShelf } from '../made/madeShelf.js'
import type { Services } from '../services.js'
import { hearNow } from '../sounds/hearShelf.js'
import { readNow } from '../sounds/readShelf.js'
import { oneSound } from '../sounds/soundRows.js'
import type { Speech } from './VoiceBox.js'

/** Where a line is said for a cue: what its file says of that. */
export interface LineFor {
  readonly reelId: string
  /** `DX 004`. */
  readonly cue: string
  /** Samples since midnight of the cue's sync. */
  readonly timeReference: number
  /** Who has it said, as edits are signed. */
  readonly by: string
}

/** Words of a line by which its file is called. */
const NAME_WORDS = 6

/** A WAV file of 24 bits that a line was said in. */
export function speechWav(
  { samples, rate }: Speech,
  facts: Partial<Parameters<typeof wavHeader>[0]> = {},
): Buffer {
  const head = wavHeader({ channels: 1, bits: 24, sampleRate: rate, length: samples.length, ...facts })
  const { bytes } = packSamples24(samples)
  return Buffer.concat([head, bytes, Buffer.alloc(bytes.length % 2)])
}

/**
 * Keeps a line that was said as a recording on the shelf of what is made for the show: its text, its cue and how it was made
 * stand in it. It can be placed when this returns. The same line for the same cue is the same recording.
 *
 * @throws AppError `REEL_MISSING`, `DISK_FULL`
 */
export async function keepLine(
  services: Services,
  speech: Speech,
  { line }: Saying,
  { reelId, cue, timeReference, by }: LineFor,
): Promise<Sound> {
  const { db, media, settings } = services
  const text = line.text.trim()
  const words = speechOf(text).flatMap((piece) => ('words' in piece ? piece.words.split(' ') : []))
  const name = `Scratch ${cue} ${words.slice(0, NAME_WORDS).join(' ')}`.trim()
  const [engine = '', ...voice] = line.voice.split(' ')
  const pace = line.pace === 'cue' ? 'as long as the cue' : `${line.pace} words a minute`
  const shelf = await makeMadeShelf({ db, media }, reelId)
  const unfinished = path.join(await media.folder('incoming'), `${randomUUID()}.part`)
  try {
    const wav = speechWav(speech, {
      bext: {
        ...{ description: text, originator: 'Yodel', originatorReference: cue, timeReference },
        // Nothing of the day, so that the same line gives the same file.
        ...{ date: '', time: '' },
        codingHistory: `A=PCM,F=${speech.rate},W=24,M=mono,T=${line.voice}; ${pace}; asked for by ${by}\r\n`,
      },
      ixml: new TextEncoder().encode(
        soundIxml({
          ...{ name, note: text, category: 'Voices', licence: '' },
          keywords: ['scratch voice', 'temporary', engine, voice.join(' '), cue].join(', '),
        }),
      ),
    })
    await writeFile(unfinished, wav)
    const { path: file } = await giveName(unfinished, { root: shelf.root, folder: MADE.voices, name })
    const id = await readNow({ db, settings }, shelf, file)
    await hearNow(services, id)
    return await oneSound(db, id)
  } catch (error) {
    throw explainDisk(error, 'this line')
  } finally {
    await rm(unfinished, { force: true })
  }
}

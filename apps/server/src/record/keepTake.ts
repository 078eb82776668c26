import { randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { SAMPLE_RATE, soundIxml, wavHeader, type Sound, type TakeEnd } from '@yodel/core'
import { AppError, explainDisk } from '../errors.js'
import { giveName, MADE, makeMadeShelf } from '../made/madeShelf.js'
import type { Services } from '../services.js'
import { hearNow } from '../sounds/hearShelf.js'
import { readNow } from '../sounds/readShelf.js'
import { reindex } from '../sounds/reindex.js'
import { oneSound } from '../sounds/soundRows.js'

/** Samples of a day, after which timecode begins anew. */
const DAY = 24 * 60 * 60 * SAMPLE_RATE
/** A longer take is listened to by the shelf's own run: nobody waits for that. */
const HEARD_AT_ONCE = 60 * SAMPLE_RATE

/**
 * Ends a take: it becomes a recording on the shelf of what is made for the show, 32-bit float, with cue, timecode, device and how it
 * was placed written into it. It can be placed when this returns. Ending it again gives the same recording.
 *
 * @throws AppError `NOT_FOUND`, `TAKE_GAP`; `TAKE_EMPTY` where nothing of it came in; `DISK_FULL`
 */
export async function keepTake(services: Services, id: string, wanted: TakeEnd): Promise<Sound> {
  const { db, media, settings, takes } = services
  const { about, by, at, end, file, length } = await takes.end(id, wanted)
  if (length === 0) throw new AppError('TAKE_EMPTY', `Nothing of ${about.name} was recorded.`)
  const milliseconds = ((1000 * about.roundTrip) / SAMPLE_RATE).toFixed(1)
  const placed = `placed ${milliseconds} ms earlier (${about.measured ? 'measured' : 'as the browser says'})`
  const said = `${about.name}, recorded to picture through ${about.device || 'an unnamed device'}; ${placed}`
  const shelf = await makeMadeShelf({ db, media }, about.reelId)
  const unfinished = path.join(await media.folder('incoming'), `${randomUUID()}.part`)
  try {
    const head = wavHeader({
      ...{ channels: about.channels, bits: 32, sampleRate: SAMPLE_RATE, length },
      bext: {
        ...{ description: said, originator: 'Yodel', originatorReference: about.id.slice(0, 32) },
        ...{ date: at.slice(0, 10), time: at.slice(11, 19) },
        timeReference: (((about.reelAt + about.start + (end?.later ?? 0)) % DAY) + DAY) % DAY,
        codingHistory: `A=PCM,F=${SAMPLE_RATE},W=32,M=${about.channels === 1 ? 'mono' : 'stereo'},T=recorded by ${by}\r\n`,
      },
      ixml: new TextEncoder().encode(
        soundIxml({
          ...{ name: about.name, note: [said, end?.note].filter(Boolean).join('. '), category: '' },
          ...{ keywords: `take, recorded, ${about.name.split(' take ')[0] ?? ''}`, licence: '' },
        }),
      ),
    })
    await writeFile(unfinished, head)
    const bytes = length * 4 * about.channels
    await writeFile(unfinished, createReadStream(file, { end: bytes - 1 }), { flag: 'a' })
    const named = await giveName(unfinished, { root: shelf.root, folder: MADE.takes, name: about.name })
    const soundId = await readNow({ db, settings }, shelf, named.path)
    if (length <= HEARD_AT_ONCE) await hearNow(services, soundId)
    else await reindex(services, shelf.id)
    return await oneSound(db, soundId)
  } catch (error) {
    throw explainDisk(error, about.name)
  } finally {
    await rm(unfinished, { force: true })
  }
}

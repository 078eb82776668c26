import { open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { takeAboutSchema, takeEndSchema, type OpenTake, type TakeAbout, type TakeEnd } from '@yodel/core'
import { z } from 'zod'
import { AppError, explainDisk } from '../errors.js'
import type { MediaStore } from '../media/MediaStore.js'

const FLOAT = 4

const keptSchema = z.object({
  about: takeAboutSchema,
  /** Who records, and when that began (ISO 8601). */
  by: z.string(),
  at: z.string(),
  /** How it ended; null while it is recorded. */
  end: takeEndSchema.nullable(),
})

/** A take as it stands on disk beside its samples. */
export type KeptTake = z.infer<typeof keptSchema>

/**
 * Takes that are being recorded, or have not come onto their cues yet: for each a file with what is known of it, and one with its
 * samples (32-bit floats, channels interleaved), which grows as they come. Whatever is answered stands in that file.
 */
export class TakeFiles {
  private readonly doing = new Map<string, Promise<unknown>>()

  constructor(private readonly media: Pick<MediaStore, 'folder'>) {}

  /** Begins a take. Beginning it again changes nothing. @throws AppError `DISK_FULL` */
  begin(about: TakeAbout, by: string, at: Date): Promise<void> {
    return this.inTurn(about.id, async () => {
      if (await this.kept(about.id)) return
      await this.write({ about, by, at: at.toISOString(), end: null })
    })
  }

  /**
   * Writes samples at the end of a take. What is there already is left as it is, so that sending twice is harmless.
   *
   * @param from - Number of the first sample of each channel
   * @returns Samples of each channel that are there now
   * @throws AppError `NOT_FOUND`; `BAD_REQUEST` for half samples; `TAKE_GAP` where samples before these are missing, with `details.length`; `DISK_FULL`
   */
  append(id: string, from: number, bytes: Buffer): Promise<number> {
    return this.inTurn(id, async () => {
      const kept = await this.need(id)
      const { about } = kept
      const frame = FLOAT * about.channels
      if (bytes.length % frame !== 0)
        throw new AppError('BAD_REQUEST', `Samples of ${about.name} came in part; send them whole.`)
      const there = await this.length(about)
      if (from > there)
        throw new AppError('TAKE_GAP', `${about.name} has samples up to ${there} only; send those first.`, {
          length: there,
        })
      const fresh = bytes.subarray((there - from) * frame)
      if (fresh.length === 0) return there
      // Somebody took it for left and ended it; whoever records it is back.
      if (kept.end) await this.write({ ...kept, end: null })
      const file = await open(await this.samplesOf(id), 'a').catch((error: unknown) => {
        throw explainDisk(error, about.name)
      })
      try {
        const { size } = await file.stat()
        // Half a sample is left where a write was broken off.
        if (size > there * frame) await file.truncate(there * frame)
        await file.appendFile(fresh)
      } catch (error) {
        throw explainDisk(error, `a part of ${about.name}`)
      } finally {
        await file.close()
      }
      return this.length(about)
    })
  }

  /** Says how a take ended. @returns It, with the samples that are there @throws AppError `NOT_FOUND`; `TAKE_GAP` where samples are missing yet */
  end(id: string, end: TakeEnd): Promise<KeptTake & { file: string; length: number }> {
    return this.inTurn(id, async () => {
      const kept = await this.need(id)
      const there = await this.length(kept.about)
      if (end.length !== null && there < end.length)
        throw new AppError('TAKE_GAP', `${kept.about.name} is not all here yet; send the rest first.`, {
          length: there,
        })
      const ended = { ...kept, end: kept.end ?? { ...end, length: there } }
      if (!kept.end) await this.write(ended)
      return { ...ended, file: await this.samplesOf(id), length: there }
    })
  }

  /** Forgets a take: it has come onto its cue, or is thrown away. */
  forget(id: string): Promise<void> {
    return this.inTurn(id, async () => {
      await rm(await this.aboutOf(id), { force: true })
      await rm(await this.samplesOf(id), { force: true })
    })
  }

  /** The takes of a reel that have not come onto their cues, the oldest first. */
  async open(reelId: string, now: Date): Promise<OpenTake[]> {
    const names = await readdir(await this.media.folder('takes'))
    const found: (OpenTake & { at: string })[] = []
    for (const name of names.filter((one) => one.endsWith('.json'))) {
      const kept = await this.kept(name.slice(0, -'.json'.length))
      if (kept?.about.reelId !== reelId) continue
      const { at, end } = kept
      const about = { ...kept.about, start: kept.about.start + (end?.later ?? 0) }
      const written = await stat(await this.samplesOf(about.id)).catch(() => null)
      const silent = (now.getTime() - (written?.mtimeMs ?? Date.parse(at))) / 1000
      found.push({ about, at, length: await this.length(about), silent: Math.max(0, silent) })
    }
    return found
      .sort((a, b) => (a.at < b.at ? -1 : 1))
      .map(({ about, length, silent }) => ({ about, length, silent }))
  }

  private async need(id: string): Promise<KeptTake> {
    const kept = await this.kept(id)
    if (!kept)
      throw new AppError('NOT_FOUND', `There is no take ${id}; it may have come onto its cue already.`)
    return kept
  }

  private async kept(id: string): Promise<KeptTake | null> {
    try {
      return keptSchema.safeParse(JSON.parse(await readFile(await this.aboutOf(id), 'utf8'))).data ?? null
    } catch {
      // There is none, or a power cut has left none.
      return null
    }
  }

  private async write(kept: KeptTake): Promise<void> {
    const file = await this.aboutOf(kept.about.id)
    try {
      await writeFile(`${file}.new`, JSON.stringify(kept))
      await rename(`${file}.new`, file)
    } catch (error) {
      throw explainDisk(error, kept.about.name)
    }
  }

  private async length({ id, channels }: TakeAbout): Promise<number> {
    const file = await stat(await this.samplesOf(id)).catch(() => null)
    return Math.floor((file?.size ?? 0) / (FLOAT * channels))
  }

  private async aboutOf(id: string): Promise<string> {
    return path.join(await this.media.folder('takes'), `${id}.json`)
  }

  private async samplesOf(id: string): Promise<string> {
    return path.join(await this.media.folder('takes'), `${id}.f32`)
  }

  /** One thing after the other for each take. */
  private inTurn<T>(id: string, act: () => Promise<T>): Promise<T> {
    const mine = (this.doing.get(id) ?? Promise.resolve()).then(act)
    const settled = mine.then(
      () => undefined,
      () => undefined,
    )
    this.doing.set(id, settled)
    void settled.then(() => {
      if (this.doing.get(id) === settled) this.doing.delete(id)
    })
    return mine
  }
}

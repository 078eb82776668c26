import { randomUUID } from 'node:crypto'
import { closeSync, openSync, writeSync } from 'node:fs'
import { mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { PCM_CHUNK, PEAK_STEPS, PeakCollector, type PeakLevel } from '@yodel/core'
import { AppError, explainDisk, isDiskFull, reasonOf } from '../errors.js'
import type { Settings } from '../settings.js'
import { decodeSound, decodeSounds, type SoundTrack } from './decode.js'

/** A recording or a guide as the store finds it: where its file is, and a key that changes when the content does. */
export interface MediaSource {
  readonly key: string
  readonly file: string
  readonly name: string
  readonly channels: 1 | 2
  /** Speed at which it keeps its pitch; as it is when left out. */
  readonly stretch?: number
  /** Seconds, as the file counts, at which its first sample stands; then the file's times hold. */
  readonly from?: number
  /** Which of the file's sounds; the first when left out. */
  readonly track?: SoundTrack
}

/** Decoded sound on disk: interleaved 32-bit floats at 48 kHz. */
export interface Pcm {
  readonly file: string
  readonly channels: 1 | 2
  /** Sample frames. */
  readonly length: number
}

/** As many single sample frames are kept: both ends of ten thousand sounds. */
const FRAMES_KEPT = 20_000

/**
 * Keeps decoded sound and peaks in the data folder. Each is made on first need, once however many ask,
 * and appears under its name only when it is whole.
 */
export class MediaStore {
  private readonly making = new Map<string, Promise<unknown>>()
  private readonly frames = new Map<string, Float32Array>()

  constructor(private readonly settings: Pick<Settings, 'dataDir' | 'ffmpeg'>) {}

  /** A folder inside the data folder, made if it is missing. */
  async folder(...parts: string[]): Promise<string> {
    const folder = path.join(this.settings.dataDir, ...parts)
    await mkdir(folder, { recursive: true })
    return folder
  }

  /** The decoded sound of a recording. @throws AppError `SOUND_UNREADABLE`, `DISK_FULL` */
  async pcm(source: MediaSource): Promise<Pcm> {
    const file = path.join(await this.folder('pcm'), `${source.key}.f32`)
    const size = await sizeOf(file)
    if (size === null) await this.once(file, () => this.decodeTo(file, source))
    const bytes = size ?? (await sizeOf(file)) ?? 0
    return { file, channels: source.channels, length: bytes / (4 * source.channels) }
  }

  /** Decodes several sounds of one file, as far as that is not done, in one reading of it. @throws Error of the decoder when any of them can't be had: then none was kept */
  async decodeAll(
    sources: readonly Required<Omit<MediaSource, 'stretch'>>[],
    signal: AbortSignal,
  ): Promise<void> {
    const folder = await this.folder('pcm')
    const outs: { key: string; track: SoundTrack; channels: 1 | 2; out: string }[] = []
    for (const { key, track, channels } of sources)
      if ((await sizeOf(path.join(folder, `${key}.f32`))) === null)
        outs.push({ key, track, channels, out: path.join(folder, `${key}.f32.${process.pid}.new`) })
    const [first] = sources
    if (!first || outs.length === 0) return
    try {
      await decodeSounds(this.settings, first, outs, signal)
      for (const { key, out } of outs) await rename(out, path.join(folder, `${key}.f32`))
    } catch (error) {
      for (const { out } of outs) await rm(out, { force: true })
      throw explainDisk(error, `the decoded sound of ${first.name}`)
    }
  }

  /** Takes away what was made of a sound; it is made anew when it is asked for. */
  async forget(key: string): Promise<void> {
    await rm(path.join(await this.folder('pcm'), `${key}.f32`), { force: true })
    for (const level of PEAK_STEPS.keys()) await rm(await this.peakFile(key, level), { force: true })
  }

  /** The bytes of one chunk of {@link PCM_CHUNK} sample frames, interleaved; shorter at the end, empty beyond it. */
  async chunk(source: MediaSource, index: number): Promise<Buffer> {
    const pcm = await this.pcm(source)
    const frameBytes = 4 * pcm.channels
    const from = index * PCM_CHUNK
    const count = Math.max(0, Math.min(PCM_CHUNK, pcm.length - from))
    const handle = await open(pcm.file, 'r')
    try {
      const bytes = Buffer.alloc(count * frameBytes)
      await handle.read(bytes, 0, bytes.length, from * frameBytes)
      return bytes
    } finally {
      await handle.close()
    }
  }

  /** One sample frame of a recording that is decoded already; null where it is not, or beyond its end. Asked again, no file is opened. */
  async frameAt(source: MediaSource, at: number): Promise<Float32Array | null> {
    if (at < 0) return null
    const place = `${source.key}:${at}`
    const known = this.frames.get(place)
    if (known) return known
    const handle = await open(path.join(await this.folder('pcm'), `${source.key}.f32`), 'r').catch(() => null)
    if (!handle) return null
    try {
      const frame = new Float32Array(source.channels)
      const { bytesRead } = await handle.read(frame, 0, frame.byteLength, at * frame.byteLength)
      if (bytesRead !== frame.byteLength) return null
      if (this.frames.size >= FRAMES_KEPT) this.frames.clear()
      this.frames.set(place, frame)
      return frame
    } finally {
      await handle.close()
    }
  }

  /** Decodes a recording from end to end, piece by piece, without keeping it. @returns its sample frames. @throws AppError `SOUND_UNREADABLE` */
  async listen(source: MediaSource, take: (interleaved: Float32Array) => void): Promise<number> {
    let frames = 0
    await this.decode(source, (block) => {
      frames += block.length / source.channels
      take(block)
    })
    return frames
  }

  /** One level of a recording's peaks; low and high alternating. */
  async peaks(source: MediaSource, level: number): Promise<Buffer> {
    const file = await this.peakFile(source.key, level)
    if ((await sizeOf(file)) === null) await this.once(`${source.key} peaks`, () => this.makePeaks(source))
    return readFile(file)
  }

  /** Writes the peaks of a recording that has just been decoded anyway. */
  async keepPeaks(key: string, levels: readonly PeakLevel[]): Promise<void> {
    // Finest last: its presence says that all are there.
    for (let level = levels.length - 1; level >= 0; level--) {
      const file = await this.peakFile(key, level)
      // A name of its own: two that index the same recording at once must not take each other's file away.
      const temporary = `${file}.${randomUUID()}.new`
      await writeFile(temporary, (levels[level] as PeakLevel).values)
      await rename(temporary, file)
    }
  }

  private async peakFile(key: string, level: number): Promise<string> {
    return path.join(await this.folder('peaks'), `${key}.${level}`)
  }

  private async makePeaks(source: MediaSource): Promise<void> {
    const collector = new PeakCollector()
    const take = (block: Float32Array): void => collector.push(block, source.channels)
    const known = await this.readDecoded(source, take)
    if (!known) await this.decode(source, take)
    await this.keepPeaks(source.key, collector.finish())
  }

  /** Reads a sound that is decoded already from end to end. @returns whether it is */
  private async readDecoded(
    source: MediaSource,
    take: (interleaved: Float32Array) => void,
  ): Promise<boolean> {
    const file = path.join(await this.folder('pcm'), `${source.key}.f32`)
    if ((await sizeOf(file)) === null) return false
    const { length } = await this.pcm(source)
    for (let index = 0; index * PCM_CHUNK < length; index++) {
      const bytes = await this.chunk(source, index)
      take(new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4))
    }
    return true
  }

  private async decodeTo(file: string, source: MediaSource): Promise<void> {
    const temporary = `${file}.${process.pid}.new`
    try {
      const handle = openSync(temporary, 'w')
      try {
        // Written at once, piece by piece, so that a long recording never piles up in memory.
        await this.decode(
          source,
          (block) => void writeSync(handle, new Uint8Array(block.buffer, block.byteOffset, block.byteLength)),
        )
      } finally {
        closeSync(handle)
      }
      await rename(temporary, file)
    } catch (error) {
      await rm(temporary, { force: true })
      throw explainDisk(error, `the decoded sound of ${source.name}`)
    }
  }

  private async decode(source: MediaSource, onFrames: (block: Float32Array) => void): Promise<void> {
    // Asked of a disk that is away for a screen full of sounds, no program needs to be started.
    if ((await sizeOf(source.file)) === null)
      throw new AppError(
        'SOUND_UNREADABLE',
        `The file of ${source.name} is not there. Check that its disk is connected, then index its shelf again.`,
      )
    try {
      await decodeSound(this.settings, source, onFrames)
    } catch (error) {
      if (error instanceof AppError || isDiskFull(error)) throw error
      throw new AppError(
        'SOUND_UNREADABLE',
        `${source.name} can't be played: ${reasonOf(error)}. Check that the disk is there and the file is whole, then index its shelf again.`,
      )
    }
  }

  /** Runs what makes a file, once however many ask for it meanwhile. */
  async once<T>(key: string, make: () => Promise<T>): Promise<T> {
    const running =
      (this.making.get(key) as Promise<T> | undefined) ?? make().finally(() => this.making.delete(key))
    this.making.set(key, running)
    return running
  }
}

async function sizeOf(file: string): Promise<number | null> {
  return (await stat(file).catch(() => null))?.size ?? null
}

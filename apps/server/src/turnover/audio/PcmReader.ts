import { closeSync, openSync, readSync } from 'node:fs'
import { PCM_CHUNK, type SoundBlock, type SoundPort } from '@yodel/core'

/** Chunks kept of each recording: several clips of it may sound at once, each somewhere else. */
const KEPT = 16

/** Reads decoded sound from disk chunk by chunk and keeps those used last. */
export class PcmReader {
  private readonly handle: number
  private readonly kept = new Map<number, SoundBlock>()

  /** @param file - Interleaved 32-bit floats. @throws Error of the file system */
  constructor(
    file: string,
    private readonly channels: 1 | 2,
  ) {
    this.handle = openSync(file, 'r')
  }

  /** The chunk in which a sample lies; null beyond the end. */
  block(at: number): SoundBlock | null {
    const from = Math.floor(at / PCM_CHUNK) * PCM_CHUNK
    const known = this.kept.get(from)
    if (known) return at < from + known.channels[0].length ? known : null
    const bytes = new Uint8Array(PCM_CHUNK * 4 * this.channels)
    const read = readSync(this.handle, bytes, 0, bytes.length, from * 4 * this.channels)
    const frames = Math.floor(read / (4 * this.channels))
    if (frames <= at - from) return null
    const block = {
      from,
      channels: splitChannels(new Float32Array(bytes.buffer, 0, frames * this.channels), this.channels),
    }
    this.kept.set(from, block)
    if (this.kept.size > KEPT) this.kept.delete(this.kept.keys().next().value as number)
    return block
  }

  /** Gives the file back. */
  close(): void {
    closeSync(this.handle)
  }
}

function splitChannels(
  interleaved: Float32Array,
  channels: 1 | 2,
): [Float32Array] | [Float32Array, Float32Array] {
  if (channels === 1) return [interleaved]
  const left = new Float32Array(interleaved.length / 2)
  const right = new Float32Array(interleaved.length / 2)
  for (let i = 0; i < left.length; i++) {
    left[i] = interleaved[2 * i] as number
    right[i] = interleaved[2 * i + 1] as number
  }
  return [left, right]
}

/** Decoded sound by media id: a file of interleaved 32-bit floats each. */
export type DecodedMedia = Readonly<Record<string, { readonly file: string; readonly channels: 1 | 2 }>>

/** The port through which a mixer pulls decoded sound; files are opened when they are first asked for. */
export function pcmPort(media: DecodedMedia): { port: SoundPort; close: () => void } {
  const readers = new Map<string, PcmReader>()
  return {
    port: (mediaId, at) => {
      const entry = media[mediaId]
      if (!entry) return null
      const reader = readers.get(mediaId) ?? new PcmReader(entry.file, entry.channels)
      readers.set(mediaId, reader)
      return reader.block(at)
    },
    close: () => {
      for (const reader of readers.values()) reader.close()
    },
  }
}

import { createHash } from 'node:crypto'
import { closeSync, openSync, readSync, writeSync } from 'node:fs'
import { crc32 } from 'node:zlib'
import { SAMPLE_RATE, wavHeader } from '@yodel/core'

/** A file to be summed up, copied first, or cut out of decoded sound. */
export type FileOrder =
  | { readonly do: 'sum'; readonly file: string }
  | { readonly do: 'copy'; readonly file: string; readonly out: string }
  | {
      readonly do: 'cut'
      /** Decoded sound: interleaved 32-bit floats at 48 kHz. */
      readonly file: string
      readonly channels: 1 | 2
      /** Sample frames, `[from, to)`. */
      readonly from: number
      readonly to: number
      readonly out: string
    }

/** Size and checksums of a file. */
export interface FileSums {
  readonly size: number
  readonly sha256: string
  readonly crc32: number
}

const PIECE = 4 * 1024 * 1024

/** Copies or cuts a file and says its size and checksums, in one go through it. @throws Error of the file system, or when what is to be cut is too short */
export default function handle(order: FileOrder): FileSums {
  const source = openSync(order.file, 'r')
  const out = order.do === 'sum' ? null : openSync(order.out, 'r+')
  try {
    const hash = createHash('sha256')
    let [size, crc] = [0, 0]
    const take = (bytes: Uint8Array): void => {
      hash.update(bytes)
      crc = crc32(bytes, crc)
      if (out !== null) writeSync(out, bytes, 0, bytes.length, size)
      size += bytes.length
    }
    let [at, end] = [0, Infinity]
    if (order.do === 'cut') {
      const { channels, from, to } = order
      const length = to - from
      take(wavHeader({ channels, sampleRate: SAMPLE_RATE, bits: 32, length }))
      at = from * channels * 4
      end = to * channels * 4
    }
    const piece = Buffer.alloc(PIECE)
    while (at < end) {
      const read = readSync(source, piece, 0, Math.min(PIECE, end - at), at)
      if (read === 0) break
      take(piece.subarray(0, read))
      at += read
    }
    if (end !== Infinity && at < end) throw new Error(`${order.file} ends before what is to be cut of it`)
    return { size, sha256: hash.digest('hex'), crc32: crc }
  } finally {
    closeSync(source)
    if (out !== null) closeSync(out)
  }
}

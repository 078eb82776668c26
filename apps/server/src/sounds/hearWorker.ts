import { closeSync, openSync, readSync, statSync } from 'node:fs'
import {
  SAMPLE_RATE,
  Listener,
  PeakCollector,
  unpackSamples,
  wavLayout,
  type Heard,
  type PeakLevel,
  type WavLayout,
} from '@yodel/core'
import { decodeSound } from '../media/decode.js'

/** A recording that is to be listened to. */
export interface HearOrder {
  readonly file: string
  /** As the file says. */
  readonly channels: number
  readonly ffmpeg: string
}

/** What was heard, and the outline that is drawn of it. */
export interface Hearing {
  readonly heard: Heard
  readonly peaks: PeakLevel[]
  /** Size and time of change after the listening, to tell whether the file was changed meanwhile. */
  readonly size: number
  readonly mtimeMs: number
}

const HEAD_BYTES = 64 * 1024
const PIECE_FRAMES = 32_768

/**
 * Listens to one recording from end to end. Plain WAV at 48 kHz is read here; everything else is decoded by ffmpeg.
 *
 * @throws Error with the reason when nothing can be decoded.
 */
export default async function hear(order: HearOrder): Promise<Hearing> {
  const channels = order.channels === 1 ? 1 : 2
  const listener = new Listener(channels)
  const collector = new PeakCollector()
  const take = (block: Float32Array): void => {
    collector.push(block, channels)
    listener.push(block)
  }
  if (!readPlainWav(order.file, take)) await decodeSound(order, { file: order.file, channels }, take)
  const { size, mtimeMs } = statSync(order.file)
  return { heard: listener.finish(), peaks: collector.finish(), size, mtimeMs }
}

function readPlainWav(file: string, take: (block: Float32Array) => void): boolean {
  const handle = openSync(file, 'r')
  try {
    const head = Buffer.alloc(HEAD_BYTES)
    const layout = wavLayout(head.subarray(0, readSync(handle, head, 0, HEAD_BYTES, 0)))
    if (!layout.ok || !isPlain(layout.value)) return false
    const { at, size, bits, channels } = layout.value
    const frameBytes = (bits / 8) * channels
    const piece = Buffer.alloc(PIECE_FRAMES * frameBytes)
    let frames = 0
    for (let done = 0; done < size;) {
      const read = readSync(handle, piece, 0, Math.min(piece.length, size - done), at + done)
      const whole = read - (read % frameBytes)
      if (whole === 0) break
      take(unpackSamples(layout.value, piece.subarray(0, whole)))
      frames += whole / frameBytes
      done += whole
    }
    if (frames === 0) throw new Error('The file holds no samples, whatever its header says.')
    return true
  } finally {
    closeSync(handle)
  }
}

const isPlain = (layout: WavLayout): boolean => layout.sampleRate === SAMPLE_RATE && layout.channels <= 2

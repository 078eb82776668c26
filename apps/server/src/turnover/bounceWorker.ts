import { closeSync, openSync, readSync, writeSync } from 'node:fs'
import {
  SAMPLE_RATE,
  samplesIn,
  Mixer,
  packStereo24,
  PCM_CHUNK,
  wavHeader,
  type Bext,
  type RenderPlan,
  type SoundBlock,
} from '@yodel/core'
import type { MessagePort } from 'node:worker_threads'

/** What a bounce works from; a plain value that crosses threads. */
export interface BounceOrder {
  readonly plan: RenderPlan
  /** Decoded sound by media id: file of interleaved 32-bit floats. */
  readonly media: Readonly<Record<string, { file: string; channels: 1 | 2 }>>
  /** Samples of the reel, `[from, to)`. */
  readonly from: number
  readonly to: number
  /** An empty file. It is never made here: who gives a bounce up takes the file away, and a thread that is told late must not bring it back. */
  readonly out: string
  readonly bext?: Bext
  /** Told the part done, 0 to 1. */
  readonly port?: MessagePort
}

/** What a bounce measured. */
export interface BounceReport {
  /** Samples over full scale, held at it. */
  readonly overs: number
  /** Highest sample in dBFS. */
  readonly peak: number
  /** Blocks for which sound was missing; anything but 0 makes the bounce fail. */
  readonly misses: number
}

const BLOCK = samplesIn(1)

/** Renders a plan into a 24-bit 48 kHz stereo WAV with the mixer that also plays in the browser. */
export default function bounce(order: BounceOrder): BounceReport {
  const readers = new Map<string, PcmReader>()
  const mixer = new Mixer(order.plan, (mediaId, at) => {
    const entry = order.media[mediaId]
    if (!entry) return null
    const reader = readers.get(mediaId) ?? new PcmReader(entry.file, entry.channels)
    readers.set(mediaId, reader)
    return reader.block(at)
  })
  const left = new Float32Array(BLOCK)
  const right = new Float32Array(BLOCK)
  const length = order.to - order.from
  const out = openSync(order.out, 'r+')
  let overs = 0
  let peak = 0
  try {
    writeSync(out, wavHeader({ channels: 2, sampleRate: SAMPLE_RATE, bits: 24, length, bext: order.bext }))
    mixer.seek(order.from)
    for (let done = 0; done < length; done += BLOCK) {
      const count = Math.min(BLOCK, length - done)
      mixer.render(left, right, 0, count)
      for (let i = 0; i < count; i++)
        peak = Math.max(peak, Math.abs(left[i] as number), Math.abs(right[i] as number))
      const packed = packStereo24(left, right, count)
      overs += packed.overs
      writeSync(out, packed.bytes)
      order.port?.postMessage(done / length)
    }
  } finally {
    closeSync(out)
    for (const reader of readers.values()) reader.close()
  }
  return { overs, peak: peak > 0 ? 20 * Math.log10(peak) : -144, misses: mixer.misses }
}

/** Chunks kept of each recording: several clips of it may sound at once, each somewhere else. */
const KEPT = 16

/** Reads decoded sound from disk chunk by chunk and keeps those used last. */
class PcmReader {
  private readonly handle: number
  private readonly kept = new Map<number, SoundBlock>()

  constructor(
    file: string,
    private readonly channels: 1 | 2,
  ) {
    this.handle = openSync(file, 'r')
  }

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

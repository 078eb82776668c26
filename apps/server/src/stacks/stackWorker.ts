import { writeFileSync } from 'node:fs'
import {
  packStereo24,
  renderStack,
  SAMPLE_RATE,
  wavHeader,
  type Bext,
  type PlanStrip,
  type ShakenLayer,
} from '@yodel/core'
import { pcmPort, type DecodedMedia } from '../turnover/audio/PcmReader.js'

/** A stack that is to become a recording; a plain value that crosses threads. */
export interface StackOrder {
  readonly layers: readonly ShakenLayer[]
  /** Level, place and treatment it goes through. */
  readonly strip: Partial<PlanStrip>
  readonly media: DecodedMedia
  readonly out: string
  readonly bext: Bext
  readonly ixml: Uint8Array
}

/** What was written. */
export interface StackReport {
  /** Sample frames. */
  readonly length: number
}

/** Writes a stack as Broadcast WAV: 48 kHz, stereo, 24 bit; 32-bit floating point where it goes over full scale. */
export default function writeStack({ layers, strip, media, out, bext, ixml }: StackOrder): StackReport {
  const decoded = pcmPort(media)
  try {
    const { left, right } = renderStack(layers, decoded.port, strip)
    const length = left.length
    const packed = packStereo24(left, right, length)
    const bits = packed.overs > 0 ? 32 : 24
    const samples = packed.overs > 0 ? interleaved(left, right) : packed.bytes
    const header = wavHeader({ channels: 2, bits, length, sampleRate: SAMPLE_RATE, bext, ixml })
    writeFileSync(out, Buffer.concat([header, samples]))
    return { length }
  } finally {
    decoded.close()
  }
}

function interleaved(left: Float32Array, right: Float32Array): Uint8Array {
  const both = new Float32Array(2 * left.length)
  for (let i = 0; i < left.length; i++) {
    both[2 * i] = left[i] as number
    both[2 * i + 1] = right[i] as number
  }
  return new Uint8Array(both.buffer)
}

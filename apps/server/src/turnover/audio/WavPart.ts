import { closeSync, ftruncateSync, openSync, readSync, writeSync } from 'node:fs'
import {
  packSamples24,
  packStereo24,
  SAMPLE_RATE,
  wavHeader,
  type AudioSource,
  type Bext,
  type BextLoudness,
} from '@yodel/core'
import { decibels, FileMeters, type FileMeasures } from './FileMeters.js'

/** A file to be written by a pass of the mixer. */
export interface WavOrder {
  readonly source: AudioSource
  /** An empty file. It is never made here: who gives a mix up takes its files away, and a thread that is told late must not bring them back. */
  readonly out: string
  readonly bext: Bext
  readonly ixml: Uint8Array
}

/** What was measured of a file. */
export interface WavMeasures extends FileMeasures {
  /** Samples over full scale, held at it. */
  readonly overs: number
  /** Highest sample, dBFS. */
  readonly peak: number
}

const FRAME_BYTES = 6

/**
 * One 24-bit stereo file of a mix while it is made: takes what sounds, in the order of time, and measures it.
 * What is silent is never written: the file is as long as it will be from the first, and full of nothing.
 */
export class WavPart {
  private readonly file: number
  private readonly head: number
  private readonly meters: FileMeters
  /** Sample of the reel that comes next. */
  private next: number
  private overs = 0
  private peak = 0

  /** @param span - Samples of the reel, `[from, to)` @param truePeak - True peak over which places are listed, dBTP, or null */
  constructor(
    private readonly order: WavOrder,
    private readonly span: { readonly from: number; readonly to: number },
    truePeak: number | null,
  ) {
    this.next = span.from
    this.meters = new FileMeters(truePeak)
    this.file = openSync(order.out, 'r+')
    const header = this.header()
    this.head = header.length
    writeSync(this.file, header, 0, header.length, 0)
    ftruncateSync(this.file, this.head + (span.to - span.from) * FRAME_BYTES)
  }

  /** Takes sound whose first sample is `at`; what lies outside the span is left out. */
  take(left: Float32Array, right: Float32Array, at: number): void {
    const first = Math.max(0, this.span.from - at)
    const end = Math.min(left.length, this.span.to - at)
    if (end <= first) return
    this.silence(at + first)
    const interleaved = new Float32Array(2 * (end - first))
    let peak = 0
    for (let i = first, to = 0; i < end; i++, to += 2) {
      const l = left[i] as number
      const r = right[i] as number
      interleaved[to] = l
      interleaved[to + 1] = r
      if (l > peak) peak = l
      else if (-l > peak) peak = -l
      if (r > peak) peak = r
      else if (-r > peak) peak = -r
    }
    this.peak = Math.max(this.peak, peak)
    const { bytes, overs } = packSamples24(interleaved, peak)
    this.overs += overs
    writeSync(this.file, bytes, 0, bytes.length, this.placeOf(this.next))
    this.meters.take(interleaved)
    this.next = at + end
  }

  /**
   * Ends the file, the rest of it silent, states in it what was measured, and gives it back.
   *
   * @param pop - Added to it, and not measured.
   */
  finish(pop: { readonly at: number; readonly samples: Float32Array } | null): WavMeasures {
    this.silence(this.span.to)
    const measured = this.meters.finish(this.span.from)
    if (pop) this.addPop(pop)
    const header = this.header(measured)
    writeSync(this.file, header, 0, header.length, 0)
    closeSync(this.file)
    return { ...measured, overs: this.overs, peak: decibels(this.peak) }
  }

  private header(loudness?: BextLoudness): Uint8Array {
    const { bext, ixml } = this.order
    const length = this.span.to - this.span.from
    const format = { channels: 2, sampleRate: SAMPLE_RATE, bits: 24, length, ixml } as const
    return wavHeader({ ...format, bext: loudness ? { ...bext, loudness } : bext })
  }

  private silence(until: number): void {
    if (until > this.next) this.meters.silence(until - this.next)
    this.next = until
  }

  private addPop({ at, samples }: { at: number; samples: Float32Array }): void {
    if (at < this.span.from || at + samples.length > this.span.to) return
    const bytes = Buffer.alloc(samples.length * FRAME_BYTES)
    readSync(this.file, bytes, 0, bytes.length, this.placeOf(at))
    const channel = (side: number): Float32Array =>
      samples.map((value, i) => value + bytes.readIntLE(i * FRAME_BYTES + 3 * side, 3) / 2 ** 23)
    const packed = packStereo24(channel(0), channel(1), samples.length)
    writeSync(this.file, packed.bytes, 0, bytes.length, this.placeOf(at))
  }

  private placeOf(sample: number): number {
    return this.head + (sample - this.span.from) * FRAME_BYTES
  }
}

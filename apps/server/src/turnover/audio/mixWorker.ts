import { dbFromGain, Mixer, samplesIn, toInt24, type Category, type RenderPlan, MIX_BLOCK } from '@yodel/core'
import type { MessagePort } from 'node:worker_threads'
import { MeterBench } from './MeterBench.js'
import type { FileMeasures } from './meterThread.js'
import { PcmReader } from './PcmReader.js'
import { WavPart, type WavMeasures, type WavOrder } from './WavPart.js'

/** What a mix is made from; a plain value that crosses threads. */
export interface MixOrder {
  readonly plan: RenderPlan
  /** Decoded sound by media id: file of interleaved 32-bit floats. */
  readonly media: Readonly<Record<string, { file: string; channels: 1 | 2 }>>
  /** Samples of the reel that the files hold, `[from, to)`. All from the reel's first on is mixed, so that what rings on does. */
  readonly span: { readonly from: number; readonly to: number }
  readonly files: readonly WavOrder[]
  /** Added to each file. */
  readonly pop: { readonly at: number; readonly samples: Float32Array } | null
  /** True peak asked for, dBTP. */
  readonly truePeak: number | null
  /** Told the part done, 0 to 1. */
  readonly port?: MessagePort
}

/** What a mix measured. */
export interface MixReport {
  /** One a file, in the order of the order. */
  readonly files: WavMeasures[]
  /** Highest sample of what stays when the stems, as they are in their files, are taken from the mix, dBFS; null where that can't be said: a part is not made, or the whole is treated. */
  readonly residual: number | null
  /** Blocks for which sound was missing; anything but 0 makes the bounce fail. */
  readonly misses: number
}

const BLOCK = samplesIn(1)
const NOTHING_DB = -200

/** Renders a plan in one pass into 24-bit 48 kHz stereo files, with the mixer that also plays in the browser. */
export default async function mix(order: MixOrder): Promise<MixReport> {
  const { plan, span } = order
  const readers = new Map<string, PcmReader>()
  const mixer = new Mixer(plan, (mediaId, at) => {
    const entry = order.media[mediaId]
    if (!entry) return null
    const reader = readers.get(mediaId) ?? new PcmReader(entry.file, entry.channels)
    readers.set(mediaId, reader)
    return reader.block(at)
  })
  const parts: WavPart[] = []
  const meters = new MeterBench(order.files.length, order.truePeak)
  try {
    for (const [index, file] of order.files.entries()) {
      const meter = {
        take: (samples: Float32Array) => meters.take(index, samples),
        silence: (frames: number) => meters.silence(index, frames),
      }
      parts.push(new WavPart(file, span, meter))
    }
    const residual = tapInto(mixer, order, parts)
    // Begun early by what the treatment looks ahead, every tap has come to the span's first sample in time.
    mixer.seek(-mixer.latency)
    const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)]
    while (mixer.at < span.to) {
      mixer.render(left, right, 0, Math.min(BLOCK, span.to - mixer.at))
      order.port?.postMessage(Math.max(0, mixer.at / span.to))
      await meters.room()
    }
    for (const part of parts) part.end()
    const measured = await meters.finish(span.from)
    const files = parts.map((part, index) => part.state(measured[index] as FileMeasures, order.pop))
    return { files, residual: residual(), misses: mixer.misses }
  } finally {
    await meters.close()
    for (const part of parts) part.close()
    for (const reader of readers.values()) reader.close()
  }
}

/** Leads the taps of a mixer into its files. @returns what stays of the mix without its stems, asked for at the end */
function tapInto(mixer: Mixer, { plan, files }: MixOrder, parts: readonly WavPart[]): () => number | null {
  let whole: WavPart | undefined
  const stems = new Map<Category, WavPart>()
  const tracks = new Map<string, WavPart>()
  for (const [index, { source }] of files.entries()) {
    const part = parts[index] as WavPart
    if (source.of === 'whole') whole = part
    else if (source.of === 'stem') stems.set(source.category, part)
    else tracks.set(source.key, part)
  }
  const complete = plan.strips.every(({ stem }) => stem === null || stems.has(stem))
  const sum = whole && complete && stems.size > 0 && plan.whole.length === 0 ? new StemSum() : null
  mixer.tap = (part, left, right, count, at) => {
    if (part === 'whole') whole?.take(left, right, count, at)
    else stems.get(part)?.take(left, right, count, at)
    sum?.take(part === 'whole', left, right, count)
  }
  if (tracks.size > 0)
    mixer.stripTap = (key, left, right, count, at) => tracks.get(key)?.take(left, right, count, at)
  return () => sum && (sum.most > 0 ? dbFromGain(sum.most / 2 ** 23) : NOTHING_DB)
}

/** Adds the stems of a block up as they are in their files, and compares them with the mix, which comes last. */
class StemSum {
  /** Highest difference, in steps of 24 bits. */
  most = 0
  private readonly sums = [new Int32Array(MIX_BLOCK), new Int32Array(MIX_BLOCK)] as const

  take(isWhole: boolean, left: Float32Array, right: Float32Array, count: number): void {
    for (const [sum, samples] of [
      [this.sums[0], left],
      [this.sums[1], right],
    ] as const)
      for (let i = 0; i < count; i++) {
        const value = toInt24(samples[i] as number)
        if (!isWhole) {
          sum[i] = (sum[i] as number) + value
          continue
        }
        const off = Math.abs((sum[i] as number) - value)
        if (off > this.most) this.most = off
        sum[i] = 0
      }
  }
}

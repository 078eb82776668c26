import { Mixer, samplesIn, type Category, type RenderPlan } from '@yodel/core'
import type { MessagePort } from 'node:worker_threads'
import { FileBench } from './FileBench.js'
import type { FilesOrder, FilesReport } from './filesOrder.js'
import { pcmPort, type DecodedMedia } from './PcmReader.js'

/** What a mix is made from; a plain value that crosses threads. All from the reel's first sample on is mixed, so that what rings on does. */
export interface MixOrder extends FilesOrder {
  readonly plan: RenderPlan
  readonly media: DecodedMedia
  /** Told the part done, 0 to 1. */
  readonly port?: MessagePort
}

/** What a mix measured. */
export interface MixReport extends FilesReport {
  /** Blocks for which sound was missing; anything but 0 makes the bounce fail. */
  readonly misses: number
}

const BLOCK = samplesIn(1)

/** Renders a plan in one pass into 24-bit 48 kHz stereo files, with the mixer that also plays in the browser. */
export default async function mix(order: MixOrder): Promise<MixReport> {
  const { plan, span } = order
  const decoded = pcmPort(order.media)
  const mixer = new Mixer(plan, decoded.port)
  const files = new FileBench(order, plan)
  try {
    tapInto(mixer, order, files)
    // Begun early by what the treatment looks ahead, every tap has come to the span's first sample in time.
    mixer.seek(-mixer.latency)
    const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)]
    while (mixer.at < span.to) {
      mixer.render(left, right, 0, Math.min(BLOCK, span.to - mixer.at))
      order.port?.postMessage(Math.max(0, mixer.at / span.to))
      await files.room()
    }
    return { ...(await files.finish()), misses: mixer.misses }
  } finally {
    await files.close()
    decoded.close()
  }
}

/** Leads the taps of a mixer into its files. */
function tapInto(mixer: Mixer, { files }: MixOrder, bench: FileBench): void {
  const parts = new Map<'whole' | Category, number>()
  const tracks = new Map<string, number>()
  for (const [index, { source }] of files.entries()) {
    if (source.of === 'track') tracks.set(source.key, index)
    else parts.set(source.of === 'stem' ? source.category : 'whole', index)
  }
  mixer.tap = (part, left, right, count, at) => {
    const file = parts.get(part)
    if (file !== undefined) bench.take(file, left, right, count, at)
  }
  if (tracks.size === 0) return
  mixer.stripTap = (key, left, right, count, at) => {
    const file = tracks.get(key)
    if (file !== undefined) bench.take(file, left, right, count, at)
  }
}

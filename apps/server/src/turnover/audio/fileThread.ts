import { parentPort } from 'node:worker_threads'
import { dbFromGain } from '@yodel/core'
import type { FileNews, FilesOrder, FilesReport } from './filesOrder.js'
import { StemSum } from './StemSum.js'
import { WavPart } from './WavPart.js'

const NOTHING_DB = -200
let parts: readonly WavPart[] = []
let sum: StemSum | null = null
let order: FilesOrder

/** Writes and measures in a thread of its own what another one mixes; answers each piece, so that the other never runs far ahead. */
parentPort?.on('message', (news: FileNews) => {
  if ('begin' in news) {
    order = news.begin
    parts = order.files.map((file) => new WavPart(file, order.span, order.truePeak))
    sum = news.begin.hasAllStems ? new StemSum() : null
    return
  }
  if ('finish' in news) {
    const files = parts.map((part) => part.finish(order.pop))
    const residual = sum && (sum.most > 0 ? dbFromGain(sum.most / 2 ** 23) : NOTHING_DB)
    parentPort?.postMessage({ files, residual } satisfies FilesReport)
    return
  }
  const { file, left, right, at } = news
  parts[file]?.take(left, right, at)
  const of = order.files[file]?.source.of
  if (of !== 'track') sum?.take(of === 'whole', left, right, at)
  parentPort?.postMessage(null)
})

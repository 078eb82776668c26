import { parentPort } from 'node:worker_threads'
import { dbFromGain, type Category, type RenderPlan } from '@yodel/core'
import { StemSum } from './StemSum.js'
import { WavPart, type WavMeasures, type WavOrder } from './WavPart.js'

/** The files of a mix, and how they are measured. */
export interface FilesOrder {
  readonly files: readonly WavOrder[]
  /** Samples of the reel that the files hold, `[from, to)`. */
  readonly span: { readonly from: number; readonly to: number }
  /** Added to each file, and not measured. */
  readonly pop: { readonly at: number; readonly samples: Float32Array } | null
  /** True peak asked for, dBTP. */
  readonly truePeak: number | null
}

/** What the thread of the files is told: what they are, what sounds next in one of them, or that this was all. */
export type FileNews =
  | { readonly begin: FilesOrder & { readonly hasAllStems: boolean } }
  | { readonly file: number; readonly at: number; readonly left: Float32Array; readonly right: Float32Array }
  | { readonly finish: true }

/** What was written. */
export interface FilesReport {
  /** One a file, in the order of the order. */
  readonly files: WavMeasures[]
  /** Highest sample of what stays when the stems, as they are in their files, are taken from the mix, dBFS; null where that can't be said: a part is not made, or the whole is treated. */
  readonly residual: number | null
}

/** Whether the files hold every stem of a plan and their plain sum. */
export function hasAllStems(plan: RenderPlan, files: readonly WavOrder[]): boolean {
  const stems = new Set<Category>()
  for (const { source } of files) if (source.of === 'stem') stems.add(source.category)
  const isPlain = plan.whole.length === 0 && files.some(({ source }) => source.of === 'whole')
  return isPlain && stems.size > 0 && plan.strips.every(({ stem }) => stem === null || stems.has(stem))
}

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

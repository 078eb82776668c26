import type { Category, RenderPlan } from '@yodel/core'
import type { WavMeasures, WavOrder } from './WavPart.js'

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

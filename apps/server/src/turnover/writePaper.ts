import { documentOf, type ReelRecord } from '@yodel/core'
import { cuePdf, type PdfOptions } from './cuePdf.js'
import { cueWorkbook } from './cueWorkbook.js'

/** Paper to be written of a reel. */
export type PaperOrder = { readonly records: readonly ReelRecord[] } & (
  { readonly kind: 'pdf'; readonly options: PdfOptions } | { readonly kind: 'xlsx' }
)

/** Writes paper; runs in a process of its own (apart.ts), since thousands of cues take seconds, in which the server must go on answering. */
export default async function writePaper(order: PaperOrder): Promise<Uint8Array> {
  const doc = documentOf(order.records)
  return order.kind === 'pdf' ? cuePdf(doc, order.options) : cueWorkbook(doc)
}

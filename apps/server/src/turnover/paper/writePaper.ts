import { documentOf, type ListedAs, type ReelRecord, type ReportFacts, type SheetPaper } from '@yodel/core'
import { cuePdf, type PdfOptions } from './cuePdf.js'
import { cueWorkbook } from './cueWorkbook.js'
import { drawMixSheet, mixSheetPdf } from './mixSheetPdf.js'
import { reportPdf } from './reportPdf.js'
import { sincePdf, type SinceFacts } from './sincePdf.js'

/** Paper to be written of a reel. */
export type PaperOrder = { readonly records: readonly ReelRecord[] } & (
  | { readonly kind: 'pdf'; readonly options: PdfOptions }
  | { readonly kind: 'mix'; readonly options: { readonly paper: SheetPaper; readonly date: string } }
  | { readonly kind: 'drawn'; readonly options: { readonly paper: SheetPaper; readonly date: string } }
  | { readonly kind: 'report'; readonly facts: ReportFacts }
  | { readonly kind: 'since'; readonly facts: SinceFacts }
  | { readonly kind: 'xlsx'; readonly as: ListedAs }
)

/** Writes paper; runs in a process of its own (apart.ts), since thousands of cues take seconds, in which the server must go on answering. */
export default async function writePaper(order: PaperOrder): Promise<Uint8Array> {
  const doc = documentOf(order.records)
  switch (order.kind) {
    case 'pdf':
      return cuePdf(doc, order.options)
    case 'mix':
      return mixSheetPdf(doc, order.options)
    case 'drawn':
      return Buffer.from(JSON.stringify(await drawMixSheet(doc, order.options)))
    case 'report':
      return reportPdf(doc, order.facts)
    case 'since':
      return sincePdf(doc, order.facts)
    case 'xlsx':
      return cueWorkbook(doc, order.as)
  }
}

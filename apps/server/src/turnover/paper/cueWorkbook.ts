import { cueTable, listedFields, type ListedAs, type ReelDocument } from '@yodel/core'
import writeXlsxFile from 'write-excel-file/node'

const WIDE = new Set(['words', 'notes'])

/** The spotting sheet as an XLSX workbook; every cell is text, so that no spreadsheet reads formulas or dates into it. */
export async function cueWorkbook(doc: ReelDocument, as: ListedAs): Promise<Buffer> {
  const [head = [], ...rows] = cueTable(doc, as)
  const data = [
    head.map((value) => ({ value, fontWeight: 'bold' as const })),
    ...rows.map((row) => row.map((value) => ({ value, type: String }))),
  ]
  const columns = listedFields(as).map((field) => ({
    width: WIDE.has(field.key)
      ? 44
      : field.key === 'in' || field.key === 'out' || field.key === 'sync'
        ? 13
        : 11,
  }))
  return writeXlsxFile(data, { columns, sheet: 'Cues', stickyRowsCount: 1 }).toBuffer()
}

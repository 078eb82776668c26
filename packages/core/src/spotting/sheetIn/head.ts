import { meantIn, matchColumns } from './columns.js'
import { looksLikeTime } from './times.js'

/** A file as lines of cells, those of its head among them. */
export interface SheetFileTable {
  readonly rows: readonly (readonly string[])[]
  /** Line of the file on which each row stands, where it differs from row + 1. */
  readonly lines?: readonly number[] | undefined
}

/** A sheet as it was typed elsewhere: headings and lines of text. */
export interface SheetTable {
  readonly headings: readonly string[]
  readonly rows: readonly (readonly string[])[]
  /** Line of the file on which each row stands, where it differs from row + 2. */
  readonly lines?: readonly number[]
}

/** Where a file's headings stand: the first row of them, and how many rows they take; none in a file without. */
export interface SheetHead {
  readonly at: number
  readonly rows: 0 | 1 | 2
}

/** Rows among which the head is looked for: titles and notes may stand before it. */
const LOOKED_THROUGH = 20

/** Finds the head of a file: the row, or the two rows together, whose cells mean most columns. */
export function findHead(rows: SheetFileTable['rows']): SheetHead {
  let best: SheetHead & { means: number } = { at: 0, rows: 0, means: 0 }
  // Two rows only where they say more together than any one does.
  for (const count of [1, 2] as const)
    for (let at = 0; at < Math.min(rows.length, LOOKED_THROUGH); at++) {
      const own = rows.slice(at, at + count)
      if (own.length < count || own.some((row) => row.some((cell) => looksLikeTime(cell.trim())))) continue
      const headings = headingsOf(own)
      const means = meantIn(headings)
      if (means > best.means && (means > 1 || 'in' in matchColumns(headings)))
        best = { at, rows: count, means }
    }
  if (best.means > 0) return { at: best.at, rows: best.rows }
  // A file without headings begins with times; of any other the first row is taken for them, to be matched by hand.
  const isHeadless = rows.slice(0, 2).some((row) => row.some((cell) => looksLikeTime(cell.trim())))
  return { at: 0, rows: isHeadless ? 0 : 1 }
}

/** A file as a sheet below its head; what stands above that is left out. */
export function tableOf(file: SheetFileTable, head: SheetHead): SheetTable {
  const first = head.at + head.rows
  const rows = file.rows.slice(first)
  return {
    headings: headingsOf(file.rows.slice(head.at, first)),
    rows,
    lines: rows.map((_, index) => file.lines?.[first + index] ?? first + index + 1),
  }
}

/** The headings of a head: what stands above each other belongs together. */
function headingsOf(head: SheetFileTable['rows']): string[] {
  const columns = head.reduce((most, row) => Math.max(most, row.length), 0)
  return Array.from({ length: columns }, (_, at) =>
    head
      .map((row) => (row[at] ?? '').trim())
      .filter((cell) => cell !== '')
      .join(' '),
  )
}

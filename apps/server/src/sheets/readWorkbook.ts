import { ok, refuse, type ImportProblem, type ReadSheet, type Result } from '@yodel/core'
import readXlsx from 'read-excel-file/node'
import { AppError } from '../errors.js'
import { checkWorkbook } from './checkWorkbook.js'
import { readLayout, type SheetLayout } from './workbookLayout.js'

/** A sheet of a workbook, and which ones there are. */
export interface WorkbookSheet extends ReadSheet {
  readonly sheets: readonly string[]
  readonly sheet: string
}

/** Years before which a date is a time of day: workbooks count days from the end of 1899. */
const TIMES_END = 1905

/**
 * Reads a sheet of a workbook (XLSX): the one that is asked for, or the fullest of those that can be seen. What was joined is
 * filled, what is hidden is read and told, times of day are times.
 *
 * @throws AppError `SHEET_UNREADABLE`
 */
export async function readWorkbook(
  name: string,
  bytes: Buffer,
  wanted: string | null,
): Promise<Result<WorkbookSheet>> {
  const wrong = checkWorkbook(bytes)
  if (wrong !== null) throw new AppError('SHEET_UNREADABLE', `${name} can't be read as a workbook: ${wrong}.`)
  const all = await readXlsx(bytes).catch((error: unknown) => {
    throw new AppError(
      'SHEET_UNREADABLE',
      `${name} can't be read as a workbook: ${error instanceof Error ? error.message : String(error)}. Export it again as XLSX or CSV.`,
    )
  })
  const layouts = readLayout(bytes)
  const filled = (rows: readonly (readonly unknown[])[]): number =>
    rows.reduce((sum, row) => sum + row.filter((cell) => cell !== null && cell !== '').length, 0)
  const seen = all.filter(({ sheet }) => !layouts.get(sheet)?.hidden)
  const [fullest] = (seen.length > 0 ? seen : all).toSorted((a, b) => filled(b.data) - filled(a.data))
  const chosen = all.find(({ sheet }) => sheet === wanted) ?? fullest
  if (!chosen) return refuse('CORE_BAD_SHEET', 'Import', 'the workbook holds no sheet')
  const problems: ImportProblem[] = []
  const layout = layouts.get(chosen.sheet) ?? NOTHING_SAID
  const rows = chosen.data.map((row, index) =>
    row.map((cell, column) => cellText(cell, index + 1, column, problems)),
  )
  fillJoined(rows, layout)
  if (layout.hiddenRows + layout.hiddenColumns > 0)
    problems.unshift({
      ...{ line: 1, severity: 'warning' },
      message: `${[counted(layout.hiddenRows, 'hidden row'), counted(layout.hiddenColumns, 'hidden column')].filter(Boolean).join(' and ')} are read like the others`,
    })
  const kept = rows
    .map((row, index) => ({ row, line: index + 1 }))
    .filter(({ row }) => row.some((cell) => cell.trim() !== ''))
  if (kept.length < 2)
    return refuse(
      'CORE_BAD_SHEET',
      'Import',
      `its sheet “${chosen.sheet}” needs a line of headings and at least one line below`,
    )
  return ok({
    ...{ rows: kept.map(({ row }) => row), lines: kept.map(({ line }) => line), problems },
    ...{ sheets: all.map(({ sheet }) => sheet), sheet: chosen.sheet },
  })
}

const NOTHING_SAID: SheetLayout = { hidden: false, hiddenRows: 0, hiddenColumns: 0, joined: [] }

/** Puts what stands in the first of some joined cells into all of them. */
function fillJoined(rows: string[][], { joined }: SheetLayout): void {
  for (const { top, left, bottom, right } of joined) {
    const text = rows[top]?.[left] ?? ''
    if (text === '') continue
    for (let row = top; row <= Math.min(bottom, rows.length - 1); row++)
      // A title that is joined across the sheet stays one cell.
      for (let column = left; column <= (bottom > top ? right : left); column++)
        (rows[row] as string[])[column] = text
  }
}

function cellText(cell: unknown, line: number, column: number, problems: ImportProblem[]): string {
  if (cell instanceof Date) {
    const [date = '', time = ''] = cell.toISOString().split('T')
    if (cell.getUTCFullYear() < TIMES_END) return time.replace(/\.?0*Z$/, '')
    const at = `${columnName(column)}${line}`
    problems.push({
      ...{ line, severity: 'warning' },
      message: `${at} is a date, ${date}: was it a scene or a number before the spreadsheet took it for one?`,
    })
    return date
  }
  if (typeof cell === 'string') return cell
  return typeof cell === 'number' || typeof cell === 'boolean' ? String(cell) : ''
}

const columnName = (column: number): string =>
  column < 26
    ? String.fromCharCode(65 + column)
    : columnName(Math.floor(column / 26) - 1) + columnName(column % 26)
const counted = (count: number, what: string): string =>
  count === 0 ? '' : `${count} ${what}${count === 1 ? '' : 's'}`

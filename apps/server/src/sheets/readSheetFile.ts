import { open, readFile } from 'node:fs/promises'
import {
  FRAME_RATES,
  markerSheet,
  ok,
  readAdl,
  readCaptionSheet,
  readDelimited,
  readEdlList,
  readEdlSheet,
  readOtio,
  readWavMarkers,
  refuse,
  sameTimecode,
  type FrameRateId,
  type IncomingSheet,
  type ReadList,
  type ReadSheet,
  type Reel,
  type Result,
} from '@yodel/core'
import { readSheet as readXlsx } from 'read-excel-file/node'
import { AppError, type AppErrorCode } from '../errors.js'
import { checkWorkbook, WORKBOOK_LIMITS } from './checkWorkbook.js'

const TEXT_LIMIT = 64 * 1024 * 1024

/** A file to be read as a sheet of cues of a reel, or as a list of placed sounds. */
export interface SheetOrder {
  readonly name: string
  readonly file: string
  readonly size: number
  readonly reel: Reel
  /** In which it counts, where it does not say. */
  readonly rate: FrameRateId
}

/** A sheet, and the placed sounds of a list; one of them may be empty. */
export interface SheetFile extends Omit<IncomingSheet, 'placed'> {
  readonly list: ReadList | null
}

/** The sheet, or why it is none: errors lose their kind on the way out of a process. */
export type SheetAnswer = SheetFile | { readonly refused: { code: AppErrorCode; message: string } }

/** Reads a stranger's file; runs in a process of its own, see apart.ts. */
export default async function readSheetFile(order: SheetOrder): Promise<SheetAnswer> {
  const { name } = order
  try {
    const read = await readFileAs(order)
    if (!read.ok) throw new AppError('SHEET_UNREADABLE', `${name}: ${read.message.replace(/^Import: /, '')}`)
    const { rows, columns, cells } = WORKBOOK_LIMITS
    const { list, ...told } = read.value
    const sheet = told.rows
    if (
      sheet.length > rows ||
      sheet.some((row) => row.length > columns) ||
      sheet.reduce((sum, row) => sum + row.length, 0) > cells
    )
      throw new AppError(
        'SHEET_UNREADABLE',
        `${name} has more than ${rows} lines, ${columns} columns or ${cells} cells. Is it the right file?`,
      )
    return { name, ...mutable(told), list }
  } catch (error) {
    if (error instanceof AppError) return { refused: { code: error.code, message: error.message } }
    throw error
  }
}

function mutable(sheet: ReadSheet): Omit<IncomingSheet, 'name' | 'placed'> {
  return {
    headings: [...sheet.headings],
    rows: sheet.rows.map((row) => [...row]),
    problems: [...sheet.problems],
    ...(sheet.lines ? { lines: [...sheet.lines] } : {}),
  }
}

type ReadFile = ReadSheet & { readonly list: ReadList | null }

const NO_SHEET: ReadSheet = { headings: [], rows: [], problems: [] }
function onlyList(read: Result<ReadList>): Result<ReadFile> {
  if (!read.ok) return read
  const { clips, markers, left } = read.value
  return clips.length + markers.length > 0
    ? ok({ ...NO_SHEET, list: read.value })
    : refuse('CORE_BAD_SHEET', 'Import', ['it holds no placed sound and no marker', ...left].join('; '))
}
const onlySheet = (read: Result<ReadSheet>): Result<ReadFile> =>
  read.ok ? ok({ ...read.value, list: null }) : read

async function readFileAs(order: SheetOrder): Promise<Result<ReadFile>> {
  const { name, file, size, reel } = order
  const handle = await open(file, 'r')
  const read = async (at: number, wanted: number): Promise<Uint8Array> => {
    const bytes = Buffer.alloc(wanted)
    const { bytesRead } = await handle.read(bytes, 0, wanted, at)
    return bytes.subarray(0, bytesRead)
  }
  try {
    const head = Buffer.from(await read(0, 4096))
    const magic = head.subarray(0, 4).toString('latin1')
    if (magic === 'RIFF' || magic === 'RF64') {
      const markers = await readWavMarkers(read, size)
      return onlySheet(markers.ok ? markerSheet(markers.value, reel) : markers)
    }
    if (size > TEXT_LIMIT)
      throw new AppError(
        'UPLOAD_TOO_LARGE',
        `${name} is larger than any sheet (${Math.round(size / 1e6)} MB). Is it the right file?`,
      )
    if (magic === 'PK\u0003\u0004') return onlySheet(await readWorkbook(name, await readFile(file)))
    if (head.includes(0) && !isUtf16(head))
      throw new AppError(
        'SHEET_UNREADABLE',
        `${name} is not text: it is some other kind of file with that name. Export the sheet as CSV, TSV or XLSX.`,
      )
    return readText(decode(await readFile(file)), order)
  } finally {
    await handle.close()
  }
}

function readText(text: string, { reel, rate: rateId }: SheetOrder): Result<ReadFile> {
  const start = text.replace(/^\ufeff/, '').trimStart()
  const rate = FRAME_RATES[rateId]
  if (start.startsWith('{') && start.includes('"OTIO_SCHEMA"')) return onlyList(readOtio(start))
  if (/^<ADL>/m.test(start.slice(0, 2000))) return onlyList(readAdl(text, rate))
  if (start.startsWith('WEBVTT') || /^\d+\s*\r?\n\d{1,3}:\d{2}:\d{2}[,.]\d{1,3}\s+-->/.test(start))
    return onlySheet(readCaptionSheet(text, reel))
  if (
    /^TITLE:|^FCM:/im.test(start.slice(0, 2000)) ||
    /^\d{3,6}\s+\S+\s+\S+\s+\S+.*(\d\d[:;]){3}\d\d/m.test(start.slice(0, 4000))
  ) {
    const list = readEdlList(text, rate, sameTimecode(reel.firstFrame, FRAME_RATES[reel.rate], rate))
    const sheet = readEdlSheet(text, rate)
    return sheet.ok ? ok({ ...sheet.value, list: list.ok ? list.value : null }) : sheet
  }
  return onlySheet(readDelimited(text))
}

async function readWorkbook(name: string, bytes: Buffer): Promise<Result<ReadSheet>> {
  const wrong = checkWorkbook(bytes)
  if (wrong !== null) throw new AppError('SHEET_UNREADABLE', `${name} can't be read as a workbook: ${wrong}.`)
  const cells = await readXlsx(bytes).catch((error: unknown) => {
    throw new AppError(
      'SHEET_UNREADABLE',
      `${name} can't be read as a workbook: ${error instanceof Error ? error.message : String(error)}. Export it again as XLSX or CSV.`,
    )
  })
  const rows = cells.map((row) => row.map((cell) => cellText(cell)))
  const filled = rows
    .map((row, index) => ({ row, line: index + 1 }))
    .filter(({ row }) => row.some((cell) => cell.trim() !== ''))
  const [head, ...rest] = filled
  if (!head || rest.length === 0)
    throw new AppError(
      'SHEET_UNREADABLE',
      `${name}: its first sheet needs a line of headings and at least one line below.`,
    )
  return {
    ok: true,
    value: {
      headings: head.row,
      rows: rest.map(({ row }) => row),
      lines: rest.map(({ line }) => line),
      problems: [],
    },
  }
}

function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return ''
  if (cell instanceof Date) return cell.toISOString()
  return typeof cell === 'string'
    ? cell
    : typeof cell === 'number' || typeof cell === 'boolean'
      ? String(cell)
      : ''
}

const isUtf16 = (head: Buffer): boolean =>
  (head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)

/** Text in UTF-8 or UTF-16 with a mark, else in Windows-1252, as old spreadsheets save it. */
function decode(bytes: Buffer): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

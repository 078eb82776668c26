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
import { AppError, type AppErrorCode } from '../errors.js'
import { WORKBOOK_LIMITS } from './checkWorkbook.js'
import { cleanCells } from './cleanCells.js'
import { decodeText, refuseStrangers } from './decodeText.js'
import { readWorkbook } from './readWorkbook.js'

const TEXT_LIMIT = 64 * 1024 * 1024

/** A file to be read as a sheet of cues of a reel, or as a list of placed sounds. */
export interface SheetOrder {
  readonly name: string
  readonly file: string
  readonly size: number
  readonly reel: Reel
  /** In which it counts, where it does not say. */
  readonly rate: FrameRateId
  /** Which sheet of a workbook; the likeliest where none is asked for. */
  readonly sheet: string | null
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
    const { list, sheets = [], sheet = '', ...told } = read.value
    const found = told.rows
    if (
      found.length > rows ||
      found.some((row) => row.length > columns) ||
      found.reduce((sum, row) => sum + row.length, 0) > cells
    )
      throw new AppError(
        'SHEET_UNREADABLE',
        `${name} has more than ${rows} lines, ${columns} columns or ${cells} cells. Is it the right file?`,
      )
    const clean = cleanCells(found, (row) => told.lines?.[row] ?? row + 1)
    return {
      ...{ name, list, rows: clean.rows, problems: [...told.problems, ...clean.problems] },
      ...(told.lines ? { lines: [...told.lines] } : {}),
      ...{ sheets: [...sheets], sheet },
    }
  } catch (error) {
    if (error instanceof AppError) return { refused: { code: error.code, message: error.message } }
    throw error
  }
}

type ReadFile = ReadSheet & {
  readonly list: ReadList | null
  readonly sheets?: readonly string[]
  readonly sheet?: string
}

const NO_SHEET: ReadSheet = { rows: [], problems: [] }
function onlyList(read: Result<ReadList>): Result<ReadFile> {
  if (!read.ok) return read
  const { clips, markers, left } = read.value
  return clips.length + markers.length > 0
    ? ok({ ...NO_SHEET, list: read.value })
    : refuse('CORE_BAD_SHEET', 'Import', ['it holds no placed sound and no marker', ...left].join('; '))
}
const onlySheet = (read: Result<Omit<ReadFile, 'list'>>): Result<ReadFile> =>
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
    if (magic === 'PK\u0003\u0004') {
      const bytes = await readFile(file)
      // ISO/IEC 26300-3: the first file in it says what it is.
      if (head.includes('opendocument.spreadsheet'))
        throw new AppError(
          'SHEET_UNREADABLE',
          `${name} is an OpenDocument spreadsheet (.ods). Open it and save it as XLSX or CSV.`,
        )
      return onlySheet(await readWorkbook(name, bytes, order.sheet))
    }
    refuseStrangers(name, head)
    return readText(decodeText(await readFile(file)), order)
  } finally {
    await handle.close()
  }
}

function readText(text: string, { reel, rate: rateId }: SheetOrder): Result<ReadFile> {
  const start = text.replace(/^\ufeff/, '').trimStart()
  const rate = FRAME_RATES[rateId]
  if (start.startsWith('{') && start.includes('"OTIO_SCHEMA"')) return onlyList(readOtio(start))
  if (/^<ADL>/m.test(start.slice(0, 2000))) return onlyList(readAdl(text, rate))
  if (start.startsWith('WEBVTT') || /^(?:\d+\s*\r?\n)?\d{1,3}:\d{2}:\d{2}[,.]\d{1,3}\s+-->/.test(start))
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

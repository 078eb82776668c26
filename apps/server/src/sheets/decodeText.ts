import iconv from 'iconv-lite'
import { AppError } from '../errors.js'

/** Kinds of file that come under the names of sheets, by how they begin (from memory). */
const STRANGERS: readonly (readonly [begins: readonly number[], what: string, way: string])[] = [
  [
    [0x25, 0x50, 0x44, 0x46],
    'a PDF, not a sheet',
    'Ask for the sheet it was made from, or export that as CSV, TSV or XLSX.',
  ],
  [[0x89, 0x50, 0x4e, 0x47], 'a picture, not a sheet', 'Export the sheet as CSV, TSV or XLSX.'],
  [[0xff, 0xd8, 0xff], 'a picture, not a sheet', 'Export the sheet as CSV, TSV or XLSX.'],
  [[0x47, 0x49, 0x46, 0x38], 'a picture, not a sheet', 'Export the sheet as CSV, TSV or XLSX.'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'a workbook in the old form (.xls)', 'Open it and save it as XLSX or CSV.'],
  [
    [0x7b, 0x5c, 0x72, 0x74],
    'a text document (RTF), not a sheet',
    'Copy its table into a spreadsheet and save that as CSV or XLSX.',
  ],
]
/** Part of the bytes that may be control characters in text that somebody typed. */
const ODD = 0.05

/** Bytes of which it takes so many to tell UTF-16 without a mark. */
const LEAST = 16

/** Refuses what is no text, by what it is. @throws AppError `SHEET_UNREADABLE` */
export function refuseStrangers(name: string, head: Buffer): void {
  for (const [begins, what, way] of STRANGERS)
    if (begins.every((byte, index) => head[index] === byte))
      throw new AppError('SHEET_UNREADABLE', `${name} is ${what}. ${way}`)
  if (markOf(head) === null && head.filter(isControl).length > ODD * head.length)
    throw new AppError(
      'SHEET_UNREADABLE',
      `${name} is not text: it is some other kind of file with that name. Export the sheet as CSV, TSV or XLSX.`,
    )
}

/** Text in UTF-8 or UTF-16, with a mark or without, else in Windows-1252, as old spreadsheets save it. */
export function decodeText(bytes: Buffer): string {
  const form = markOf(bytes.subarray(0, 4096))
  if (form) return iconv.decode(bytes, form)
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return iconv.decode(bytes, 'win1252')
  }
}

/** Which UTF-16 it is: by its mark, or because every other byte is nought; null where it is not. */
function markOf(head: Buffer): 'utf16le' | 'utf16be' | null {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf16le'
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf16be'
  if (head.length < LEAST) return null
  const noughts = (from: 0 | 1): number =>
    head.filter((byte, index) => index % 2 === from && byte === 0).length
  const [even, odd] = [noughts(0), noughts(1)]
  if (odd > head.length / 4 && even < head.length / 50) return 'utf16le'
  return even > head.length / 4 && odd < head.length / 50 ? 'utf16be' : null
}

const isControl = (byte: number): boolean => byte < 32 && byte !== 9 && byte !== 10 && byte !== 13

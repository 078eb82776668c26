import { Unzip, UnzipInflate } from 'fflate'

/** What a workbook may hold; nobody spots a reel in more. */
export const WORKBOOK_LIMITS = {
  unpackedBytes: 96 * 1024 ** 2,
  rows: 100_000,
  columns: 500,
  cells: 2_000_000,
  parts: 2000,
} as const

const SHEET = /^xl\/worksheets\/.*\.xml$/
const CELL = /<(?:\w+:)?c\s[^>]*?\br="([A-Z]+)(\d+)"/g
/** Longer than any beginning of a cell. */
const OVERLAP = 400
const PIECE = 64 * 1024

/**
 * Looks through a workbook before it is read: how much it unpacks to, counted and not believed, and how far out its cells stand.
 * A single stray cell in the last corner would otherwise make a reader build everything up to it.
 *
 * @returns what is wrong, as the end of a sentence, or null
 */
export function checkWorkbook(bytes: Uint8Array): string | null {
  let wrong: string | null = null
  let unpacked = 0
  let parts = 0
  const unzip = new Unzip((part) => {
    if (++parts > WORKBOOK_LIMITS.parts)
      wrong ??= `it is packed from more than ${WORKBOOK_LIMITS.parts} parts`
    const cells = SHEET.test(part.name) ? new CellScanner() : null
    part.ondata = (error, piece) => {
      if (error) wrong ??= `it can't be unpacked (${error.message})`
      unpacked += piece.length
      if (unpacked > WORKBOOK_LIMITS.unpackedBytes)
        wrong ??= `it unpacks to more than ${WORKBOOK_LIMITS.unpackedBytes / 1024 ** 2} MB`
      wrong ??= cells?.push(piece) ?? null
      if (wrong !== null) part.terminate()
    }
    part.start()
  })
  unzip.register(UnzipInflate)
  for (let at = 0; at < bytes.length && wrong === null; at += PIECE)
    unzip.push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length)
  return wrong
}

/** Finds a cell that stands too far out in the XML of a sheet that comes in pieces. */
class CellScanner {
  private readonly decoder = new TextDecoder('latin1')
  private rest = ''

  push(piece: Uint8Array): string | null {
    const text = this.rest + this.decoder.decode(piece)
    for (const [, column = '', row] of text.matchAll(CELL)) {
      if (Number(row) > WORKBOOK_LIMITS.rows || columnNumber(column) > WORKBOOK_LIMITS.columns)
        return (
          `a cell stands at ${column}${row}, and a sheet may have ${WORKBOOK_LIMITS.columns} columns and ` +
          `${WORKBOOK_LIMITS.rows} rows. Delete what lies far out and save it again`
        )
    }
    this.rest = text.slice(-OVERLAP)
    return null
  }
}

/** A column's number, from 1 for A. */
const columnNumber = (letters: string): number =>
  [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0)

/** What a spreadsheet takes for a formula: its sign, plain or full-width, also after blanks and line breaks that it passes over; and what would look on the way back as if it had been neutralised. */
const FORMULA = /^'*(\s*[=+\-@＝＋－＠]|[\t\r])/u

/** Says whether a cell was neutralised when it was written: its first apostrophe is not its own. */
export const isNeutralised = (cell: string): boolean => cell.startsWith("'") && FORMULA.test(cell.slice(1))

/** Writes one CSV cell (RFC 4180). Text that a spreadsheet would take for a formula is neutralised with an apostrophe. */
export function csvCell(value: string | number): string {
  const text = typeof value === 'number' ? String(value) : value.replace(FORMULA, (sign) => `'${sign}`)
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}

/** Writes rows as CSV with CRLF line ends and a byte order mark, so that spreadsheets read it as UTF-8. */
export function writeCsv(rows: readonly (readonly (string | number)[])[]): string {
  return `\ufeff${rows.map((row) => row.map(csvCell).join(',')).join('\r\n')}\r\n`
}

import { ok, refuse, type Result } from '../errors.js'
import { reelOf, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { FRAME_RATES, type FrameRate } from '../time/rates.js'
import { formatTimecode, parseTimecode, sameTimecode } from '../time/timecode.js'
import { blankCue } from './blankCue.js'
import { CATEGORIES, type Category } from '../reel/categories.js'
import { CUE_FIELDS, cueField } from './cueFields.js'
import { cueCode, nextNumber } from '../reel/numbering.js'

/** A sheet as it was typed elsewhere: headings and lines of text. */
export interface SheetTable {
  readonly headings: readonly string[]
  readonly rows: readonly (readonly string[])[]
  /** Line of the file on which each row stands, where it differs from row + 2. */
  readonly lines?: readonly number[]
}

/** Which column of the file serves which column of the sheet. */
export type ColumnMatch = Readonly<Record<string, number>>

/** Something about a line that the editor should know; a line with an `error` is left out. */
export interface ImportProblem {
  readonly line: number
  readonly severity: 'error' | 'warning'
  readonly message: string
}

/** What importing a sheet would do. */
export interface ImportPreview {
  readonly cues: readonly Omit<Cue, 'id'>[]
  /** Line of the file of each cue. */
  readonly lines: readonly number[]
  readonly problems: readonly ImportProblem[]
}

/** Most cues that one import may add. */
export const MOST_IMPORTED = 20_000

const TIMES: readonly string[] = ['in', 'out', 'sync']

/** Guesses which column is which from the headings: the title, its key, or another name for it; the first that fits. */
export function matchColumns(headings: readonly string[]): ColumnMatch {
  const plain = headings.map((heading) => heading.trim().toLowerCase().replace(/\s+/g, ' '))
  const match: Record<string, number> = {}
  const taken = new Set<number>()
  for (const pass of [0, 1]) {
    for (const field of CUE_FIELDS) {
      if (!field.read || field.key in match) continue
      const names = pass === 0 ? [field.title.toLowerCase(), field.key.toLowerCase()] : field.aliases
      const at = names
        .map((name) => plain.findIndex((heading, index) => heading === name && !taken.has(index)))
        .find((index) => index >= 0)
      if (at === undefined) continue
      match[field.key] = at
      taken.add(at)
    }
  }
  return match
}

/**
 * Reads a sheet into cues without touching the reel: what can be taken, and for every line that can't be the reason.
 * Numbers of the file are kept where they are free; a category without one gets the next. Times are full timecodes
 * (or `+` lengths for the out), counted at the sheet's rate; another rate than the reel's is converted by real time
 * from the reel's start.
 *
 * @param options.category - For lines that name none.
 */
export function previewImport(
  doc: ReelDocument,
  table: SheetTable,
  match: ColumnMatch,
  options: { rate: FrameRate; category: Category },
): Result<ImportPreview> {
  const reel = reelOf(doc)
  if (match['in'] === undefined)
    return refuse('CORE_BAD_SHEET', 'Import', 'say which column holds the timecode at which a cue begins')
  if (table.rows.length > MOST_IMPORTED)
    return refuse(
      'CORE_BAD_SHEET',
      'Import',
      `${table.rows.length.toLocaleString('en')} lines; at most ${MOST_IMPORTED.toLocaleString('en')} can be imported at once, so split the file`,
    )
  const cues: Omit<Cue, 'id'>[] = []
  const lines: number[] = []
  const problems: ImportProblem[] = []
  const taken = new Set([...doc.cue.values()].map(cueCode))
  const next = new Map(CATEGORIES.map((category) => [category, nextNumber(doc, category)]))
  for (const [index, row] of table.rows.entries()) {
    const line = table.lines?.[index] ?? index + 2
    if (row.every((cell) => cell.trim() === '')) continue
    const read = readRow(doc, row, match, options)
    if (!read.ok) {
      problems.push({ line, severity: 'error', message: read.message })
      continue
    }
    const { cue, numbered } = read.value
    if (cue.in >= reel.length)
      problems.push({
        line,
        severity: 'warning',
        message: `begins at ${formatTimecode(reel.firstFrame + cue.in, FRAME_RATES[reel.rate])}, after the end of the reel`,
      })
    if (!numbered || taken.has(cueCode(cue))) {
      const free = { ...cue, number: freeNumber(taken, cue.category, next.get(cue.category) ?? 1) }
      if (numbered)
        problems.push({
          line,
          severity: 'warning',
          message: `${cueCode(cue)} is already given out; it becomes ${cueCode(free)}`,
        })
      cue.number = free.number
    }
    taken.add(cueCode(cue))
    next.set(cue.category, Math.max(next.get(cue.category) ?? 1, cue.number + 1))
    cues.push(cue)
    lines.push(line)
  }
  return ok({ cues, lines, problems: [...rateHint(problems, options.rate), ...problems] })
}

function freeNumber(taken: ReadonlySet<string>, category: Category, from: number): number {
  let number = from
  while (taken.has(cueCode({ category, number }))) number++
  return number
}

interface ReadRow {
  readonly cue: Omit<Cue, 'id'> & { number: number }
  readonly numbered: boolean
}

function readRow(
  doc: ReelDocument,
  row: readonly string[],
  match: ColumnMatch,
  options: { rate: FrameRate; category: Category },
): Result<ReadRow> {
  const reel = reelOf(doc)
  const cellOf = (key: string): string => {
    const text = (row[match[key] ?? -1] ?? '').trim()
    // What was neutralised on the way out comes back as it was.
    return /^'[=+\-@\t\r]/.test(text) ? text.slice(1) : text
  }
  const frameOf = (key: string): Result<number | null> => {
    const text = cellOf(key)
    if (text === '') return ok(null)
    const parsed = parseTimecode(text.replace(/[;.,](?=\d{1,2}$)/, ':'), options.rate)
    if (!parsed.ok) return refuse('CORE_BAD_CELL', cueField(key).title, parsed.message)
    const frame = toReel(parsed.frame, reel.firstFrame, options.rate, FRAME_RATES[reel.rate])
    return frame < 0
      ? refuse(
          'CORE_BAD_CELL',
          cueField(key).title,
          `${text} lies before the reel begins at ${formatTimecode(reel.firstFrame, FRAME_RATES[reel.rate])}`,
        )
      : ok(frame)
  }
  const begin = frameOf('in')
  if (!begin.ok) return begin
  if (begin.value === null) return refuse('CORE_BAD_CELL', 'In', 'no timecode')
  const end = frameOf('out')
  if (!end.ok) return end
  const sync = frameOf('sync')
  if (!sync.ok) return sync
  const cue = blankCue({
    category: options.category,
    number: 1,
    in: begin.value,
    out: end.value ?? begin.value + 1,
    sync: sync.value ?? begin.value,
  })
  if (cue.out <= cue.in)
    return refuse('CORE_BAD_CELL', 'Out', `${cellOf('out')} is not after the in, ${cellOf('in')}`)
  let fields: Partial<Cue> = {}
  for (const key of Object.keys(match)) {
    const text = cellOf(key)
    const field = cueField(key)
    if (TIMES.includes(key) || !field.read || text === '') continue
    const read = field.read(text, {
      rate: options.rate,
      firstFrame: reel.firstFrame,
      before: { ...cue, id: '' },
    })
    if (!read.ok) return read
    fields = { ...read.value, ...fields }
  }
  const whole = { ...cue, ...fields }
  return ok({ cue: whole, numbered: fields.number !== undefined })
}

/** A timecode frame of the sheet as a frame of the reel: the same real time after the reel's start timecode. */
function toReel(frame: number, firstFrame: number, sheet: FrameRate, reel: FrameRate): number {
  if (sheet.id === reel.id) return frame - firstFrame
  const sheetFirst = sameTimecode(firstFrame, reel, sheet)
  return Math.round(((frame - sheetFirst) * sheet.den * reel.num) / (sheet.num * reel.den))
}

/** Many refused frame numbers mean another rate, not many typing errors. */
function rateHint(problems: readonly ImportProblem[], rate: FrameRate): ImportProblem[] {
  const wrong = problems.filter((problem) => /frames run from 0|number is dropped/.test(problem.message))
  if (wrong.length < 3) return []
  return [
    {
      line: wrong[0]?.line ?? 0,
      severity: 'error',
      message: `${wrong.length} lines hold frame numbers that do not exist at ${rate.label}: was the sheet typed at another rate? Choose it above.`,
    },
  ]
}

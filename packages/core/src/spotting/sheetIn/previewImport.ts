import { ok, refuse, type Result } from '../../errors.js'
import { CATEGORIES, categoryCalled, type Category } from '../../reel/categories.js'
import { reelOf, type ReelDocument } from '../../reel/document.js'
import { cueCode, nextNumber } from '../../reel/numbering.js'
import type { Cue } from '../../reel/records.js'
import { FRAME_RATES, type FrameRate } from '../../time/rates.js'
import { formatTimecode } from '../../time/timecode.js'
import type { ColumnMatch } from './columns.js'
import type { SheetTable } from './head.js'
import { readRow, shortOf } from './readRow.js'
import { looksLikeTime, readTime, type TimesAs } from './times.js'

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
  /** Words in the column of categories that are none, each with the number of its lines. */
  readonly unknown: readonly { readonly word: string; readonly lines: number }[]
}

/** How a sheet is to be read, where it does not say so itself. */
export interface ImportOptions {
  /** At which it counts. */
  readonly rate: FrameRate
  /** How its times are written. */
  readonly times: TimesAs
  /** For lines that name no category. */
  readonly category: Category
  /** What words that are no category of ours mean, in lower case. */
  readonly spellings: Readonly<Record<string, Category>>
  /** Seconds for lines without an end. */
  readonly seconds: number
}

/** Most cues that one import may add. */
export const MOST_IMPORTED = 20_000

/**
 * Reads a sheet into cues without touching the reel: what can be taken, and for every line that can't be the reason.
 * Numbers of the file are kept where they are free; a category without one gets the next. Another rate than the reel's is
 * converted by real time from the reel's start. A line of one word alone gives what follows its category; what can't be read
 * beside the time is left empty and told, and costs no line.
 */
export function previewImport(
  doc: ReelDocument,
  table: SheetTable,
  match: ColumnMatch,
  options: ImportOptions,
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
  const unknown = new Map<string, { word: string; lines: number }>()
  const doubles = new Map([...doc.cue.values()].map((cue) => [sameness(cue), 'a cue that is there already']))
  let { category } = options
  for (const [index, row] of table.rows.entries()) {
    const line = table.lines?.[index] ?? index + 2
    const warn = (message: string): void => void problems.push({ line, severity: 'warning', message })
    const filled = row.map((cell) => cell.trim()).filter((cell) => cell !== '')
    if (filled.length === 0) continue
    const [alone = ''] = filled
    if (filled.length === 1 && !isTime(alone, row[match['in']] ?? '', options)) {
      const section = sectionOf(alone, options)
      category = section ?? category
      if (!section) warn(`“${alone.slice(0, 60)}” stands alone: taken as a title`)
      continue
    }
    const read = readRow(doc, row, match, { ...options, category })
    if (!read.ok) {
      problems.push({ line, severity: 'error', message: shortOf(read.message) })
      continue
    }
    const { cue, numbered } = read.value
    for (const message of read.value.warnings) warn(message)
    count(unknown, read.value.unknown)
    const double = doubles.get(sameness(cue))
    if (double !== undefined) warn(`the same as ${double}`)
    else doubles.set(sameness(cue), `line ${line}`)
    if (cue.in >= reel.length)
      warn(
        `begins at ${formatTimecode(reel.firstFrame + cue.in, FRAME_RATES[reel.rate])}, after the end of the reel`,
      )
    if (!numbered || taken.has(cueCode(cue))) {
      const free = { ...cue, number: freeNumber(taken, cue.category, next.get(cue.category) ?? 1) }
      if (numbered) warn(`${cueCode(cue)} is already given out; it becomes ${cueCode(free)}`)
      cue.number = free.number
    }
    taken.add(cueCode(cue))
    next.set(cue.category, Math.max(next.get(cue.category) ?? 1, cue.number + 1))
    cues.push(cue)
    lines.push(line)
  }
  return ok({
    ...{ cues, lines, problems: [...rateHint(problems, options.rate), ...problems] },
    unknown: [...unknown.values()],
  })
}

function freeNumber(taken: ReadonlySet<string>, category: Category, from: number): number {
  let number = from
  while (taken.has(cueCode({ category, number }))) number++
  return number
}

/** Counts a word, however it is capitalised. */
function count(words: Map<string, { word: string; lines: number }>, word: string): void {
  if (word === '') return
  const known = words.get(word.toLowerCase())
  if (known) known.lines++
  else words.set(word.toLowerCase(), { word, lines: 1 })
}

/** Says whether a line of one cell is a cue all the same: it stands where cues begin and can be read as that. */
const isTime = (alone: string, begins: string, { times, rate }: ImportOptions): boolean =>
  looksLikeTime(alone) || (begins.trim() === alone && readTime(alone, times, rate, 0).ok)

/** By what two cues are the same to whoever reads them. */
const sameness = (cue: Omit<Cue, 'id'>): string => `${cue.category} ${cue.in} ${cue.out} ${cue.words}`

/** The category that a line of one word alone begins: `FOLEY`, `Backgrounds:`. */
function sectionOf(text: string, { spellings }: ImportOptions): Category | null {
  const name = text.replace(/[:.\s]+$/, '')
  return categoryCalled(name) ?? spellings[name.toLowerCase()] ?? null
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

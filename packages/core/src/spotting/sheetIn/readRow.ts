import { ok, refuse, type Result } from '../../errors.js'
import { categoryCalled } from '../../reel/categories.js'
import { reelOf, type ReelDocument } from '../../reel/document.js'
import type { Cue } from '../../reel/records.js'
import { FRAME_RATES } from '../../time/rates.js'
import { formatTimecode, sameTimecode } from '../../time/timecode.js'
import { blankCue } from '../blankCue.js'
import { isNeutralised } from '../../formats/csv.js'
import { cueField, MOST_LETTERS } from '../cueFields.js'
import type { ColumnMatch } from './columns.js'
import type { ImportOptions } from './previewImport.js'
import { readLength, readTime } from './times.js'

/** A line of a sheet as a cue. */
export interface ReadRow {
  readonly cue: Omit<Cue, 'id'> & { number: number }
  /** The line gave it its number. */
  readonly numbered: boolean
  /** What could not be read of the line, and what became of it. */
  readonly warnings: readonly string[]
  /** What stands where a category should, and is none; empty where one does. */
  readonly unknown: string
}

/** Read by hand; all other columns are read as cells of the list are. */
const BY_HAND: readonly string[] = ['in', 'out', 'sync', 'length', 'category']

/** Reads a line of a sheet. Only a beginning that can't be read refuses it; whatever else can't be is left empty, and told. */
export function readRow(
  doc: ReelDocument,
  row: readonly string[],
  match: ColumnMatch,
  options: ImportOptions,
): Result<ReadRow> {
  const reel = reelOf(doc)
  const own = FRAME_RATES[reel.rate]
  const { rate, times } = options
  const warnings: string[] = []
  const cellOf = (key: string): string => {
    const text = (row[match[key] ?? -1] ?? '').trim()
    // What was neutralised on the way out comes back as it was.
    return isNeutralised(text) ? text.slice(1) : text
  }
  const sheetFirst = sameTimecode(reel.firstFrame, own, rate)
  /** Frames at the sheet's rate as frames of the reel. */
  const toReel = (count: number): number =>
    rate.id === own.id ? count : Math.round((count * rate.den * own.num) / (rate.num * own.den))
  const frameOf = (key: string): Result<number | null> => {
    const text = cellOf(key)
    if (text === '') return ok(null)
    const read = readTime(text, times, rate, sheetFirst)
    if (!read.ok) return refuse('CORE_BAD_CELL', cueField(key).title, reasonOf(read))
    const frame = toReel(read.value - sheetFirst)
    if (frame >= 0) return ok(frame)
    const first = formatTimecode(reel.firstFrame, own)
    return refuse('CORE_BAD_CELL', cueField(key).title, `${text} lies before the reel begins at ${first}`)
  }
  const begin = frameOf('in')
  if (!begin.ok) return begin
  if (begin.value === null) return refuse('CORE_BAD_CELL', 'In', 'no timecode')
  const least = begin.value + Math.max(1, Math.round((options.seconds * own.num) / own.den))
  const left = <T>(read: Result<T>, instead: T): T => {
    if (read.ok) return read.value
    warnings.push(`${shortOf(read.message)}; left out`)
    return instead
  }
  const end = left(frameOf('out'), null) ?? begin.value + (lengthOf(cellOf('length')) ?? least - begin.value)
  const sync = left(frameOf('sync'), null)
  const cue = blankCue({
    ...{ category: options.category, number: 1, in: begin.value, out: end, sync: sync ?? begin.value },
  })
  if (cue.out <= cue.in) {
    cue.out = least as Cue['out']
    warnings.push(
      `Out: ${cellOf('out')} is not after the in, ${cellOf('in')}; it ends ${secondsOf(options.seconds)} later`,
    )
  }
  if (sync !== null && (sync < cue.in || sync >= cue.out)) {
    cue.sync = cue.in
    warnings.push(`Sync: ${cellOf('sync')} lies outside of the cue; it is put at the beginning`)
  }
  let fields: Partial<Cue> = {}
  const called = cellOf('category')
  const category =
    called === '' ? null : (categoryCalled(called) ?? options.spellings[called.toLowerCase()] ?? null)
  if (category) fields = { category }
  for (const key of Object.keys(match)) {
    let text = cellOf(key)
    const field = cueField(key)
    if (BY_HAND.includes(key) || !field.read || text === '') continue
    if (text.length > MOST_LETTERS) {
      warnings.push(`${field.title}: cut to ${MOST_LETTERS} of ${text.length.toLocaleString('en')} letters`)
      // Never half of a letter that takes two places.
      text = text.slice(0, MOST_LETTERS).replace(/[\ud800-\udbff]$/, '')
    }
    const before = { ...cue, ...fields, id: '' }
    const read = field.read(text, { rate, firstFrame: reel.firstFrame, before })
    if (read.ok) fields = { ...read.value, ...fields }
    else warnings.push(`${shortOf(read.message)}; left empty`)
  }
  return ok({
    cue: { ...cue, ...fields },
    numbered: fields.number !== undefined,
    warnings,
    unknown: called !== '' && !category ? called : '',
  })

  function lengthOf(text: string): number | null {
    if (text === '') return null
    const read = readLength(text, times, rate)
    if (read.ok) return Math.max(1, toReel(read.value))
    warnings.push(`${shortOf(read.message)}; left out`)
    return null
  }
}

const secondsOf = (seconds: number): string => `${seconds} ${seconds === 1 ? 'second' : 'seconds'}`

/** What is wrong with a cell, without the words around it: `In: 01:00:13:30: frames run …`. */
export const shortOf = (message: string): string =>
  message.replace(/ that can’t be read \((.*)\)\.?$/s, ' $1').replace(/\.$/, '')

/** A refusal's reason alone: the cell is named anew. */
const reasonOf = ({ message }: { readonly message: string }): string =>
  shortOf(message).replace(/^Time: /, '')

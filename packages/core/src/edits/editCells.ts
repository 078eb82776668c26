import { refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { rateOf, reelOf, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { cueField } from '../spotting/cueFields.js'
import { cueCode } from '../reel/numbering.js'
import { editCues, type CueEdit } from './editRecords.js'

/** A cell of the spotting list with the text that it shall hold. */
export interface CellEdit {
  readonly id: string
  /** Key of a column of `CUE_FIELDS`. */
  readonly field: string
  readonly text: string
}

/**
 * Writes typed or pasted cells into the sheet. All of them or none: the first that can't be read refuses the whole,
 * and says which cue and column.
 */
export function editCells(
  doc: ReelDocument,
  args: { cells: readonly CellEdit[]; label?: string },
): Result<Change> {
  const context = { rate: rateOf(doc), firstFrame: reelOf(doc).firstFrame }
  const fields = new Map<string, Partial<Cue>>()
  for (const cell of args.cells) {
    const cue = doc.cue.get(cell.id)
    if (!cue) return refuse('CORE_RECORD_MISSING', 'editCells', cell.id)
    const field = cueField(cell.field)
    // Computed columns are passed over, so that a copied block can be pasted back with them in it.
    if (!field.read) continue
    const before: Cue = { ...cue, ...fields.get(cell.id) }
    if (field.text(doc, before) === cell.text) continue
    const read = field.read(cell.text, { ...context, before })
    if (!read.ok) return { ...read, message: `${cueCode(cue)}, ${read.message}` }
    fields.set(cell.id, { ...fields.get(cell.id), ...read.value })
  }
  const edits: CueEdit[] = [...fields].map(([id, set]) => ({ id, fields: set }))
  return editCues(doc, { edits, ...(args.label ? { label: args.label } : {}) })
}

/** Columns in which find and replace looks. */
export const SEARCHED_FIELDS = ['words', 'source', 'where', 'scene', 'notes', 'by', 'omitReason'] as const

/**
 * Replaces text in the words of cues.
 *
 * @param args.ids - Cues to look at.
 * @param args.find - Text to look for, case ignored; not a pattern.
 * @param args.fields - Columns to look at; all of {@link SEARCHED_FIELDS} when left out.
 */
export function replaceText(
  doc: ReelDocument,
  args: {
    ids: readonly string[]
    find: string
    replace: string
    fields?: readonly (typeof SEARCHED_FIELDS)[number][]
  },
): Result<Change> {
  if (args.find === '') return refuse('CORE_NO_WORDS', 'find')
  const pattern = new RegExp(args.find.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'), 'giu')
  const edits: CueEdit[] = []
  for (const id of args.ids) {
    const cue = doc.cue.get(id)
    if (!cue) return refuse('CORE_RECORD_MISSING', 'replaceText', id)
    const fields: Partial<Cue> = {}
    for (const key of args.fields ?? SEARCHED_FIELDS) {
      const text = cue[key].replace(pattern, () => args.replace)
      if (text !== cue[key]) fields[key] = text
    }
    if (Object.keys(fields).length > 0) edits.push({ id, fields })
  }
  return editCues(doc, {
    edits,
    label: `Replace “${args.find}” in ${edits.length} cue${edits.length === 1 ? '' : 's'}`,
  })
}

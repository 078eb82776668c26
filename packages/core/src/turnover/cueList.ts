import { writeCsv } from '../formats/csv.js'
import { cuesInOrder, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { CUE_FIELDS } from '../spotting/cueFields.js'

/** Columns of lists that go out: all but the bare number, which the cue's code holds. */
export const LISTED_FIELDS = CUE_FIELDS.filter((field) => field.key !== 'number')

/** The spotting sheet as a table of text: a line of headings, then one line a cue in the order given. */
export function cueTable(doc: ReelDocument, cues: readonly Cue[] = cuesInOrder(doc)): string[][] {
  return [
    LISTED_FIELDS.map((field) => field.title),
    ...cues.map((cue) => LISTED_FIELDS.map((field) => field.text(doc, cue))),
  ]
}

/** The cue list as CSV: one line a cue, in the order of time, omitted ones included and marked. */
export function cueListCsv(doc: ReelDocument): string {
  return writeCsv(cueTable(doc))
}

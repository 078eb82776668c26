import { writeCsv } from '../formats/csv.js'
import { CATEGORIES } from '../reel/categories.js'
import { cuesInOrder, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { CUE_FIELDS, type CueField } from '../spotting/cueFields.js'

/** Columns of lists that go out: all but the bare number, which the cue's code holds. */
export const LISTED_FIELDS = CUE_FIELDS.filter((field) => field.key !== 'number')

/** What cues can be listed by, beside time: `source` is the character, or whatever makes the sound. */
export const LIST_GROUPS = ['category', 'scene', 'source', 'state', 'by'] as const
/** What cues are listed by. */
export type ListGroup = (typeof LIST_GROUPS)[number]

/** How a cue list goes out. */
export interface ListedAs {
  /** Keys of its columns from left to right; null for all. Keys that there are not are passed over. */
  readonly columns: readonly string[] | null
  /** What the cues stand together by, each group by time; null for time alone. */
  readonly group: ListGroup | null
}

/** Every column, by time. */
export const WHOLE_LIST: ListedAs = { columns: null, group: null }

/** The columns of a list, from left to right. */
export function listedFields({ columns }: ListedAs): readonly CueField[] {
  const wanted = columns?.flatMap((key) => LISTED_FIELDS.find((field) => field.key === key) ?? [])
  return wanted && wanted.length > 0 ? wanted : LISTED_FIELDS
}

/** The cues of a list in groups; one group without a heading when they are listed by time. Groups stand by name, categories in their order. */
export function listedCues(
  doc: ReelDocument,
  { group }: ListedAs,
): { readonly heading: string; readonly cues: readonly Cue[] }[] {
  const cues = cuesInOrder(doc)
  if (group === null) return [{ heading: '', cues }]
  const groups = new Map<string, Cue[]>()
  for (const cue of cues) groups.set(cue[group], [...(groups.get(cue[group]) ?? []), cue])
  const rank = (heading: string): number => (CATEGORIES as readonly string[]).indexOf(heading)
  return [...groups]
    .map(([heading, some]) => ({ heading, cues: some }))
    .sort(
      (a, b) =>
        rank(a.heading) - rank(b.heading) || a.heading.localeCompare(b.heading, 'en', { numeric: true }),
    )
}

/** The spotting sheet as a table of text: a line of headings, then one line a cue. */
export function cueTable(doc: ReelDocument, as: ListedAs = WHOLE_LIST): string[][] {
  const fields = listedFields(as)
  const cues = listedCues(doc, as).flatMap((group) => group.cues)
  return [
    fields.map((field) => field.title),
    ...cues.map((cue) => fields.map((field) => field.text(doc, cue))),
  ]
}

/** The cue list as CSV: one line a cue, omitted ones included and marked. */
export function cueListCsv(doc: ReelDocument, as: ListedAs = WHOLE_LIST): string {
  return writeCsv(cueTable(doc, as))
}

import { ok, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import type { ComparedCue } from '../spotting/compareSheets.js'
import { cueCode, nextNumber } from '../reel/numbering.js'
import { editCues, type CueEdit } from './editRecords.js'

/**
 * Takes differences of another sheet over into this one: what only the other has is added with the next number of its
 * category, what differs becomes as the other has it. Cues that only this sheet has are left alone.
 *
 * @param args.ids - Ids for the cues to be added, at least as many as lines.
 */
export function takeOver(
  doc: ReelDocument,
  args: { lines: readonly ComparedCue[]; ids: readonly string[] },
): Result<Change> {
  const edits: CueEdit[] = []
  const added: Cue[] = []
  const numbers = new Map<string, number>()
  for (const { mine, theirs, differs } of args.lines) {
    if (!theirs) continue
    if (mine) {
      if (differs.length > 0)
        edits.push({
          id: mine.id,
          fields: Object.fromEntries(differs.map((field) => [field, theirs[field]])),
        })
      continue
    }
    const number = numbers.get(theirs.category) ?? nextNumber(doc, theirs.category)
    numbers.set(theirs.category, number + 1)
    added.push({ ...theirs, id: args.ids[added.length] ?? theirs.id, number, state: 'open', omitReason: '' })
  }
  // A cue may get another category at the same time as one of that category is added: both counted from the same number.
  const grown = { ...doc, cue: new Map([...doc.cue, ...added.map((cue) => [cue.id, cue] as const)]) }
  const changed = editCues(grown, { edits })
  if (!changed.ok) return changed
  const count = added.length + changed.value.updated.length
  const only = count === 1 ? (added[0] ?? changed.value.updated[0]?.[1]) : undefined
  const label = only?.kind === 'cue' ? `Take over ${cueCode(only)}` : `Take over ${count} differences`
  return ok({ label, added, updated: changed.value.updated, removed: [] })
}

import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { cuesInOrder, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { CATEGORIES, type Category } from '../reel/categories.js'

/**
 * Gives the cues of categories new numbers in the order of time. Numbers are otherwise never changed,
 * so this is an act of its own; the change is its own preview.
 *
 * @param args.first - Number of the first cue of each category, >= 1.
 * @param args.step - Distance from cue to cue, >= 1 (10 leaves room).
 */
export function renumberCues(
  doc: ReelDocument,
  args: { categories?: readonly Category[]; first?: number; step?: number },
): Result<Change> {
  const { categories = CATEGORIES, first = 1, step = 1 } = args
  if (first < 1 || step < 1 || !Number.isInteger(first) || !Number.isInteger(step))
    return refuse('CORE_BAD_NUMBER', 'renumberCues', `first ${first}, step ${step}`)
  const updated: [Cue, Cue][] = []
  for (const category of categories) {
    cuesInOrder(doc)
      .filter((cue) => cue.category === category)
      .forEach((cue, index) => {
        const number = first + index * step
        if (number !== cue.number) updated.push([cue, { ...cue, number }])
      })
  }
  return ok({
    label: `Renumber ${categories.length === CATEGORIES.length ? 'all cues' : categories.join(', ')}`,
    added: [],
    updated,
    removed: [],
  })
}

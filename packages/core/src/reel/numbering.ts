import type { ReelDocument } from './document.js'
import type { Category } from './categories.js'

/** The next free number of a category: one above the highest ever in the sheet, so numbers stay stable. */
export function nextNumber(doc: Pick<ReelDocument, 'cue'>, category: Category): number {
  let highest = 0
  for (const cue of doc.cue.values()) if (cue.category === category) highest = Math.max(highest, cue.number)
  return highest + 1
}

/** A cue's code as lists write it: `FX 014`. */
export function cueCode(cue: { readonly category: Category; readonly number: number }): string {
  return `${cue.category} ${String(cue.number).padStart(3, '0')}`
}

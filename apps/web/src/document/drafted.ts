import { keepTake, type Change, type Performed, type ReelDocument, type Result } from '@yodel/core'
import type { DraftState } from './draftSlice.js'
import { TRIED, triedBy, type Tried } from './tried.js'

/** The edit that keeps a choice of the draft for its cue. */
export const keepDrafted = (
  doc: ReelDocument,
  cueId: string,
  performed: readonly Performed[],
  newId: () => string,
): Result<Change> => {
  const [first] = performed
  const label = `Keep ${first?.sound.name ?? ''}${performed.length > 1 ? `, ${performed.length} steps` : ''}`
  return keepTake(doc, { performed, cues: 'none', words: '', newId, cueId, label })
}

/** The choice that is looked at, where it would be kept; null while none is, or when it could not be kept. */
export function draftTriedIn(doc: ReelDocument, { shown }: Pick<DraftState, 'shown'>): Tried | null {
  if (!shown || shown.performed.length === 0 || !doc.cue.has(shown.cueId)) return null
  let count = 0
  return triedBy(
    doc,
    keepDrafted(doc, shown.cueId, shown.performed, () => `${TRIED}draft ${count++}`),
  )
}

import { ok, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { checkCue } from '../reel/invariants.js'
import type { Cue } from '../reel/records.js'
import { blankCue } from '../spotting/blankCue.js'
import type { Category } from '../reel/categories.js'
import { cueCode, nextNumber } from '../reel/numbering.js'

/**
 * Drops a cue with the next number of its category.
 *
 * @param args.in - Frame from the reel's first frame; also the sync frame.
 * @param args.out - End frame, exclusive; a cue dropped without a span passes `in + 1`.
 */
export function spotCue(
  doc: ReelDocument,
  args: { id: string; category: Category; in: number; out: number; words?: string },
): Result<Change> {
  const number = nextNumber(doc, args.category)
  const cue: Cue = { ...blankCue({ ...args, number, sync: args.in }), id: args.id, words: args.words ?? '' }
  return checkCue(cue) ?? ok({ label: `Spot ${cueCode(cue)}`, added: [cue], updated: [], removed: [] })
}

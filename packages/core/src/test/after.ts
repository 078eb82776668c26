import { expectOk, type Result } from '../errors.js'
import { placeSound } from '../edits/placeSound.js'
import { apply, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { checkChange } from '../reel/invariants.js'
import { SAMPLE_RATE } from '../time/units.js'

/** A document after an edit that must be possible and must keep every rule. */
export function after(doc: ReelDocument, edit: Result<Change>): ReelDocument {
  const change = expectOk(edit)
  const next = expectOk(apply(doc, change))
  expectOk(checkChange(next, change))
  return next
}

/** A recording of a second whose sync point lies at a quarter. */
export const SOUND = { id: 's', name: 'Lever', recorded: SAMPLE_RATE, sync: SAMPLE_RATE / 4 }

/** A document with one sound more, its sync point on a frame, on a track `t-ID` of its own where no other is free. */
export function placed(
  doc: ReelDocument,
  id: string,
  frame: number,
  extra: Partial<Parameters<typeof placeSound>[1]> = {},
): ReelDocument {
  const where = {
    id,
    newTrackId: `t-${id}`,
    category: 'FX',
    cueId: null,
    frame,
    sound: SOUND,
    ...extra,
  } as const
  return after(doc, placeSound(doc, where))
}

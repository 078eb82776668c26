import { ok, refuse, type Result } from '../errors.js'
import { EFFECT_NAMES } from '../reel/inserts.js'
import { sameRecord, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import type { Clip } from '../reel/records.js'
import { PRESETS } from '../treatment/presets.js'
import {
  isTreatment,
  MOST_PIECES,
  piecesOf,
  treatmentIn,
  treatmentText,
  type ClipEffect,
  type ClipPiece,
} from '../treatment/clipTreatment.js'

/** Sets the treatment that sounds have of their own; what lies out of range is refused. */
export function treatClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; pieces: readonly ClipPiece[]; label?: string },
): Result<Change> {
  const treatment = treatmentText(args.pieces)
  if (args.pieces.length > MOST_PIECES)
    return refuse('CORE_BAD_RECORD', 'treatment', `a sound can have ${MOST_PIECES} pieces of its own`)
  if (!isTreatment(treatment))
    return refuse('CORE_BAD_RECORD', 'treatment', 'a setting lies out of its range')
  const updated: [Clip, Clip][] = []
  for (const id of args.ids) {
    const from = doc.clip.get(id)
    if (!from) return refuse('CORE_RECORD_MISSING', 'treatClips', id)
    const to = { ...from, treatment }
    if (!sameRecord(from, to)) updated.push([from, to])
  }
  const what = updated.length === 1 ? (updated[0]?.[0].name ?? '') : `${args.ids.length} sounds`
  return ok({ label: args.label ?? `Treatment of ${what}`, added: [], updated, removed: [] })
}

/** Adds a piece to what a sound has of its own, set by the first preset of its kind. */
export function addClipPiece(doc: ReelDocument, args: { id: string; effect: ClipEffect }): Result<Change> {
  const clip = doc.clip.get(args.id)
  if (!clip) return refuse('CORE_RECORD_MISSING', 'addClipPiece', args.id)
  const settings = PRESETS[args.effect][0]?.settings
  const piece = { effect: args.effect, bypass: false, ...settings } as ClipPiece
  const label = `${EFFECT_NAMES[args.effect]} on ${clip.name}`
  return treatClips(doc, { ids: [args.id], pieces: [...piecesOf(treatmentIn(clip)), piece], label })
}

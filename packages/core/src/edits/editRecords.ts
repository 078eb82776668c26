import { ok, refuse, type Result } from '../errors.js'
import { sameRecord, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { checkCue } from '../reel/invariants.js'
import type { Cue, Track } from '../reel/records.js'
import { withFields, type CueFields } from '../reel/withTimes.js'
import type { Category } from '../reel/categories.js'
import { cueCode, nextNumber } from '../reel/numbering.js'

/** Fields of one cue to be set. */
export interface CueEdit {
  readonly id: string
  readonly fields: CueFields
}

/**
 * Changes fields of cues, as many at once as are given. Moving the in or the out past the other one is refused for all;
 * a sync frame left outside by a new span stays where it is, since a sound may sync before its cue.
 * A cue that gets another category gets the next number of that category, unless a number is given.
 */
export function editCues(
  doc: ReelDocument,
  args: { edits: readonly CueEdit[]; label?: string },
): Result<Change> {
  const updated: [Cue, Cue][] = []
  const next = new Map<Category, number>()
  for (const { id, fields } of args.edits) {
    const from = doc.cue.get(id)
    if (!from) return refuse('CORE_RECORD_MISSING', 'editCues', id)
    const to = withFields(from, fields)
    if (to.category !== from.category && fields.number === undefined) {
      to.number = next.get(to.category) ?? nextNumber(doc, to.category)
      next.set(to.category, to.number + 1)
    }
    const wrong = checkCue(to)
    if (wrong) return wrong
    if (!sameRecord(from, to)) updated.push([from, to])
  }
  const only = updated.length === 1 ? updated[0]?.[0] : undefined
  return ok({
    label: args.label ?? (only ? `Edit ${cueCode(only)}` : `Edit ${updated.length} cues`),
    added: [],
    updated,
    removed: [],
  })
}

/** Changes fields of one cue; see {@link editCues}. */
export function editCue(doc: ReelDocument, args: CueEdit & { label?: string }): Result<Change> {
  return editCues(doc, { edits: [args], ...(args.label ? { label: args.label } : {}) })
}

/** Changes fields of a track: its name, level (dB), pan, mute, solo. */
export function editTrack(
  doc: ReelDocument,
  args: { id: string; fields: Partial<Omit<Track, 'kind' | 'id'>>; label?: string },
): Result<Change> {
  const from = doc.track.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'editTrack', args.id)
  const to: Track = { ...from, ...args.fields }
  return ok({
    label: args.label ?? `Edit track ${from.name}`,
    added: [],
    updated: sameRecord(from, to) ? [] : [[from, to]],
    removed: [],
  })
}

import { ok, refuse, type Result } from '../errors.js'
import { sameRecord, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { checkCue } from '../reel/invariants.js'
import type { Cue, Track } from '../reel/records.js'
import { cueCode } from '../spotting/numbering.js'

/**
 * Changes fields of a cue. Moving the in or the out past the other one is refused;
 * a sync frame left outside by a new span stays where it is, since a sound may sync before its cue.
 */
export function editCue(doc: ReelDocument, args: { id: string; fields: Partial<Omit<Cue, 'kind' | 'id'>>; label?: string }): Result<Change> {
  const from = doc.cue[args.id]
  if (!from) return refuse('CORE_RECORD_MISSING', 'editCue', args.id)
  const to: Cue = { ...from, ...args.fields }
  return checkCue(to) ?? ok(update(args.label ?? `Edit ${cueCode(from)}`, from, to))
}

/** Changes fields of a track: its name, level (dB), pan, mute, solo. */
export function editTrack(doc: ReelDocument, args: { id: string; fields: Partial<Omit<Track, 'kind' | 'id'>>; label?: string }): Result<Change> {
  const from = doc.track[args.id]
  if (!from) return refuse('CORE_RECORD_MISSING', 'editTrack', args.id)
  return ok(update(args.label ?? `Edit track ${from.name}`, from, { ...from, ...args.fields }))
}

function update<T extends Cue | Track>(label: string, from: T, to: T): Change {
  return { label, added: [], updated: sameRecord(from, to) ? [] : [[from, to]], removed: [] }
}

import { ok, refuse, type Result } from '../errors.js'
import { sameRecord, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { findCollision } from '../reel/invariants.js'
import type { Clip } from '../reel/records.js'
import { withTimes, type PlainTimes } from '../reel/withTimes.js'

/** What can be set on placed sounds without moving them. */
export type ClipShape = Partial<
  Pick<Clip, 'gain' | 'fadeInShape' | 'fadeOutShape' | 'mute' | 'cueId' | 'name' | 'locked'>
> &
  Pick<PlainTimes, 'fadeIn' | 'fadeOut' | 'sync'>

/**
 * Sets gain (dB, clamped to -96 to 24), fades (samples, clamped to the clip), mute or sync point of clips.
 *
 * @param args.gainBy - Added to each clip's own gain, so that several keep their balance.
 * @param args.stepBy - Added once more for each clip than for the one before it in time: each 3 dB lower than the last.
 */
export function shapeClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; fields?: ClipShape; gainBy?: number; stepBy?: number; label?: string },
): Result<Change> {
  const updated: [Clip, Clip][] = []
  const inTime = args.stepBy
    ? args.ids.toSorted((a, b) => (doc.clip.get(a)?.start ?? 0) - (doc.clip.get(b)?.start ?? 0))
    : args.ids
  for (const [index, id] of inTime.entries()) {
    const from = doc.clip.get(id)
    if (!from) return refuse('CORE_RECORD_MISSING', 'shapeClips', id)
    const { fadeIn = from.fadeIn, fadeOut = from.fadeOut, sync = from.sync, ...fields } = args.fields ?? {}
    const gain = (fields.gain ?? from.gain) + (args.gainBy ?? 0) + index * (args.stepBy ?? 0)
    const to = withTimes(
      { ...from, ...fields, gain: Math.min(24, Math.max(-96, gain)) },
      {
        fadeIn: Math.min(from.length, Math.max(0, fadeIn)),
        fadeOut: Math.min(from.length, Math.max(0, fadeOut)),
        sync: Math.min(from.recorded - 1, Math.max(0, sync)),
      },
    )
    const other = findCollision(doc, to)
    if (other)
      return refuse('CORE_OVERLAP', from.name, `its fade is needed for the crossfade with ${other.name}`)
    if (!sameRecord(from, to)) updated.push([from, to])
  }
  const only = updated.length === 1 ? (updated[0]?.[0].name ?? '') : `${args.ids.length} sounds`
  return ok({ label: args.label ?? `Shape ${only}`, added: [], updated, removed: [] })
}

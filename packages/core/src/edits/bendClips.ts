import { ok, refuse, type Result } from '../errors.js'
import { sameRecord, type Change } from '../reel/change.js'
import { syncPlace, type ReelDocument } from '../reel/document.js'
import { findCollision } from '../reel/invariants.js'
import { SPEEDS, type Clip } from '../reel/records.js'
import { withTimes } from '../reel/withTimes.js'
import { SHORTEST_CLIP, withShorterFades } from './trimClip.js'

/** How clips are played. */
export type ClipBend = Partial<
  Pick<Clip, 'speed' | 'keepPitch' | 'reverse' | 'sides' | 'channels'> &
    Pick<Clip, 'runUp' | 'runDown' | 'passSpeed' | 'passDistance'>
>

/**
 * Sets how sounds are played: their speed (with or without their pitch, held within {@link SPEEDS}), their direction, their sides, their channels,
 * the stretches over which they run up and down, how they go past.
 * At another speed the sync point stays on its frame and the same part of the recording is heard; turned round, the sound stays in its place.
 *
 * @param args.label - What a history shows.
 */
export function bendClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; fields: ClipBend; label?: string },
): Result<Change> {
  const updated: [Clip, Clip][] = []
  for (const id of args.ids) {
    const from = doc.clip.get(id)
    if (!from) return refuse('CORE_RECORD_MISSING', 'bendClips', id)
    const { speed = from.speed, reverse = from.reverse, ...rest } = args.fields
    const bent = turned(
      { ...atSpeed(from, Math.max(SPEEDS.slowest, Math.min(SPEEDS.fastest, speed))), ...rest },
      reverse,
    )
    const to = withShorterFades({
      ...bent,
      runUp: Math.max(0, bent.runUp),
      runDown: Math.max(0, bent.runDown),
    })
    if (to.start < 0) return refuse('CORE_BEFORE_REEL', from.name, `start ${to.start}`)
    const other = findCollision(doc, to)
    if (other) return refuse('CORE_OVERLAP', from.name, `it would sound over ${other.name}`)
    if (!sameRecord(from, to)) updated.push([from, to])
  }
  const what = updated.length === 1 ? updated[0]?.[0].name : `${args.ids.length} sounds`
  return ok({ label: args.label ?? `Play ${what} otherwise`, added: [], updated, removed: [] })
}

function atSpeed(clip: Clip, speed: number): Clip {
  if (speed === clip.speed) return clip
  const ratio = clip.speed / speed
  const recorded = Math.max(1, Math.floor(clip.recorded * ratio))
  const offset = Math.min(recorded - 1, Math.round(clip.offset * ratio))
  const length = Math.max(
    1,
    Math.min(recorded - offset, Math.max(SHORTEST_CLIP, Math.round(clip.length * ratio))),
  )
  const sync = Math.min(recorded - 1, Math.round(clip.sync * ratio))
  const start = syncPlace(clip) - sync + offset
  return withShorterFades(withTimes({ ...clip, speed }, { recorded, offset, length, sync, start }))
}

function turned(clip: Clip, reverse: boolean): Clip {
  if (reverse === clip.reverse) return clip
  const offset = clip.recorded - clip.offset - clip.length
  return withTimes({ ...clip, reverse }, { offset, sync: Math.max(0, clip.recorded - 1 - clip.sync) })
}

import { warpOf } from '../../audio/warp.js'
import type { ReelDocument } from '../../reel/document.js'
import type { Clip, ReelRecord } from '../../reel/records.js'
import { recordsOf } from '../../reel/document.js'
import { samples } from '../../time/units.js'

/** A recording, or a part of one, that goes into a package. */
export interface SoundPart {
  /** What the package calls it. */
  readonly id: string
  readonly soundId: string
  /** Samples of the recording at 48 kHz, `[from, to)`; null for the file as it is. */
  readonly part: { readonly from: number; readonly to: number } | null
  /** Ids of the clips that play it. */
  readonly clips: readonly string[]
}

/**
 * What of the recordings in use a package needs: each as it is, or only the parts that are heard.
 * A recording that is somewhere played at another speed, backwards or on the move stays whole: what its parts are made of reaches further.
 *
 * @param handles - Samples at 48 kHz wanted before and after what is heard; null for whole files.
 */
export function soundParts(doc: Pick<ReelDocument, 'clip'>, handles: number | null): SoundPart[] {
  const uses = new Map<string, Clip[]>()
  for (const clip of doc.clip.values()) uses.set(clip.soundId, [...(uses.get(clip.soundId) ?? []), clip])
  const parts: SoundPart[] = []
  for (const [soundId, clips] of uses) {
    const whole =
      handles === null ||
      clips.some((clip) => clip.speed !== 1 || clip.reverse || clip.channels !== '' || warpOf(clip))
    if (whole)
      parts.push({ id: `s${parts.length + 1}`, soundId, part: null, clips: clips.map(({ id }) => id) })
    else
      for (const { clips: some, ...part } of stretches(clips, handles))
        parts.push({ id: `s${parts.length + 1}`, soundId, part, clips: some })
  }
  return parts
}

/** The stretches of a recording that its clips need, joined where they touch. */
function stretches(clips: readonly Clip[], handles: number): { from: number; to: number; clips: string[] }[] {
  const wanted = clips
    .map(({ id, offset, length, sync, recorded }) => ({
      // The sync point stays in it: a clip can't speak of what its file does not hold.
      from: Math.max(0, Math.min(offset - handles, sync)),
      to: Math.min(recorded, Math.max(offset + length + handles, sync + 1)),
      clips: [id],
    }))
    .sort((a, b) => a.from - b.from)
  const joined: typeof wanted = []
  for (const one of wanted) {
    const last = joined.at(-1)
    if (last && one.from <= last.to) {
      last.to = Math.max(last.to, one.to)
      last.clips.push(...one.clips)
    } else joined.push(one)
  }
  return joined
}

/**
 * The records of a reel as they stand in a package: clips play the package's parts, and sound the same to the sample.
 * What the parts don't hold is left out: shortlisted recordings that are not in use, and clips of an earlier stand.
 */
export function packRecords(doc: ReelDocument, parts: readonly SoundPart[]): ReelRecord[] {
  const bySound = new Map<string, SoundPart[]>()
  for (const part of parts) bySound.set(part.soundId, [...(bySound.get(part.soundId) ?? []), part])
  return recordsOf(doc).flatMap((record): ReelRecord[] => {
    if (record.kind === 'candidate') {
      const held = bySound.get(record.soundId)?.find(({ part }) => part === null)
      return held ? [{ ...record, soundId: held.id }] : []
    }
    if (record.kind !== 'clip') return [record]
    const held = bySound.get(record.soundId)?.find(({ part }) => part === null || holds(part, record))
    if (!held) return []
    if (held.part === null) return [{ ...record, soundId: held.id }]
    const { from, to } = held.part
    return [
      {
        ...record,
        soundId: held.id,
        offset: samples(record.offset - from),
        sync: samples(record.sync - from),
        recorded: samples(to - from),
      },
    ]
  })
}

/** Says whether a part of a recording holds all that a clip plays, and its sync point. */
const holds = ({ from, to }: { from: number; to: number }, clip: Clip): boolean =>
  clip.speed === 1 &&
  !clip.reverse &&
  !warpOf(clip) &&
  Math.min(clip.offset, clip.sync) >= from &&
  Math.max(clip.offset + clip.length, clip.sync) <= to

/** The records of a package with its recordings as they are known where it was opened. @param ids - Known id by the package's */
export function unpackRecords(
  records: readonly ReelRecord[],
  ids: ReadonlyMap<string, string>,
): ReelRecord[] {
  return records.flatMap((record): ReelRecord[] => {
    if (record.kind !== 'clip' && record.kind !== 'candidate') return [record]
    const soundId = ids.get(record.soundId)
    if (soundId !== undefined) return [{ ...record, soundId }]
    if (record.kind === 'candidate') return []
    throw new Error(`unpackRecords: no recording ${record.soundId}`)
  })
}

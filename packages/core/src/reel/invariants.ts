import { ok, refuse, type Refusal, type Result } from '../errors.js'
import { sameRecord, type Change } from './change.js'
import { clipsByTrack, clipsOnTrack, insertsOn, shortlistOf, type ReelDocument } from './document.js'
import { EFFECT_NAMES, STEM_PLACES, WHOLE } from './inserts.js'
import type { Clip, Cue, Note, ReelRecord, RidePoint } from './records.js'

/** Says why a cue's frames make no sense, or null. */
export function checkCue(cue: Cue): Refusal | null {
  if (cue.out <= cue.in)
    return refuse('CORE_BAD_SPAN', `cue ${cue.category} ${cue.number}`, `in ${cue.in}, out ${cue.out}`)
  return null
}

/** Says why a clip is impossible by itself (recording, span), or null. */
export function checkClip(clip: Clip): Refusal | null {
  if (clip.start < 0) return refuse('CORE_BEFORE_REEL', clip.name, `start ${clip.start}`)
  if (clip.length < 1) return refuse('CORE_BAD_SPAN', clip.name, `length ${clip.length}`)
  if (clip.offset < 0 || clip.offset + clip.length > clip.recorded) {
    return refuse(
      'CORE_OUTSIDE_RECORDING',
      clip.name,
      `samples ${clip.offset} to ${clip.offset + clip.length} of ${clip.recorded}`,
    )
  }
  return null
}

/**
 * Says whether two clips of one track may lie as they do: apart, or overlapping in a crossfade,
 * where the overlap is no longer than the first one's fade out and the second one's fade in.
 */
export function mayMeet(a: Clip, b: Clip): boolean {
  const [first, second] = a.start <= b.start ? [a, b] : [b, a]
  const overlap = first.start + first.length - second.start
  if (overlap <= 0) return true
  return (
    overlap <= first.fadeOut &&
    overlap <= second.fadeIn &&
    first.start + first.length <= second.start + second.length
  )
}

/** Finds a clip on the same track that the given one would sound over, or null. */
export function findCollision(
  doc: ReelDocument,
  clip: Clip,
  ignore: ReadonlySet<string> = new Set(),
): Clip | null {
  for (const other of clipsByTrack(doc).get(clip.trackId) ?? []) {
    if (other.id === clip.id || ignore.has(other.id)) continue
    if (!mayMeet(other, clip)) return other
  }
  return null
}

/**
 * Checks the records that a change leaves behind against the rules of the document after it.
 *
 * @param doc - The document after the change.
 */
export function checkChange(doc: ReelDocument, change: Change): Result<null> {
  const left = [...change.added, ...change.updated.map(([, to]) => to)]
  const usedNumbers = new Map<string, string>()
  if (left.some((record) => record.kind === 'cue')) {
    for (const cue of doc.cue.values()) {
      const key = `${cue.category} ${cue.number}`
      const other = usedNumbers.get(key)
      if (other) return refuse('CORE_NUMBER_TAKEN', change.label, key)
      usedNumbers.set(key, cue.id)
    }
  }
  for (const record of left) {
    const refusal = checkRecord(doc, record)
    if (refusal) return refusal
  }
  for (const [from, to] of change.updated) {
    if (
      from.kind === 'clip' &&
      to.kind === 'clip' &&
      from.locked &&
      to.locked &&
      !sameRecord(to, { ...from, mute: to.mute })
    )
      return refuse('CORE_LOCKED', from.name)
  }
  for (const record of change.removed) {
    if (record.kind === 'clip' && record.locked) return refuse('CORE_LOCKED', record.name)
    if (record.kind === 'cue' && shortlistOf(doc, record.id).length > 0)
      return refuse('CORE_RECORD_MISSING', change.label, 'a shortlist would lose its cue')
    if (record.kind === 'reel') return refuse('CORE_REEL_GONE', change.label, record.name)
    if (record.kind === 'note' && [...doc.note.values()].some((note) => note.replyTo === record.id)) {
      return refuse('CORE_RECORD_MISSING', change.label, 'a note that has just been answered')
    }
    if (record.kind !== 'track') continue
    const loose = [...doc.ride.values()].find((point) => point.trackId === record.id)
    if (loose) return refuse('CORE_NO_TRACK', change.label, `a ride would lose track ${record.name}`)
    if (insertsOn(doc, record.id).length > 0)
      return refuse('CORE_NO_TRACK', change.label, `treatment would lose track ${record.name}`)
    const orphan = clipsOnTrack(doc, record.id)[0]
    if (orphan) return refuse('CORE_NO_TRACK', change.label, `${orphan.name} would lose track ${record.name}`)
  }
  return ok(null)
}

function checkRecord(doc: ReelDocument, record: ReelRecord): Refusal | null {
  switch (record.kind) {
    case 'cue':
      return checkCue(record)
    case 'clip':
      return checkPlaced(doc, record)
    case 'note':
      return checkNote(doc, record)
    case 'ride':
      return checkRide(doc, record)
    case 'insert':
      return record.on === WHOLE || STEM_PLACES.includes(record.on) || doc.track.has(record.on)
        ? null
        : refuse('CORE_NO_TRACK', EFFECT_NAMES[record.effect], record.on)
    case 'candidate':
      return doc.cue.has(record.cueId)
        ? null
        : refuse('CORE_RECORD_MISSING', 'shortlist', `cue ${record.cueId}`)
    case 'reel':
    case 'cut':
    case 'track':
      return null
  }
}

function checkRide(doc: ReelDocument, point: RidePoint): Refusal | null {
  if (!doc.track.get(point.trackId)) return refuse('CORE_NO_TRACK', 'ride', point.trackId)
  if (point.what === 'pan' && Math.abs(point.value) > 1)
    return refuse('CORE_BAD_RECORD', 'pan', `${point.value} is not between -1 and 1`)
  return null
}

function checkNote(doc: ReelDocument, note: Note): Refusal | null {
  if (note.replyTo !== null && doc.note.get(note.replyTo)?.replyTo !== null)
    return refuse('CORE_RECORD_MISSING', 'answer', `note ${note.replyTo}`)
  if (note.cueId !== null && !doc.cue.get(note.cueId))
    return refuse('CORE_RECORD_MISSING', 'note', `cue ${note.cueId}`)
  return null
}

function checkPlaced(doc: ReelDocument, clip: Clip): Refusal | null {
  const alone = checkClip(clip)
  if (alone) return alone
  const track = doc.track.get(clip.trackId)
  if (!track) return refuse('CORE_NO_TRACK', clip.name, clip.trackId)
  const other = findCollision(doc, clip)
  return other
    ? refuse('CORE_OVERLAP', `${clip.name} on ${track.name}`, `it would sound over ${other.name}`)
    : null
}

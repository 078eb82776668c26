import { ok, refuse, type Refusal, type Result } from '../errors.js'
import { sameRecord, touchedIds, type Change } from './change.js'
import {
  clipsByCue,
  clipsByGroup,
  clipsByTrack,
  clipsOnTrack,
  insertsOn,
  shortlistOf,
  type ReelDocument,
} from './document.js'
import { EFFECT_NAMES, STEM_PLACES, WHOLE } from './inserts.js'
import { RECORD_KINDS } from './records.js'
import type { Candidate, Clip, Cue, Note, Reel, ReelRecord, RidePoint } from './records.js'

/** Says why a cue's frames make no sense, or null. */
export function checkCue(cue: Cue): Refusal | null {
  if (cue.out <= cue.in)
    return refuse('CORE_BAD_SPAN', `cue ${cue.category} ${cue.number}`, `in ${cue.in}, out ${cue.out}`)
  return null
}

/** Says why a clip is impossible by itself (recording, span, fades), or null. */
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
  if (clip.runUp + clip.runDown > clip.length)
    return refuse('CORE_BAD_SPAN', clip.name, `runs of ${clip.runUp} and ${clip.runDown} in ${clip.length}`)
  if (Math.max(clip.fadeIn, clip.fadeOut) > clip.length)
    return refuse('CORE_BAD_SPAN', clip.name, `fades of ${clip.fadeIn} and ${clip.fadeOut} in ${clip.length}`)
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
 * Checks a change, and the records that it leaves behind, against the rules of the document after it.
 * Whatever writes a reel asks this first: the page before it shows an edit, the server before it keeps one.
 *
 * @param doc - The document after the change.
 */
export function checkChange(doc: ReelDocument, change: Change): Result<null> {
  const left = [...change.added, ...change.updated.map(([, to]) => to)]
  const wrong = checkForm(doc, change) ?? checkNumbers(doc, change, left)
  if (wrong) return wrong
  for (const record of left) {
    const refusal = checkRecord(doc, record)
    if (refusal) return refusal
  }
  for (const [from, to] of change.updated) {
    const refusal = checkUpdate(doc, from, to)
    if (refusal) return refusal
  }
  for (const record of change.removed) {
    const refusal = checkRemoval(doc, change, record)
    if (refusal) return refusal
  }
  return ok(null)
}

/** Each record stands in a change once, keeps its kind and id, and no two kinds share an id; a reel is one reel. */
function checkForm(doc: ReelDocument, change: Change): Refusal | null {
  const bad = (found: string): Refusal => refuse('CORE_BAD_RECORD', change.label, found)
  const seen = new Set<string>()
  for (const id of touchedIds(change)) {
    if (seen.has(id)) return bad(`${id} stands in it twice`)
    seen.add(id)
  }
  for (const [from, to] of change.updated) {
    if (from.kind !== to.kind || from.id !== to.id)
      return bad(`${from.kind} ${from.id} can’t become ${to.kind} ${to.id}`)
  }
  for (const { kind, id } of change.added) {
    const other = RECORD_KINDS.find((one) => one !== kind && doc[one].has(id))
    if (other) return bad(`${id} is a ${other} already`)
  }
  const reels = change.added.some((record) => record.kind === 'reel') ? doc.reel.size : 1
  return reels === 1 ? null : bad('a reel can’t hold another reel')
}

function checkNumbers(doc: ReelDocument, change: Change, left: readonly ReelRecord[]): Refusal | null {
  if (!left.some((record) => record.kind === 'cue')) return null
  const used = new Set<string>()
  for (const cue of doc.cue.values()) {
    const key = `${cue.category} ${cue.number}`
    if (used.has(key)) return refuse('CORE_NUMBER_TAKEN', change.label, key)
    used.add(key)
  }
  return null
}

function checkUpdate(doc: ReelDocument, from: ReelRecord, to: ReelRecord): Refusal | null {
  if (from.kind === 'reel' && to.kind === 'reel' && from.rate !== to.rate && doc.cue.size + doc.clip.size > 0)
    return refuse('CORE_REEL_IN_USE', from.name)
  if (from.kind !== 'clip' || to.kind !== 'clip' || !from.locked || !to.locked) return null
  return sameRecord(to, { ...from, mute: to.mute }) ? null : refuse('CORE_LOCKED', from.name)
}

/** Nothing is taken out that something else still hangs on. */
function checkRemoval(doc: ReelDocument, change: Change, record: ReelRecord): Refusal | null {
  const missed = (found: string): Refusal => refuse('CORE_RECORD_MISSING', change.label, found)
  const trackless = (found: string): Refusal =>
    refuse('CORE_NO_TRACK', change.label, `${found} would lose its track`)
  switch (record.kind) {
    case 'clip':
      return record.locked ? refuse('CORE_LOCKED', record.name) : null
    case 'reel':
      return refuse('CORE_REEL_GONE', change.label, record.name)
    case 'cue': {
      if (shortlistOf(doc, record.id).length > 0) return missed('a shortlist would lose its cue')
      const sound = clipsByCue(doc).get(record.id)?.[0]
      if (sound) return missed(`${sound.name} would lose its cue`)
      const noted = [...doc.note.values()].some((note) => note.cueId === record.id)
      return noted ? missed('a note would lose its cue') : null
    }
    case 'note':
      return [...doc.note.values()].some((note) => note.replyTo === record.id)
        ? missed('a note that has just been answered')
        : null
    case 'cut':
      return checkPicture(doc, [...doc.reel.values()][0])
    case 'track': {
      const ridden = [...doc.ride.values()].some((point) => point.trackId === record.id)
      if (ridden) return trackless('a ride')
      if (insertsOn(doc, record.id).length > 0) return trackless('treatment')
      const orphan = clipsOnTrack(doc, record.id)[0]
      return orphan ? trackless(orphan.name) : null
    }
    case 'stack': {
      const layer = clipsByGroup(doc).get(record.id)?.[0]
      return layer ? missed(`${layer.name} would lose its stack`) : null
    }
    case 'ride':
    case 'insert':
    case 'candidate':
    case 'acceptance':
      return null
  }
}

/** The picture that is shown has its place on the reel. */
function checkPicture(doc: ReelDocument, reel: Reel | undefined): Refusal | null {
  if (!reel || reel.pictureId === null) return null
  const placed = [...doc.cut.values()].some((cut) => cut.pictureId === reel.pictureId)
  return placed ? null : refuse('CORE_RECORD_MISSING', reel.name, `its picture ${reel.pictureId}`)
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
      return checkCandidate(doc, record)
    case 'stack':
      return clipsByGroup(doc).has(record.id)
        ? null
        : refuse('CORE_RECORD_MISSING', record.name, 'a stack needs a layer')
    case 'reel':
      return checkPicture(doc, record)
    case 'cut':
    case 'track':
    case 'acceptance':
      return null
  }
}

function checkCandidate(doc: ReelDocument, candidate: Candidate): Refusal | null {
  const { cueId, in: first, out } = candidate
  if (!doc.cue.has(cueId)) return refuse('CORE_RECORD_MISSING', 'shortlist', `cue ${cueId}`)
  return first !== null && out !== null && out <= first
    ? refuse('CORE_BAD_SPAN', candidate.name, `samples ${first} to ${out}`)
    : null
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
  if (clip.cueId !== null && !doc.cue.has(clip.cueId))
    return refuse('CORE_RECORD_MISSING', clip.name, `cue ${clip.cueId}`)
  const other = findCollision(doc, clip)
  return other
    ? refuse('CORE_OVERLAP', `${clip.name} on ${track.name}`, `it would sound over ${other.name}`)
    : null
}

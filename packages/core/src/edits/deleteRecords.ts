import { ok, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { clipsOnTrack, insertsOn, shortlistOf, type ReelDocument } from '../reel/document.js'
import type { Clip, Note, ReelRecord } from '../reel/records.js'
import { cueCode } from '../reel/numbering.js'
import { EFFECT_NAMES } from '../reel/inserts.js'
import { emptiedStacks } from './stacks.js'

/**
 * Deletes cues, clips, tracks, notes, points of rides, pieces of treatment, candidates and acceptances by id; unknown ids are passed over.
 * Clips of a deleted cue stay on their track and belong to no cue, and its notes stay at its sync frame; its shortlist goes with it;
 * a deleted track takes its clips, rides and treatment along, a deleted note its answers, the last layer of a stack the stack.
 */
export function deleteRecords(doc: ReelDocument, args: { ids: readonly string[] }): Result<Change> {
  const ids = new Set(args.ids)
  const removed: ReelRecord[] = []
  for (const id of ids) {
    const record =
      doc.cue.get(id) ??
      doc.clip.get(id) ??
      doc.track.get(id) ??
      doc.note.get(id) ??
      doc.ride.get(id) ??
      doc.insert.get(id) ??
      doc.candidate.get(id) ??
      doc.acceptance.get(id)
    if (!record) continue
    removed.push(record)
    if (record.kind === 'note')
      removed.push(...[...doc.note.values()].filter((note) => note.replyTo === id && !ids.has(note.id)))
    if (record.kind === 'cue')
      removed.push(...shortlistOf(doc, id).filter((candidate) => !ids.has(candidate.id)))
    if (record.kind !== 'track') continue
    removed.push(...clipsOnTrack(doc, id).filter((clip) => !ids.has(clip.id)))
    removed.push(...insertsOn(doc, id).filter((insert) => !ids.has(insert.id)))
    removed.push(...[...doc.ride.values()].filter((point) => point.trackId === id && !ids.has(point.id)))
  }
  removed.push(...emptiedStacks(doc, new Set(removed.map((record) => record.id))))
  const gone = new Set(removed.map((record) => record.id))
  const updated = [...doc.clip.values()]
    .filter((clip) => clip.cueId !== null && gone.has(clip.cueId) && !gone.has(clip.id))
    .map((clip): [Clip, Clip] => [clip, { ...clip, cueId: null }])
  const notes = [...doc.note.values()]
    .filter((note) => note.cueId !== null && gone.has(note.cueId) && !gone.has(note.id))
    .map((note): [Note, Note] => [
      note,
      { ...note, cueId: null, frame: doc.cue.get(note.cueId ?? '')?.sync ?? note.frame },
    ])
  const first = removed[0]
  const what = removed.length === 1 && first ? nameOf(first) : `${removed.length} items`
  return ok({ label: `Delete ${what}`, added: [], updated: [...updated, ...notes], removed })
}

function nameOf(record: ReelRecord): string {
  switch (record.kind) {
    case 'cue':
      return cueCode(record)
    case 'note':
      return 'a note'
    case 'ride':
      return `a point of ${record.what}`
    case 'insert':
      return EFFECT_NAMES[record.effect]
    case 'acceptance':
      return 'an acceptance'
    case 'reel':
    case 'cut':
    case 'track':
    case 'clip':
    case 'candidate':
    case 'stack':
      return record.name
  }
}

import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { reelOf, type ReelDocument } from '../reel/document.js'
import type { Cut, Note, Reel, Track } from '../reel/records.js'
import { addTrack } from './placeSound.js'
import type { Category } from '../reel/categories.js'
import { framesAtRate, sampleToFrame } from '../time/convert.js'
import { FRAME_RATES } from '../time/rates.js'
import { formatTimecode, parseTimecode } from '../time/timecode.js'
import { frames, type Frames } from '../time/units.js'

/** Facts of a reel that may be set at any time. */
export type ReelFacts = Partial<Pick<Reel, 'name' | 'show' | 'company' | 'nameRule'>> & {
  readonly firstFrame?: number
  readonly programme?: number
  readonly length?: number
}

/** Sets facts of the reel. It can't be made shorter than what lies on it. */
export function editReel(doc: ReelDocument, args: { fields: ReelFacts; label?: string }): Result<Change> {
  const from = reelOf(doc)
  const {
    firstFrame = from.firstFrame,
    programme = from.programme,
    length = from.length,
    ...words
  } = args.fields
  const to: Reel = {
    ...from,
    ...words,
    firstFrame: frames(firstFrame),
    programme: frames(programme),
    length: frames(length),
  }
  const rate = FRAME_RATES[from.rate]
  const last = Math.max(
    0,
    ...[...doc.cue.values()].map((cue) => cue.out),
    ...[...doc.clip.values()].map((clip) => sampleToFrame(clip.start + clip.length - 1, rate) + 1),
  )
  if (to.length < last && to.length < from.length) {
    return refuse(
      'CORE_BAD_LENGTH',
      from.name,
      `something lies as far as ${formatTimecode(from.firstFrame + last, rate)}; move or delete it first`,
    )
  }
  if (to.programme >= to.length)
    return refuse('CORE_BAD_LENGTH', from.name, 'the programme has to begin before the end')
  const same = (Object.keys(to) as (keyof Reel)[]).every((key) => to[key] === from[key])
  return ok({
    label: args.label ?? 'Edit the reel’s facts',
    added: [],
    updated: same ? [] : [[from, to]],
    removed: [],
  })
}

/**
 * Gives an empty reel another frame rate; start, programme and length keep their timecode or, where that does not
 * exist at the new rate, the nearest one after it. Notes and the places of
 * pictures keep their real time. A reel that holds cues or sounds is refused: all of it would move.
 */
export function conformRate(doc: ReelDocument, args: { rate: Reel['rate'] }): Result<Change> {
  const from = reelOf(doc)
  if (doc.cue.size + doc.clip.size > 0) return refuse('CORE_REEL_IN_USE', from.name)
  const before = FRAME_RATES[from.rate]
  const after = FRAME_RATES[args.rate]
  const timecode = formatTimecode(from.firstFrame, before)
  const parsed = parseTimecode(timecode, after)
  const scaled = (count: number): Frames => framesAtRate(count, before, after)
  const moved = <T extends Note | Cut>(records: readonly T[], key: keyof T): [T, T][] =>
    records
      .map((record): [T, T] => [record, { ...record, [key]: scaled(record[key] as number) }])
      .filter(([before, now]) => before[key] !== now[key])
  const to: Reel = {
    ...from,
    rate: args.rate,
    firstFrame: parsed.ok ? parsed.frame : scaled(from.firstFrame),
    programme: scaled(from.programme),
    length: frames(Math.max(1, scaled(from.length))),
  }
  return ok({
    label: `Make the reel ${after.label}`,
    added: [],
    updated:
      from.rate === to.rate
        ? []
        : [[from, to], ...moved([...doc.note.values()], 'frame'), ...moved([...doc.cut.values()], 'offset')],
    removed: [],
  })
}

/** Tracks that a fresh reel may begin with: a name for each function, grouped by category. */
export const TRACK_TEMPLATE: readonly (readonly [Category, string])[] = [
  ['FX', 'Hard effects A'],
  ['FX', 'Hard effects B'],
  ['FX', 'Doors & props'],
  ['FX', 'Vehicles'],
  ['FOL', 'Steps'],
  ['FOL', 'Cloth'],
  ['FOL', 'Hands & props'],
  ['BG', 'Air A'],
  ['BG', 'Air B'],
  ['BG', 'Rooms'],
  ['DX', 'Scratch lines'],
  ['MX', 'Guide music'],
  ['DSG', 'Design'],
]

/** Adds tracks of a template that the reel does not have yet (by category and name). */
export function addTracks(
  doc: ReelDocument,
  args: { tracks: readonly (readonly [Category, string])[]; ids: readonly string[] },
): Result<Change> {
  const added: Track[] = []
  let now = doc
  for (const [index, [category, name]] of args.tracks.entries()) {
    if ([...doc.track.values()].some((track) => track.category === category && track.name === name)) continue
    const made = addTrack(now, { id: args.ids[index] ?? `${category}-${index}`, category, name })
    if (!made.ok) continue
    const track = made.value.added[0] as Track
    added.push(track)
    now = { ...now, track: new Map(now.track).set(track.id, track) }
  }
  return ok({
    label: added.length === 1 ? `Add track ${added[0]?.name}` : `Add ${added.length} tracks`,
    added,
    updated: [],
    removed: [],
  })
}

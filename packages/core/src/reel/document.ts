import { expectOk, refuse } from '../errors.js'
import { FRAME_RATES, type FrameRate } from '../time/rates.js'
import type { Insert } from './inserts.js'
import {
  RECORD_KINDS,
  type Acceptance,
  type Candidate,
  type Clip,
  type Cue,
  type Cut,
  type Note,
  type Reel,
  type ReelRecord,
  type RecordKind,
  type RidePoint,
  type Stack,
  type Track,
} from './records.js'

/** A reel as flat tables of records by id; never mutated, only replaced by {@link apply}. Maps, because one of thousands is copied at every edit. */
export interface ReelDocument {
  readonly reel: ReadonlyMap<string, Reel>
  readonly cut: ReadonlyMap<string, Cut>
  readonly cue: ReadonlyMap<string, Cue>
  readonly track: ReadonlyMap<string, Track>
  readonly clip: ReadonlyMap<string, Clip>
  readonly note: ReadonlyMap<string, Note>
  readonly ride: ReadonlyMap<string, RidePoint>
  readonly insert: ReadonlyMap<string, Insert>
  readonly candidate: ReadonlyMap<string, Candidate>
  readonly acceptance: ReadonlyMap<string, Acceptance>
  readonly stack: ReadonlyMap<string, Stack>
}

const newTables = (): Record<RecordKind, Map<string, ReelRecord>> => ({
  reel: new Map(),
  cut: new Map(),
  cue: new Map(),
  track: new Map(),
  clip: new Map(),
  note: new Map(),
  ride: new Map(),
  insert: new Map(),
  candidate: new Map(),
  acceptance: new Map(),
  stack: new Map(),
})

/** A document without records. */
export const EMPTY_DOCUMENT: ReelDocument = documentOf([])

/** Builds a document from records in any order. It is frozen, so that whoever guards state against changes need not look into it. */
export function documentOf(records: Iterable<ReelRecord>): ReelDocument {
  const tables = newTables()
  for (const record of records) tables[record.kind].set(record.id, record)
  return Object.freeze(tables) as unknown as ReelDocument
}

/** A document with one record as it is given, unchecked: for showing what an act would make. */
export function withRecord(doc: ReelDocument, record: ReelRecord): ReelDocument {
  return { ...doc, [record.kind]: new Map<string, ReelRecord>(doc[record.kind]).set(record.id, record) }
}

/** All records of a document, kind by kind, the reel first. */
export function recordsOf(doc: ReelDocument): ReelRecord[] {
  return RECORD_KINDS.flatMap((kind): ReelRecord[] => [...doc[kind].values()])
}

/** The version of the picture that is current, or null. */
export function currentCut(doc: ReelDocument): Cut | null {
  const { pictureId } = reelOf(doc)
  return [...doc.cut.values()].find((cut) => cut.pictureId === pictureId) ?? null
}

/** The facts of the document's reel. @throws CoreError `CORE_RECORD_MISSING` if it has none. */
export function reelOf(doc: Pick<ReelDocument, 'reel'>): Reel {
  const reel = doc.reel.values().next().value
  return expectOk(
    reel ? { ok: true, value: reel } : refuse('CORE_RECORD_MISSING', 'reelOf', 'the reel itself'),
  )
}

/** The frame rate of the document's reel. */
export function rateOf(doc: Pick<ReelDocument, 'reel'>): FrameRate {
  return FRAME_RATES[reelOf(doc).rate]
}

/** Tracks from left to right: by fractional key, equal keys by id. */
export function tracksInOrder(doc: Pick<ReelDocument, 'track'>): Track[] {
  return [...doc.track.values()].sort((a, b) =>
    a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1,
  )
}

/** Tracks as they are printed: in their frozen columns, then those that have none in their order. */
export function tracksAsPrinted(doc: Pick<ReelDocument, 'track'>): Track[] {
  const tracks = tracksInOrder(doc)
  return [
    ...tracks.filter((track) => track.column > 0).sort((a, b) => a.column - b.column),
    ...tracks.filter((track) => track.column === 0),
  ]
}

/** Cues by in-frame, then by number. */
export function cuesInOrder(doc: Pick<ReelDocument, 'cue'>): Cue[] {
  return [...doc.cue.values()].sort((a, b) => a.in - b.in || a.number - b.number || (a.id < b.id ? -1 : 1))
}

/** Clips of one track by start. */
export function clipsOnTrack(doc: Pick<ReelDocument, 'clip'>, trackId: string): Clip[] {
  return [...(clipsByTrack(doc).get(trackId) ?? [])]
}

type Clips = ReelDocument['clip']
type ByTrack = ReadonlyMap<string, readonly Clip[]>
const byTrack = new WeakMap<Clips, ByTrack>()
const byStart = (a: Clip, b: Clip): number => a.start - b.start

/** The clips of each track by start; gathered once for a table of clips, and carried on from table to table by {@link carryTracks}. */
export function clipsByTrack(doc: Pick<ReelDocument, 'clip'>): ByTrack {
  const known = byTrack.get(doc.clip)
  if (known) return known
  const found = new Map<string, Clip[]>()
  for (const clip of doc.clip.values()) {
    const list = found.get(clip.trackId)
    if (list) list.push(clip)
    else found.set(clip.trackId, [clip])
  }
  for (const list of found.values()) list.sort(byStart)
  byTrack.set(doc.clip, found)
  return found
}

/** Derives the clips of each track of a changed table from those of the table before: only the touched tracks are gathered anew. */
export function carryTracks(
  before: Clips,
  after: Clips,
  gone: readonly Clip[],
  fresh: readonly Clip[],
): void {
  const known = byTrack.get(before)
  if (!known) return
  const next = new Map(known)
  const ids = new Set(gone.map((clip) => clip.id))
  for (const trackId of new Set([...gone, ...fresh].map((clip) => clip.trackId))) {
    const stayed = (known.get(trackId) ?? []).filter((clip) => !ids.has(clip.id))
    next.set(trackId, [...stayed, ...fresh.filter((clip) => clip.trackId === trackId)].sort(byStart))
  }
  byTrack.set(after, next)
}

const byCue = new WeakMap<ReelDocument['clip'], ReadonlyMap<string, readonly Clip[]>>()

/** The clips of each cue, by the cue's id; gathered once for a table of clips, however many cues ask. */
export function clipsByCue(doc: Pick<ReelDocument, 'clip'>): ReadonlyMap<string, readonly Clip[]> {
  const known = byCue.get(doc.clip)
  if (known) return known
  const found = new Map<string, Clip[]>()
  for (const clip of doc.clip.values()) {
    if (clip.cueId === null) continue
    const list = found.get(clip.cueId)
    if (list) list.push(clip)
    else found.set(clip.cueId, [clip])
  }
  byCue.set(doc.clip, found)
  return found
}

type Points = ReelDocument['ride']
const byRide = new WeakMap<Points, ReadonlyMap<string, readonly RidePoint[]>>()
const NO_POINTS: readonly RidePoint[] = []

/** A track's points of one ride in the order of time, at one moment by id; gathered once for a table of points. */
export function rideOf(
  doc: Pick<ReelDocument, 'ride'>,
  trackId: string,
  what: RidePoint['what'],
): readonly RidePoint[] {
  const known = byRide.get(doc.ride) ?? gatherRides(doc.ride)
  byRide.set(doc.ride, known)
  return known.get(`${what} ${trackId}`) ?? NO_POINTS
}

function gatherRides(points: Points): ReadonlyMap<string, readonly RidePoint[]> {
  const found = new Map<string, RidePoint[]>()
  for (const point of points.values()) {
    const key = `${point.what} ${point.trackId}`
    const list = found.get(key)
    if (list) list.push(point)
    else found.set(key, [point])
  }
  for (const list of found.values()) list.sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1))
  return found
}

/** The shortlist of a cue, first choice first. */
export function shortlistOf(doc: Pick<ReelDocument, 'candidate'>, cueId: string): Candidate[] {
  return [...doc.candidate.values()]
    .filter((candidate) => candidate.cueId === cueId)
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
}

interface Treatment {
  readonly all: readonly Insert[]
  readonly sounding: readonly Insert[]
}
const byPlace = new WeakMap<ReelDocument['insert'], ReadonlyMap<string, Treatment>>()
const UNTREATED: Treatment = { all: [], sounding: [] }

function treatmentOf(doc: Pick<ReelDocument, 'insert'>, place: string): Treatment {
  let known = byPlace.get(doc.insert)
  if (!known) {
    const places = new Set([...doc.insert.values()].map((insert) => insert.on))
    known = new Map(
      [...places].map((on) => {
        const all = [...doc.insert.values()]
          .filter((insert) => insert.on === on)
          .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
        return [on, { all, sounding: all.filter((insert) => !insert.bypass) }]
      }),
    )
    byPlace.set(doc.insert, known)
  }
  return known.get(place) ?? UNTREATED
}

/** The treatment of a place in its order; gathered once for a table of inserts. */
export const insertsOn = (doc: Pick<ReelDocument, 'insert'>, place: string): readonly Insert[] =>
  treatmentOf(doc, place).all
/** The treatment of a place that is not passed by. */
export const soundingInserts = (doc: Pick<ReelDocument, 'insert'>, place: string): readonly Insert[] =>
  treatmentOf(doc, place).sounding

const byGroup = new WeakMap<ReelDocument['clip'], ReadonlyMap<string, readonly Clip[]>>()

/** The clips of each group, and so of each stack, in the order of their starts; gathered once for a table of clips. */
export function clipsByGroup(doc: Pick<ReelDocument, 'clip'>): ReadonlyMap<string, readonly Clip[]> {
  const known = byGroup.get(doc.clip)
  if (known) return known
  const found = new Map<string, Clip[]>()
  for (const clip of doc.clip.values()) {
    if (clip.group === '') continue
    const list = found.get(clip.group)
    if (list) list.push(clip)
    else found.set(clip.group, [clip])
  }
  for (const list of found.values()) list.sort((a, b) => byStart(a, b) || (a.id < b.id ? -1 : 1))
  byGroup.set(doc.clip, found)
  return found
}

/** The place of a clip's sync point, in samples from the reel's first frame; may lie outside of what is heard. */
export const syncPlace = (clip: Pick<Clip, 'start' | 'sync' | 'offset'>): number =>
  clip.start + clip.sync - clip.offset

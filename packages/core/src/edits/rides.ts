import { z } from 'zod'
import { ok, refuse, type Result } from '../errors.js'
import { sameRecord, type Change } from '../reel/change.js'
import { rideOf, type ReelDocument } from '../reel/document.js'
import { RIDE_BENDS, type RideBend, type RidePoint, type Track } from '../reel/records.js'
import { samples } from '../time/units.js'

/** A track's level or its place between left and right. */
export type Ridden = RidePoint['what']
/** A moment of a ride: samples from the reel's first frame, decibels or -1 to 1, and how it goes on (straight when not given). */
export type RideMoment = readonly [at: number, value: number, bend?: RideBend]

const RANGES: Readonly<Record<Ridden, readonly [number, number]>> = { level: [-96, 24], pan: [-1, 1] }
/** How far a thinned stroke may stray from what was drawn. */
export const RIDE_TOLERANCE: Readonly<Record<Ridden, number>> = { level: 0.5, pan: 0.03 }

const held = (what: Ridden, value: number): number =>
  Math.max(RANGES[what][0], Math.min(RANGES[what][1], value))

/**
 * Leaves out the moments of a stroke that lie on the way between their neighbours (Ramer, Douglas and Peucker, measured in the value alone).
 *
 * @param tolerance - How far, in the unit of the value, the path between what is kept may stray from what is left out.
 */
export function thinStroke(moments: readonly RideMoment[], tolerance: number): RideMoment[] {
  const kept = new Set([0, moments.length - 1])
  const spans: [number, number][] = [[0, moments.length - 1]]
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span
    const [a, b] = [moments[from], moments[to]]
    if (!a || !b) continue
    let worst = from
    let most = tolerance
    for (let i = from + 1; i < to; i++) {
      const [at, value] = moments[i] as RideMoment
      const stray = Math.abs(value - (a[1] + ((b[1] - a[1]) * (at - a[0])) / Math.max(1, b[0] - a[0])))
      if (stray <= most) continue
      most = stray
      worst = i
    }
    if (worst === from) continue
    kept.add(worst)
    spans.push([from, worst], [worst, to])
  }
  return moments.filter((_, index) => kept.has(index))
}

/**
 * Writes a ride over a stretch of time: what stood there is replaced by the stroke, thinned; what stood before and after stays.
 *
 * @param args.moments - The stroke, in any order; values are held within their range.
 * @param args.newId - Makes an id for each point.
 * @param args.tolerance - See {@link thinStroke}; null keeps every moment.
 */
export function drawRide(
  doc: ReelDocument,
  args: {
    trackId: string
    what: Ridden
    moments: readonly RideMoment[]
    newId: () => string
    tolerance?: number | null
    label?: string
  },
): Result<Change> {
  const { trackId, what } = args
  const track = doc.track.get(trackId)
  if (!track) return refuse('CORE_NO_TRACK', 'ride', trackId)
  // One value a moment: where the hand went back, what was drawn last counts.
  const byTime = new Map(
    args.moments.map(([at, value, bend]): [number, RideMoment] => [
      Math.max(0, Math.round(at)),
      [Math.max(0, Math.round(at)), held(what, value), bend],
    ]),
  )
  const moments = [...byTime.values()].sort((a, b) => a[0] - b[0])
  const first = moments[0]
  const last = moments.at(-1)
  if (!first || !last) return refuse('CORE_NOTHING_DONE', `ride of ${track.name}`, 'nothing was drawn')
  const kept = args.tolerance === null ? moments : thinStroke(moments, args.tolerance ?? RIDE_TOLERANCE[what])
  return ok({
    label: args.label ?? `Ride the ${what} of ${track.name}`,
    added: kept.map(([at, value, bend = 'straight']): RidePoint => ({
      kind: 'ride',
      id: args.newId(),
      trackId,
      what,
      at: samples(at),
      value,
      bend,
    })),
    updated: [],
    removed: rideOf(doc, trackId, what).filter((point) => point.at >= first[0] && point.at <= last[0]),
  })
}

/** Moves a point of a ride in time and value, or bends the way to the next; it does not pass its neighbours. */
export function editRidePoint(
  doc: ReelDocument,
  args: { id: string; at?: number; value?: number; bend?: RideBend },
): Result<Change> {
  const from = doc.ride.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'editRidePoint', args.id)
  const ride = rideOf(doc, from.trackId, from.what)
  const index = ride.findIndex((point) => point.id === from.id)
  const least = (ride[index - 1]?.at ?? -1) + 1
  const most = (ride[index + 1]?.at ?? 2 ** 46) - 1
  const at = samples(Math.max(least, Math.min(most, Math.round(args.at ?? from.at))))
  const to: RidePoint = {
    ...from,
    at,
    value: held(from.what, args.value ?? from.value),
    bend: args.bend ?? from.bend,
  }
  return ok({
    label: `Ride the ${from.what} of ${nameOf(doc, from.trackId)}`,
    added: [],
    updated: sameRecord(from, to) ? [] : [[from, to]],
    removed: [],
  })
}

/** Raises or lowers a whole ride (dB, or -1 to 1 of the way between the sides); its form stays as far as its range allows. */
export function liftRide(
  doc: ReelDocument,
  args: { trackId: string; what: Ridden; by: number },
): Result<Change> {
  const { trackId, what, by } = args
  const updated = rideOf(doc, trackId, what).flatMap((from): [RidePoint, RidePoint][] => {
    const value = held(what, from.value + by)
    return value === from.value ? [] : [[from, { ...from, value }]]
  })
  return ok({ label: `Move the ${what} ride of ${nameOf(doc, trackId)}`, added: [], updated, removed: [] })
}

/** Takes a whole ride away. */
export function clearRide(doc: ReelDocument, args: { trackId: string; what: Ridden }): Result<Change> {
  return ok({
    label: `Take away the ${args.what} ride of ${nameOf(doc, args.trackId)}`,
    added: [],
    updated: [],
    removed: rideOf(doc, args.trackId, args.what),
  })
}

/** A ride that was copied: its moments count from its first. */
export const copiedRideSchema = z.object({
  what: z.enum(['level', 'pan']),
  moments: z.array(z.tuple([z.number(), z.number(), z.enum(RIDE_BENDS)])),
})
/** See {@link copiedRideSchema}. */
export type CopiedRide = z.infer<typeof copiedRideSchema>

/** Copies a ride, for another track, another place or another reel; null when the track has none. */
export function copyRide(doc: ReelDocument, trackId: string, what: Ridden): CopiedRide | null {
  const points = rideOf(doc, trackId, what)
  const [first] = points
  return first ? { what, moments: points.map(({ at, value, bend }) => [at - first.at, value, bend]) } : null
}

/** Lays a copied ride on a track, its first point on a moment; what stood in its stretch is replaced. @param args.at - Samples from the reel's first frame. */
export function layRide(
  doc: ReelDocument,
  args: { trackId: string; copied: CopiedRide; at: number; newId: () => string },
): Result<Change> {
  const { trackId, copied, at, newId } = args
  const moments = copied.moments.map(([after, value, bend]): RideMoment => [at + after, value, bend])
  return drawRide(doc, {
    trackId,
    what: copied.what,
    moments,
    newId,
    tolerance: null,
    label: `Lay a ${copied.what} ride on ${nameOf(doc, trackId)}`,
  })
}

/** A document in which a track stands at one value instead of its ride: how it sounds while a hand rides it. */
export function withHeldRide(
  doc: ReelDocument,
  args: { trackId: string; what: Ridden; value: number },
): ReelDocument {
  const { trackId, what, value } = args
  const track = doc.track.get(trackId)
  if (!track) return doc
  const still: Track =
    what === 'level'
      ? { ...track, level: Math.max(-96, Math.min(24, track.level + value)) }
      : { ...track, pan: held('pan', value) }
  const ride = new Map([...doc.ride].filter(([, point]) => point.trackId !== trackId || point.what !== what))
  return { ...doc, ride, track: new Map(doc.track).set(trackId, still) }
}

const nameOf = (doc: ReelDocument, trackId: string): string => doc.track.get(trackId)?.name ?? ''

/**
 * Lets a track’s place follow a source in the picture, from where it was seen at a few moments.
 *
 * @param args.seen - Samples from the reel's first frame, and how far from the left edge of the picture: 0 to 1.
 * @param args.width - How much of the way to the sides the edges of the picture stand for, 0 to 1.
 */
export function followSource(
  doc: ReelDocument,
  args: { trackId: string; seen: readonly RideMoment[]; width?: number; newId: () => string },
): Result<Change> {
  if (args.seen.length < 2)
    return refuse('CORE_NOTHING_DONE', 'follow', 'say at two moments at least where the source is')
  const width = args.width ?? 1
  const moments = args.seen.map(([at, x]): RideMoment => [at, (2 * x - 1) * width])
  return drawRide(doc, {
    ...args,
    what: 'pan',
    moments,
    tolerance: null,
    label: `Follow the picture on ${nameOf(doc, args.trackId)}`,
  })
}

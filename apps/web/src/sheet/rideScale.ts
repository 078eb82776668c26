import { rideValue, samplesPerFrame, type FrameRate, type RideMoment, type RidePoint } from '@yodel/core'
import { EDGES } from '../session/rideEdges.js'
import { topOf, type Stretch } from './geometry.js'

/** Pixels that a ride stays away from the edges of its track. */
const INSET = 4

/** Where a ride's values and moments stand in a track's column, and back. */
export interface RideScale {
  /** Pixels below the stretch's anchor at which the column begins, and how tall it is. */
  readonly top: number
  readonly height: number
  readonly x: (value: number) => number
  readonly y: (at: number) => number
  /** The moment under a point, in pixels from the left and the top of the column: never before the reel's start. */
  readonly momentAt: (x: number, y: number) => RideMoment
  /** The way through the moments as an SVG path, drawn in steps where it is bent. */
  readonly path: (line: readonly RideMoment[]) => string
}

/** Makes the scale of a ride of `what` in a column `width` pixels wide. Levels outside of what can be shown stand at the edge. */
export function rideScale(
  what: keyof typeof EDGES,
  stretch: Stretch,
  width: number,
  rate: FrameRate,
): RideScale {
  const [low, high] = EDGES[what]
  const perFrame = samplesPerFrame(rate)
  const room = width - 2 * INSET
  const top = topOf(stretch, stretch.from)
  const x = (value: number): number =>
    ((Math.max(low, Math.min(high, value)) - low) / (high - low)) * room + INSET
  const y = (at: number): number => topOf(stretch, at / perFrame) - top
  return {
    top,
    height: topOf(stretch, stretch.to) - top,
    x,
    y,
    momentAt: (left, down) => {
      const value = low + ((left - INSET) / room) * (high - low)
      const frame = stretch.from + down / stretch.zoom
      return [Math.max(0, Math.round(frame * perFrame)), Math.round(value * 100) / 100]
    },
    path: (line) =>
      `M${line
        .flatMap((moment, index) => [...onTheWay(line, index), moment])
        .map(([at, value]) => `${x(value).toFixed(1)} ${y(at).toFixed(1)}`)
        .join('L')}`,
  }
}

/** The whole line of a ride: its points, and how it goes on before the first and after the last, up to `end`. */
export function rideLine(points: readonly RidePoint[], rest: number, end: number): readonly RideMoment[] {
  const last = points.at(-1)
  return [
    [0, points[0]?.value ?? rest],
    ...points.map((point): RideMoment => [point.at, point.value, point.bend]),
    [Math.max(end, last?.at ?? 0), last?.value ?? rest],
  ]
}

/** Steps in which the way between two points is drawn where it is bent. */
const BENT_STEPS = 12

/** What lies between the point before and this one, where the way is bent. */
function onTheWay(line: readonly RideMoment[], index: number): RideMoment[] {
  const [before, next] = [line[index - 1], line[index]]
  const bend = before?.[2] ?? 'straight'
  if (!before || !next || bend === 'straight') return []
  if (bend === 'hold') return [[next[0], before[1]]]
  const ride = { at: [before[0], next[0]], values: [before[1], next[1]], bends: [bend, bend] }
  return Array.from({ length: BENT_STEPS - 1 }, (_, step): RideMoment => {
    const at = before[0] + ((next[0] - before[0]) * (step + 1)) / BENT_STEPS
    return [at, rideValue(ride, at)]
  })
}

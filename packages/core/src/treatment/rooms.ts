import { SAMPLE_RATE, SAMPLES_PER_MS } from '../time/units.js'
import { ROOMS, type Room } from '../reel/inserts.js'
import { runSection, sectionOf } from './biquad.js'
import { eyringDecay, sabineAbsorption } from './decay.js'
import { CONVOLVER_LATENCY, foldResponse, type FoldedResponse } from './convolver.js'

/** What a room is made by. */
export interface RoomSpec {
  readonly name: string
  /** Width, depth and height in metres. */
  readonly size: readonly [number, number, number]
  /** Seconds in which sound falls by 60 dB, for octaves around {@link ROOM_BANDS}. */
  readonly decay: readonly number[]
  /** Power of the first reflections, of 1. */
  readonly early: number
}

/** Decays of a box by Eyring, from what its walls swallow in each octave. */
const decaysOf = (size: RoomSpec['size'], swallowed: readonly number[]): number[] =>
  swallowed.map((part) => eyringDecay(size, part))

/** Middles of the octaves for which a room has its own decay, Hz. */
export const ROOM_BANDS = [125, 250, 500, 1000, 2000, 4000, 8000] as const

/** The rooms that ship with Yodel. They are invented; sizes and decays are such as textbooks of room acoustics give for their kinds (from memory). */
export const ROOM_SPECS: Readonly<Record<Room, RoomSpec>> = {
  cabin: {
    name: 'Cabin of a car',
    size: [1.5, 2.4, 1.2],
    decay: [0.14, 0.1, 0.08, 0.07, 0.06, 0.05, 0.05],
    early: 0.7,
  },
  tiles: { name: 'Tiled washroom', size: [3, 4, 2.6], decay: [0.9, 1, 1.1, 1.2, 1.1, 0.9, 0.6], early: 0.3 },
  parlour: {
    name: 'Furnished room',
    size: [4, 5, 2.7],
    decay: [0.6, 0.5, 0.45, 0.4, 0.38, 0.35, 0.3],
    early: 0.5,
  },
  corridor: { name: 'Corridor', size: [1.8, 22, 2.6], decay: [1.3, 1.2, 1.2, 1.1, 1, 0.8, 0.6], early: 0.45 },
  stairs: { name: 'Stairwell', size: [3, 5, 14], decay: [2.2, 2.3, 2.2, 2, 1.8, 1.4, 0.9], early: 0.35 },
  hall: { name: 'Station hall', size: [18, 40, 12], decay: [2.8, 2.6, 2.4, 2.2, 1.9, 1.4, 0.9], early: 0.3 },
  nave: { name: 'Stone nave', size: [14, 50, 20], decay: [4, 4, 3.8, 3.4, 2.8, 2, 1.1], early: 0.2 },
  helmet: {
    name: 'Inside of a helmet',
    size: [0.28, 0.34, 0.32],
    decay: decaysOf([0.28, 0.34, 0.32], [0.22, 0.22, 0.23, 0.24, 0.26, 0.28, 0.3]),
    early: 0.75,
  },
  tank: {
    name: 'Water tank',
    size: [6, 11, 3],
    decay: decaysOf([6, 11, 3], [0.08, 0.08, 0.08, 0.085, 0.09, 0.098, 0.11]),
    early: 0.35,
  },
  valley: { name: 'Valley', size: [120, 260, 90], decay: [0.9, 1, 1, 0.9, 0.7, 0.45, 0.25], early: 0.8 },
}

const RATE = SAMPLE_RATE
const SOUND_SPEED = 343
const ORDER = 3
const EARS = 0.5
/** ln(1000): sixty decibels. */
const SIXTY = Math.log(1000)

/**
 * The impulse response of a room at 48 kHz, left and right, without the direct sound: reflections of a box up to the third order
 * (image sources, J. B. Allen and D. A. Berkley, JASA 1979; from memory), then noise that dies away in each octave as the room does.
 * It begins {@link CONVOLVER_LATENCY} samples after the direct sound; the power of each side is a half.
 */
export function roomResponse(room: Room): readonly [Float32Array, Float32Array] {
  const spec = ROOM_SPECS[room]
  const length = Math.ceil(Math.max(...spec.decay) * RATE)
  return ([0, 1] as const).map((side) => {
    const early = reflections(spec, side, length)
    const late = reverberation(spec, 1 + 2 * ROOMS.indexOf(room) + side, length)
    const [e, l] = [
      Math.sqrt((0.5 * spec.early) / powerOf(early)),
      Math.sqrt((0.5 * (1 - spec.early)) / powerOf(late)),
    ]
    return early.map((value, i) => value * e + (late[i] as number) * l)
  }) as [Float32Array, Float32Array]
}

const powerOf = (x: Float32Array): number => x.reduce((sum, value) => sum + value * value, 1e-12)

/** A sound on its way over walls: seconds after the direct one, and how loud against it. */
export interface Reflection {
  readonly late: number
  readonly gain: number
}

/** The reflections of a room up to the third order, as the left or the right ear hears them. @param side - 0 is left, 1 right */
export function reflectionsOf({ size, decay }: RoomSpec, side: 0 | 1): Reflection[] {
  const out: Reflection[] = []
  const [w, d, h] = size
  // What a wall swallows of the power of a sound in the middle of its range.
  const swallowed = Math.min(0.95, sabineAbsorption(size, decay[3] as number))
  const mirror = Math.sqrt(1 - swallowed)
  const source = [0.31 * w, 0.4 * d, 0.42 * h] as const
  const ear = [0.62 * w + (side === 0 ? -EARS : EARS) * Math.min(0.5, w / 8), 0.66 * d, 0.47 * h] as const
  const direct = Math.hypot(...source.map((at, axis) => at - (ear[axis] as number)))
  for (let x = -ORDER; x <= ORDER; x++)
    for (let y = -ORDER; y <= ORDER; y++)
      for (let z = -ORDER; z <= ORDER; z++) {
        const order = Math.abs(x) + Math.abs(y) + Math.abs(z)
        if (order === 0 || order > ORDER) continue
        const image = [x, y, z].map((times, axis) =>
          imageOf(source[axis] as number, size[axis] as number, times),
        )
        const way = Math.hypot(...image.map((at, axis) => at - (ear[axis] as number)))
        out.push({ late: (way - direct) / SOUND_SPEED, gain: (mirror ** order * direct) / way })
      }
  return out
}

function reflections(spec: RoomSpec, side: 0 | 1, length: number): Float32Array {
  const out = new Float32Array(length)
  for (const { late, gain } of reflectionsOf(spec, side)) {
    const at = Math.max(0, Math.round(late * RATE) - CONVOLVER_LATENCY)
    if (at < length) out[at] = (out[at] as number) + gain
  }
  return out
}

const imageOf = (at: number, size: number, times: number): number =>
  times % 2 === 0 ? times * size + at : (times + 1) * size - at

function reverberation({ size, decay }: RoomSpec, seed: number, length: number): Float32Array {
  const random = randomOf(seed)
  const out = new Float32Array(length)
  // Reflections stand so close after about the root of the volume in milliseconds that none can be told from the next.
  const mixed = Math.min(length / 3, Math.sqrt(size[0] * size[1] * size[2]) * SAMPLES_PER_MS)
  ROOM_BANDS.forEach((middle, band) => {
    const noise = Float32Array.from({ length }, () => random() + random() - 1)
    for (const section of [
      sectionOf('highPass', middle * Math.SQRT1_2),
      sectionOf('lowPass', middle * Math.SQRT2),
    ])
      runSection(section, noise, length, new Float64Array(2), 0)
    const fall = SIXTY / ((decay[band] as number) * RATE)
    // An octave further up has twice the width: noise would have twice the power.
    const level = Math.SQRT1_2 ** band
    for (let i = 0; i < length; i++)
      out[i] =
        (out[i] as number) + (noise[i] as number) * level * Math.exp(-fall * i) * Math.min(1, i / mixed)
  })
  return out
}

/** Numbers from 0 to 1, always the same ones for a seed (mulberry32; from memory). */
function randomOf(seed: number): () => number {
  let state = seed * 0x9e37_79b9
  return () => {
    state = (state + 0x6d2b_79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
}

/** A room ready to be folded in, left and right. */
export type FoldedRoom = readonly [FoldedResponse, FoldedResponse]

const folded = new Map<Room, FoldedRoom>()

/** A room ready to be folded in; made at the first call, which takes some tenths of a second. */
export function foldedRoom(room: Room): FoldedRoom {
  const known = folded.get(room)
  if (known) return known
  const [left, right] = roomResponse(room)
  const made: FoldedRoom = [foldResponse(left), foldResponse(right)]
  folded.set(room, made)
  return made
}

/** Where a reverb gets its rooms from; null where one is not there yet. */
export type RoomPort = (room: Room) => FoldedRoom | null

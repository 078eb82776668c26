import type { Clip } from '../reel/records.js'
import { SAMPLE_RATE } from '../time/units.js'

/** Metres a second that sound travels at 20 °C (ISO 9613-1). */
export const SPEED_OF_SOUND = 343.2
/** Decibels that 8 kHz loses in a metre of air of 20 °C and 50 % humidity (ISO 9613-1, table 1: 105 dB a kilometre). */
export const AIR_AT_8K = 0.105

/** How the speed of a sound changes while it is heard, and how it goes past. Lengths in samples of the clip. */
export interface Warp {
  readonly length: number
  /** Where in the clip its sync point lies; may lie outside. There the recording is always where it would be without this. */
  readonly sync: number
  /** Over so much from its beginning its speed rises from rest, over so much to its end it falls to rest. */
  readonly up: number
  readonly down: number
  /** Metres a second with which it goes past, from left to right; negative from right to left; 0 stays. */
  readonly speed: number
  /** Metres at which it passes. */
  readonly distance: number
}

type Times = Readonly<Record<'length' | 'sync' | 'offset' | 'runUp' | 'runDown', number>>

/** The warp of a clip; null for one that is played evenly and stays where it is. */
export function warpOf(clip: Times & Pick<Clip, 'passSpeed' | 'passDistance'>): Warp | null {
  const { length, sync, offset, runUp: up, runDown: down, passSpeed: speed, passDistance: distance } = clip
  return up === 0 && down === 0 && speed === 0
    ? null
    : { length, sync: sync - offset, up, down, speed, distance }
}

/** Samples of the recording that have passed since the beginning of the clip: the integral of its speed. Outside of the clip it runs evenly. */
function ran({ length, up, down }: Warp, x: number): number {
  if (x <= 0) return x
  const even = length - up - down
  if (x < up) return (x * x) / (2 * up)
  if (x <= up + even) return up / 2 + (x - up)
  const left = length - x
  const whole = up / 2 + even + down / 2
  return left <= 0 ? whole - left : whole - (left * left) / (2 * down)
}

/** Where a source that goes past is when what arrives now left it. */
export interface Passing {
  /** Seconds after the moment of passing at which it left. */
  readonly left: number
  /** Metres between source and listener then. */
  readonly away: number
  /** Metres to the right of the listener. */
  readonly aside: number
}

/**
 * A source that goes past on a straight line. What leaves it as it passes arrives at 0: the way from there is taken off.
 *
 * The sound that arrives at T = t + d/c left at τ, where c (T - τ) = √(d² + v²τ²); of the two solutions the earlier one.
 *
 * @param t - Seconds after what left it in passing arrives
 */
export function passingAt(speed: number, distance: number, t: number): Passing {
  const c = SPEED_OF_SOUND
  const arrives = t + distance / c
  const beyond = c * c - speed * speed
  const root = Math.sqrt(
    c ** 4 * arrives * arrives - beyond * (c * c * arrives * arrives - distance * distance),
  )
  const left = (c * c * arrives - root) / beyond
  const aside = speed * left
  return { left, away: Math.hypot(distance, aside), aside }
}

/** The place of the recording that sounds at a place of the clip, both in samples from the clip's beginning. It never runs backwards. */
export function warped(warp: Warp, x: number): number {
  const { sync, speed, distance } = warp
  const source =
    speed === 0 ? x : sync + passingAt(speed, distance, (x - sync) / SAMPLE_RATE).left * SAMPLE_RATE
  return warp.up === 0 && warp.down === 0 ? source : sync + ran(warp, source) - ran(warp, sync)
}

/** How much faster than evenly the recording may run: as what comes near does. */
export const fastest = ({ speed }: Warp): number => SPEED_OF_SOUND / (SPEED_OF_SOUND - Math.abs(speed))

/** The factor of a one-pole low-pass, y += a (x - y), that takes as much from 8 kHz as so many metres of air; 1 takes nothing. */
export function airFactor(metres: number): number {
  const h = 10 ** (-(AIR_AT_8K * metres) / 10)
  if (h > 0.9999) return 1
  // |H|² = a² / (1 - 2 b cos ω + b²) with b = 1 - a; at 8 kHz of 48 kHz cos ω is 1/2.
  return 1 - (2 - h - Math.sqrt((2 - h) ** 2 - 4 * (1 - h) ** 2)) / (2 * (1 - h))
}

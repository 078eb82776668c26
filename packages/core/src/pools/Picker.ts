import type { Pool, PoolMember, PoolPick } from '../contract/pools.js'

/** Something that gives numbers from 0 up to 1, as `Math.random` does. */
export type Random = () => number

/** What a hit plays: which member, how loud and how fast. */
export interface Picked {
  /** Place of the member in its pool. */
  readonly member: number
  /** Decibels. */
  readonly gain: number
  /** 2 is twice as fast and an octave higher. */
  readonly speed: number
}

/** What of a pool picking goes by. */
type PickedFrom = { readonly [Key in 'members' | 'pick' | 'gain' | 'pitch']: Pool[Key] }

/** Lowest and highest. */
type Limits = readonly [number, number]

/** A number between limits. */
export const between = ([low, high]: Limits, random: Random): number => low + (high - low) * random()

/** Decibels between limits, to a tenth. */
export const gainBetween = (limits: Limits, random: Random): number =>
  Math.round(between(limits, random) * 10) / 10 + 0

/** The speed that has a pitch between limits, in semitones, to a cent: 2 is twice as fast and an octave higher. */
export const speedBetween = (limits: Limits, random: Random): number =>
  Math.max(0.25, Math.min(4, 2 ** (Math.round(between(limits, random) * 100) / 1200)))

/** Picks one of several, the more often the more it weighs. @param among - At least one */
export function weighed<T>(among: readonly T[], weightOf: (one: T) => number, random: Random): T {
  let rest = random() * among.reduce((sum, one) => sum + weightOf(one), 0)
  for (const one of among) {
    rest -= weightOf(one)
    if (rest < 0) return one
  }
  return among.at(-1) as T
}

/** Picks members of a pool by its rule, one hit after the other; changes of the pool in between are followed. */
export class Picker {
  /** Places of members that have not been picked in this round. */
  private left: number[] = []
  private last = -1

  constructor(private readonly random: Random) {}

  /** What the next hit plays; null when nothing in the pool may be picked. */
  next({ members, pick, gain, pitch }: PickedFrom): Picked | null {
    const usable = members.flatMap(({ weight }, index) => (weight > 0 ? [index] : []))
    if (usable.length === 0) return null
    const member = this.choose(pick, usable, members)
    this.last = member
    const speed = speedBetween(pitch, this.random)
    return { member, gain: gainBetween(gain, this.random), speed }
  }

  private choose(pick: PoolPick, usable: readonly number[], members: readonly PoolMember[]): number {
    if (pick === 'order') return usable.find((index) => index > this.last) ?? (usable[0] as number)
    const others = usable.length > 1 ? usable.filter((index) => index !== this.last) : usable
    const weightOf = (index: number): number => members[index]?.weight ?? 0
    if (pick === 'other') return weighed(others, weightOf, this.random)
    this.left = this.left.filter((index) => usable.includes(index))
    if (this.left.length === 0) this.left = [...usable]
    const open = this.left.filter((index) => others.includes(index))
    // All that is left of a round may be what was picked last, when the pool has changed: then the next round begins.
    if (open.length === 0) this.left = [...others]
    const member = weighed(open.length > 0 ? open : others, weightOf, this.random)
    this.left = this.left.filter((index) => index !== member)
    return member
  }
}

/**
 * Decibels for the velocity of a key or pad, 1 to 127, softest to hardest: 40 log10(v / 127), as General MIDI 2 and
 * DLS have it (from memory), not below -36.
 */
export const velocityGain = (velocity: number): number =>
  Math.max(-36, 40 * Math.log10(Math.max(1, Math.min(127, velocity)) / 127))

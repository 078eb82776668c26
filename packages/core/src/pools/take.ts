import type { Pool } from '../contract/pools.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import { Picker, type Picked, type Random } from './Picker.js'

/** One hit of a take: when its attack is to be heard, and what it plays. */
export interface Hit extends Picked {
  readonly poolId: string
  /** Sample of the reel at which its attack lies. */
  readonly at: number
  /** Samples for which its key was held, where that counts; null for the whole sound. */
  readonly length: number | null
}

/** What was performed between two stops, in the order of time. */
export interface Take {
  readonly id: string
  readonly hits: readonly Hit[]
  /** It is heard and would be kept. */
  readonly on: boolean
}

const inOrder = (hits: readonly Hit[]): readonly Hit[] => hits.toSorted((a, b) => a.at - b.at)

/** Leaves out hits that come closer than so many samples after another one of the same pool that stays. */
export function thinHits(hits: readonly Hit[], least: number): readonly Hit[] {
  const last = new Map<string, number>()
  return inOrder(hits).filter(({ poolId, at }) => {
    if (at - (last.get(poolId) ?? -Infinity) < least) return false
    last.set(poolId, at)
    return true
  })
}

/** Moves all hits by so many samples; none before the reel's first. */
export const shiftHits = (hits: readonly Hit[], by: number): readonly Hit[] =>
  hits.map((hit) => ({ ...hit, at: Math.max(0, hit.at + by) }))

/**
 * Pulls each hit onto the nearest of some places that lies within reach. Of two that would fall on one place only the
 * nearer is pulled.
 *
 * @param places - Samples of the reel, in any order
 */
export function pullHits(hits: readonly Hit[], places: readonly number[], reach: number): readonly Hit[] {
  const nearest = new Map<number, { index: number; away: number }>()
  const goals = hits.map(({ at }, index) => {
    const goal = places.reduce<number | null>(
      (best, place) => (best === null || Math.abs(place - at) < Math.abs(best - at) ? place : best),
      null,
    )
    if (goal === null || Math.abs(goal - at) > reach) return null
    const away = Math.abs(goal - at)
    const other = nearest.get(goal)
    if (!other || away < other.away) nearest.set(goal, { index, away })
    return goal
  })
  return inOrder(
    hits.map((hit, index) => {
      const goal = goals[index] ?? null
      return goal !== null && nearest.get(goal)?.index === index ? { ...hit, at: goal } : hit
    }),
  )
}

/** Makes each hit so many decibels louder than the one before; the first stays. */
export const stepHits = (hits: readonly Hit[], db: number): readonly Hit[] =>
  inOrder(hits).map((hit, index) => ({ ...hit, gain: Math.max(-96, Math.min(24, hit.gain + db * index)) }))

/** Gives every hit another member of its pool, by the pool's rule; when stays. Hits of pools that are gone stay as they are. */
export function shakeHits(hits: readonly Hit[], pools: readonly Pool[], random: Random): readonly Hit[] {
  const pickers = new Map(pools.map((pool) => [pool.id, { pool, picker: new Picker(random) }]))
  return inOrder(hits).map((hit) => {
    const known = pickers.get(hit.poolId)
    const picked = known?.picker.next(known.pool)
    return picked ? { ...hit, ...picked } : hit
  })
}

/** Replaces what lies in a stretch, `[from, to)` in samples, by what was performed there anew. */
export const punchHits = (
  hits: readonly Hit[],
  fresh: readonly Hit[],
  { from, to }: { from: number; to: number },
): readonly Hit[] => inOrder([...hits.filter(({ at }) => at < from || at >= to), ...fresh])

/** What is known of a recording that a pool plays. */
export interface PoolSound {
  readonly id: string
  readonly name: string
  /** Samples at 48 kHz. */
  readonly length: number
  readonly sync: number
}

/** Fade out of a sound whose key was let go, in samples (30 ms): no click, and still short. */
export const RELEASE = 1440

/**
 * What a hit lays: its member's part at its speed, cut where its key was let go.
 *
 * @returns Null when its pool, its member or its recording is gone
 */
export function soundOfHit(
  hit: Hit,
  pool: Pool | undefined,
  soundOf: (id: string) => PoolSound | undefined,
): SoundToPlace | null {
  const member = pool?.members[hit.member]
  const sound = member && soundOf(member.soundId)
  if (!pool || !member || !sound) return null
  const { speed, gain } = hit
  const played = (sample: number): number => Math.round(Math.min(sample, sound.length) / speed)
  const recorded = Math.max(1, Math.floor(sound.length / speed))
  const part = member.part ?? { from: 0, sync: sound.sync, to: sound.length }
  const from = Math.min(played(part.from), recorded - 1)
  const whole = Math.max(from + 1, Math.min(recorded, played(part.to)))
  const sync = Math.min(played(part.sync), whole - 1)
  const to = pool.held && hit.length !== null ? Math.min(whole, Math.max(sync + 1, sync + hit.length)) : whole
  const base = { id: sound.id, name: sound.name, recorded, sync, from, to, gain, speed }
  return to < whole ? { ...base, fadeOut: Math.min(RELEASE, to - from) } : base
}

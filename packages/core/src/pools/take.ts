import type { Hit, Pool } from '../contract/pools.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import { Picker, type Picked, type Random } from './Picker.js'

/** The hit that plays what was picked. @param at - Sample of the reel at which its attack lies */
export function hitOf(pool: Pool, picked: Picked, at: number, length: number | null = null): Hit | null {
  const member = pool.members[picked.member]
  if (!member) return null
  const { soundId, name, part } = member
  const { gain, speed } = picked
  return { poolId: pool.id, category: pool.category, soundId, name, part, gain, speed, at, length }
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
    const length = known?.pool.held ? hit.length : null
    return (picked && known && hitOf(known.pool, picked, hit.at, length)) ?? hit
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
 * What a hit lays: its part at its speed, cut where its key was let go.
 *
 * @returns Null when its recording is gone
 */
export function soundOfHit(
  { soundId, part, speed, gain, length }: Hit,
  soundOf: (id: string) => PoolSound | undefined,
): SoundToPlace | null {
  const sound = soundOf(soundId)
  if (!sound) return null
  const played = (sample: number): number => Math.round(Math.min(sample, sound.length) / speed)
  const recorded = Math.max(1, Math.floor(sound.length / speed))
  const wished = part ?? { from: 0, sync: sound.sync, to: sound.length }
  const from = Math.min(played(wished.from), recorded - 1)
  const whole = Math.max(from + 1, Math.min(recorded, played(wished.to)))
  const sync = Math.min(played(wished.sync), whole - 1)
  const to = length === null ? whole : Math.min(whole, sync + Math.max(1, Math.round(length)))
  const base = { id: sound.id, name: sound.name, recorded, sync, from, to, gain, speed }
  return to < whole ? { ...base, fadeOut: Math.min(RELEASE, to - from) } : base
}

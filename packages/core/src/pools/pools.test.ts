import { describe, expect, it } from 'vitest'
import { poolSchema, takeSchema, type Hit, type Pool, type PoolPick } from '../contract/pools.js'
import { Picker, velocityGain } from './Picker.js'
import { withFound } from './withFound.js'
import {
  hitOf,
  pullHits,
  punchHits,
  RELEASE,
  shakeHits,
  shiftHits,
  soundOfHit,
  stepHits,
  thinHits,
} from './take.js'

const random = (seed: number) => () => {
  seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0
  return seed / 4_294_967_296
}
const member = (name: string, weight = 1) => ({ soundId: name, name, part: null, weight })
const pool = (pick: PoolPick, weights: readonly number[], fields: Partial<Pool> = {}): Pool => ({
  ...{
    id: '00000000-0000-4000-8000-000000000001',
    version: 0,
    key: 0,
    name: 'Boots',
    category: 'FOL',
    pick,
    held: false,
  },
  ...{ gain: [0, 0], pitch: [0, 0], members: weights.map((weight, index) => member(`s${index}`, weight)) },
  live: '',
  ...fields,
})
const picks = (from: Pool, count: number): number[] => {
  const picker = new Picker(random(7))
  return Array.from({ length: count }, () => picker.next(from)?.member ?? -1)
}
const HITS = 10_000

describe('a pool', () => {
  it('picks each once before any again, and never the same twice running', () => {
    const those = picks(pool('once', [1, 1, 1, 0, 2]), HITS)
    for (let round = 0; round < HITS; round += 4)
      expect(those.slice(round, round + 4).toSorted()).toEqual([0, 1, 2, 4])
    expect(those.some((one, index) => one === those[index - 1])).toBe(false)
  })
  it('never picks the same twice running where that is the rule, and more often what weighs more', () => {
    const those = picks(pool('other', [1, 1, 1, 5]), HITS)
    expect(those.some((one, index) => one === those[index - 1])).toBe(false)
    const often = [0, 1, 2, 3].map((one) => those.filter((picked) => picked === one).length)
    // After each pick of the heavy one another follows, so at most half are of it: 5 of 7 from each of the others.
    expect((often[3] as number) / HITS).toBeCloseTo(5 / 12, 1)
    for (const light of [0, 1, 2]) expect((often[light] as number) / HITS).toBeCloseTo(7 / 36, 1)
  })
  it('picks in order, without those that are left out', () => {
    expect(picks(pool('order', [1, 0, 1, 1]), 7)).toEqual([0, 2, 3, 0, 2, 3, 0])
  })
  it('of one picks that, and of none nothing', () => {
    for (const pick of ['once', 'other', 'order'] as const) {
      expect(picks(pool(pick, [0, 1]), 3)).toEqual([1, 1, 1])
      expect(picks(pool(pick, [0, 0]), 2)).toEqual([-1, -1])
      expect(picks(pool(pick, []), 1)).toEqual([-1])
    }
  })
  it('keeps its rule when members come and go between hits', () => {
    const chance = random(11)
    for (let run = 0; run < 300; run++) {
      const picker = new Picker(random(run))
      let last = -1
      for (let step = 0; step < 40; step++) {
        const size = 1 + Math.floor(chance() * 6)
        const picked =
          picker.next(
            pool(
              'once',
              Array.from({ length: size }, () => 1),
            ),
          )?.member ?? -1
        expect(picked).toBeLessThan(size)
        if (size > 1) expect(picked).not.toBe(last)
        last = picked
      }
    }
  })
  it('varies level and pitch within its limits, evenly', () => {
    const picker = new Picker(random(3))
    const from = pool('other', [1, 1], { gain: [-6, -2], pitch: [-2, 2] })
    const those = Array.from({ length: HITS }, () => picker.next(from)!)
    const gains = those.map(({ gain }) => gain)
    const semitones = those.map(({ speed }) => 12 * Math.log2(speed))
    expect([Math.min(...gains), Math.max(...gains)]).toEqual([-6, -2])
    expect(gains.reduce((sum, gain) => sum + gain, 0) / HITS).toBeCloseTo(-4, 1)
    expect(Math.min(...semitones)).toBeGreaterThanOrEqual(-2.001)
    expect(Math.max(...semitones)).toBeLessThanOrEqual(2.001)
    expect(semitones.reduce((sum, one) => sum + one, 0) / HITS).toBeCloseTo(0, 1)
  })
  it('goes on finding: what is new joins, who is there or left out does not come in again', () => {
    const boots = pool('once', [1, 0], { live: 'boots' })
    const found = ['s0', 's1', 's2'].map((id) => ({ id, name: id }))
    expect(withFound(boots, found).members).toEqual([member('s0'), member('s1', 0), member('s2')])
    expect(withFound(boots, found.slice(0, 2))).toBe(boots)
    const many = Array.from({ length: 900 }, (_, index) => ({ id: `m${index}`, name: '' }))
    expect(withFound(boots, many).members).toHaveLength(500)
  })
  it.each([
    [127, 0],
    [64, -11.9],
    [1, -36],
    [0, -36],
    [500, 0],
  ])('is hit with velocity %i: %f dB', (velocity, db) => expect(velocityGain(velocity)).toBeCloseTo(db, 1))
  it.each([
    { gain: [3, -3] },
    { pitch: [0, 99] },
    { name: ' ' },
    { key: 10 },
    { members: [{ ...member('x'), part: { from: 5, sync: 4, to: 9 } }] },
  ])('that makes no sense is refused: %j', (fields) => {
    expect(poolSchema.safeParse({ ...pool('once', [1]), ...fields }).success).toBe(false)
  })
})

const hit = (at: number, fields: Partial<Hit> = {}): Hit => ({
  ...{
    poolId: 'p',
    category: 'FOL',
    soundId: 's0',
    name: 's0',
    part: null,
    gain: 0,
    speed: 1,
    at,
    length: null,
  },
  ...fields,
})
const times = (hits: readonly Hit[]): number[] => hits.map(({ at }) => at)

describe('a take', () => {
  const hits = [100, 150, 300, 320, 900].map((at) => hit(at))
  it('is thinned by pools: what comes too soon after one that stays goes', () => {
    expect(times(thinHits(hits, 100))).toEqual([100, 300, 900])
    expect(times(thinHits([hit(100), hit(110, { poolId: 'q' }), hit(120)], 100))).toEqual([100, 110])
  })
  it('is moved as a whole, not beyond the beginning', () => {
    expect(times(shiftHits(hits, -120))).toEqual([0, 30, 180, 200, 780])
  })
  it('is pulled onto places within reach, one on each, the nearer of two', () => {
    expect(times(pullHits(hits, [110, 310, 500], 60))).toEqual([110, 150, 310, 320, 900])
    expect(times(pullHits([hit(100), hit(120)], [118], 60))).toEqual([100, 118])
    expect(times(pullHits(hits, [], 60))).toEqual(times(hits))
  })
  it('becomes softer step by step', () => {
    expect(stepHits(hits, -3).map(({ gain }) => gain)).toEqual([0, -3, -6, -9, -12])
  })
  it('gets other members without moving, and keeps hits whose pool is gone', () => {
    const gone = hit(950, { poolId: 'gone', soundId: 'old' })
    const shaken = shakeHits([...hits, gone], [pool('once', [1, 1, 1], { id: 'p' })], random(1))
    expect(times(shaken)).toEqual([...times(hits), 950])
    expect(shaken.at(-1)?.soundId).toBe('old')
    expect(new Set(shaken.slice(0, 3).map((one) => one.soundId)).size).toBe(3)
  })
  it('is replaced only where it was performed anew', () => {
    expect(times(punchHits(hits, [hit(310), hit(305)], { from: 150, to: 321 }))).toEqual([100, 305, 310, 900])
  })
})

describe('a hit', () => {
  const sound = { id: 's0', name: 'Boot', length: 48_000, sync: 4800 }
  const soundOf = (id: string) => (id === sound.id ? sound : undefined)
  it('lays its part at its speed, cut and faded where its key was let go', () => {
    const whole = soundOfHit(hit(0, { speed: 2, gain: -3 }), soundOf)
    expect(whole).toMatchObject({ recorded: 24_000, sync: 2400, from: 0, to: 24_000, speed: 2, gain: -3 })
    expect(whole && 'fadeOut' in whole).toBe(false)
    expect(soundOfHit(hit(0, { length: 6000 }), soundOf)).toMatchObject({ to: 10_800, fadeOut: RELEASE })
    expect(soundOfHit(hit(0, { length: 999_999 }), soundOf)?.to).toBe(48_000)
  })
  it('lays a part with its attack, never beyond its recording', () => {
    const part = { from: 40_000, sync: 44_000, to: 90_000 }
    expect(soundOfHit(hit(0, { part }), soundOf)).toMatchObject({ from: 40_000, sync: 44_000, to: 48_000 })
  })
  it('of a recording that is gone lays nothing', () => {
    expect(soundOfHit(hit(0), () => undefined)).toBeNull()
  })
  it('stays what it was when its pool changes', () => {
    const before = pool('order', [1, 1])
    const [first] = shakeHits([hit(5)], [{ ...before, id: 'p' }], random(1))
    expect(first).toMatchObject({ soundId: 's0' })
    const picked = { member: 1, gain: -1, speed: 1 }
    const second = hitOf(before, picked, 7)
    expect(second).toMatchObject({ soundId: 's1', poolId: before.id, category: 'FOL', at: 7, length: null })
    expect(hitOf({ ...before, members: before.members.slice(0, 1) }, picked, 7)).toBeNull()
    expect(takeSchema.safeParse({ id: 't', on: true, rolled: 0.5, hits: [second] }).success).toBe(true)
  })
})

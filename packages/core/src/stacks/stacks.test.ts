import { describe, expect, it } from 'vitest'
import {
  stackPlanSchema,
  type FoundLayers,
  type StackLayer,
  type StackPlan,
  type Variation,
} from '../contract/stacks.js'
import { keepStack, swapStack } from '../edits/stacks.js'
import { copyClips, pasteClips } from '../edits/copyClips.js'
import { deleteRecords } from '../edits/deleteRecords.js'
import { shapeClips } from '../edits/shapeClips.js'
import { expectOk } from '../errors.js'
import { apply, type Change } from '../reel/change.js'
import { clipsByGroup, syncPlace, type ReelDocument } from '../reel/document.js'
import type { Insert } from '../reel/inserts.js'
import type { SoundBlock } from '../signal/soundPort.js'
import { testReel } from '../test/testReel.js'
import { renderStack } from './renderStack.js'
import { fnv1a, readVariation, seededRandom, variationsFrom, variationText } from './seeds.js'
import { shakeStack, stackSpan, usableFor } from './shakeStack.js'

const layer = (id: string, fields: Partial<StackLayer> = {}): StackLayer => ({
  ...{ id, name: id, category: 'FX', source: { of: 'search', what: id, called: '' }, seconds: [0, 3600] },
  ...{ lies: 'sync', later: [0, 0], gain: [0, 0], pitch: [0, 0], tempo: [1, 1], fadeIn: null, fadeOut: null },
  ...{ reverse: 0, there: 1 },
  ...fields,
})
const planOf = (...layers: StackLayer[]): StackPlan => ({
  ...{ id: '00000000-0000-4000-8000-000000000001', version: 1, name: 'Train', layers },
})
const sound = (id: string, seconds = 1, sync = 0.25) => ({
  ...{ id, name: id, length: seconds * 48_000, sync: sync * 48_000, part: null, weight: 1 },
})
const MANY = Array.from({ length: 9 }, (_, index) => sound(`s${index}`, 1 + index / 4))
const wild = layer('wild', { gain: [-9, -3], pitch: [-5, 5], later: [-0.5, 1], reverse: 0.5, there: 0.7 })
const VARIATIONS = variationsFrom(0, 4000)

describe('chance from a seed', () => {
  // ISO C++ [rand.predef]: the 10,000th number of a mt19937 with its default seed is 4123659995.
  it('is MT19937', () => {
    const random = seededRandom(5489)
    let last = 0
    for (let count = 0; count < 10_000; count++) last = random()
    expect(last * 2 ** 32).toBe(4_123_659_995)
  })
  // Test vectors of draft-eastlake-fnv, appendix C.
  it.each([
    ['', 0x811c9dc5],
    ['a', 0xe40c292c],
    ['foobar', 0xbf9cf968],
  ])('is led to each layer by FNV-1a: “%s”', (text, hash) => expect(fnv1a(text)).toBe(hash))
  it.each<Variation>([
    { seed: 17, held: {} },
    { seed: 4_294_967_295, held: { b: 3, a: 9 } },
  ])('stands in a word and is read again: %j', (one) =>
    expect(readVariation(variationText(one))).toEqual(one),
  )
  it.each(['', 'x', '1 a', '1 a=', '-1', '1.5'])('another word is none: “%s”', (text) =>
    expect(readVariation(text)).toBeNull(),
  )
})

describe('a layer', () => {
  it('stays within its limits, and chance has the parts it was given', () => {
    const shaken = VARIATIONS.flatMap((one) => shakeStack(planOf(wild), one, { wild: MANY }))
    expect(shaken.length / VARIATIONS.length).toBeCloseTo(0.7, 1)
    const gains = shaken.map((one) => one.sound.gain ?? 0)
    const pitches = shaken.map((one) => 12 * Math.log2(one.sound.speed ?? 1))
    const later = shaken.map((one) => one.at / 48_000)
    for (const [values, low, high] of [
      [gains, -9, -3],
      [pitches, -5, 5],
      [later, -0.5, 1],
    ] as const) {
      expect(Math.min(...values)).toBeGreaterThanOrEqual(low - 1e-9)
      expect(Math.max(...values)).toBeLessThanOrEqual(high + 1e-9)
      expect(values.reduce((sum, one) => sum + one, 0) / values.length).toBeCloseTo((low + high) / 2, 0)
    }
    expect(shaken.filter((one) => one.sound.reverse).length / shaken.length).toBeCloseTo(0.5, 1)
    expect(new Set(shaken.map((one) => one.sound.id)).size).toBe(MANY.length)
  })
  it('is as fast as its limits say with its pitch kept, to a hundredth; what was drawn before stays', () => {
    const plain = VARIATIONS.map((one) => shakeStack(planOf(wild), one, { wild: MANY }))
    const kept = VARIATIONS.map((one) =>
      shakeStack(planOf({ ...wild, tempo: [0.5, 0.8] }), one, { wild: MANY }),
    )
    const speeds = kept.flatMap((layers) => layers.map(({ sound }) => sound.speed ?? 1))
    expect([Math.min(...speeds), Math.max(...speeds)]).toEqual([0.5, 0.8])
    expect(new Set(speeds).size).toBe(31)
    for (const [index, [layer]] of kept.entries()) {
      expect(layer?.sound.keepPitch).toBe(layer ? true : undefined)
      const before = plain[index]?.[0]
      expect([layer?.at, layer?.sound.id, layer?.sound.gain]).toEqual([
        ...[before?.at, before?.sound.id, before?.sound.gain],
      ])
    }
  })
  it('picks by length, and the same whatever order its sounds come in and wherever they lie', () => {
    const short = layer('short', { seconds: [1.2, 2] })
    expect(usableFor(short, MANY).map(({ id }) => id)).toEqual(['s1', 's2', 's3', 's4'])
    const plan = planOf(wild)
    for (const one of VARIATIONS.slice(0, 50))
      expect(shakeStack(plan, one, { wild: MANY.toReversed() })).toEqual(
        shakeStack(plan, one, { wild: MANY }),
      )
    // On another machine the same recordings have other ids.
    const elsewhere = MANY.map((one, index) => ({ ...one, id: `${(index * 7) % 9}` }))
    for (const one of VARIATIONS.slice(0, 50))
      expect(shakeStack(plan, one, { wild: elsewhere }).map(({ sound: { name } }) => name)).toEqual(
        shakeStack(plan, one, { wild: MANY }).map(({ sound: { name } }) => name),
      )
  })
  it('lies with its sync point, its end or its beginning on the moment', () => {
    const spans = (lies: StackLayer['lies'], later = 0) =>
      stackSpan(
        shakeStack(
          planOf(layer('a', { lies, later: [later, later] })),
          { seed: 1, held: {} },
          { a: [sound('x')] },
        ),
      )
    expect(spans('sync')).toEqual([-12_000, 36_000])
    expect(spans('ends')).toEqual([-47_999, 1])
    expect(spans('begins')).toEqual([0, 48_000])
    expect(spans('begins', 0.5)).toEqual([24_000, 72_000])
    expect(stackSpan([])).toBeNull()
  })
  it('plays a part of a recording, at its own sync point', () => {
    const part = { from: 24_000, sync: 30_000, to: 40_000 }
    const found = { a: [{ ...sound('x'), part }] }
    const [one] = shakeStack(planOf(layer('a', { pitch: [12, 12] })), { seed: 1, held: {} }, found)
    expect(one?.sound).toMatchObject({ from: 12_000, sync: 15_000, to: 20_000, speed: 2 })
  })
  it('for which nothing is found is left out', () => {
    const found: FoundLayers = { b: [sound('x')] }
    expect(shakeStack(planOf(layer('a'), layer('b')), { seed: 1, held: {} }, found)).toHaveLength(1)
  })
  it('is held while the others are shaken', () => {
    const plan = planOf(wild, { ...wild, id: 'other' })
    const found = { wild: MANY, other: MANY }
    const of = VARIATIONS.find((one) => shakeStack(plan, one, found).length === 2)!
    const kept = shakeStack(plan, of, found)[0]
    const again = variationsFrom(900, 40, { of, layers: ['wild'] }).map((one) => shakeStack(plan, one, found))
    expect(new Set(again.map(([first]) => JSON.stringify(first)))).toEqual(new Set([JSON.stringify(kept)]))
    expect(new Set(again.map((one) => JSON.stringify(one[1] ?? null))).size).toBeGreaterThan(20)
  })
  it.each([
    { gain: [3, -3] },
    { pitch: [0, 99] },
    { tempo: [0, 1] },
    { there: 2 },
    { seconds: [-1, 3] },
    { id: 'a b' },
    { name: ' ' },
  ])('that makes no sense is refused: %j', (fields) => {
    expect(stackPlanSchema.safeParse(planOf(layer('a'))).success).toBe(true)
    expect(stackPlanSchema.safeParse(planOf({ ...layer('a'), ...fields } as StackLayer)).success).toBe(false)
  })
  it('has an id of its own', () => {
    expect(stackPlanSchema.safeParse(planOf(layer('a'), layer('a'))).success).toBe(false)
  })
})

const plan = planOf(
  layer('hit'),
  layer('tail', { lies: 'begins', later: [0.2, 0.4] }),
  layer('rise', { lies: 'ends' }),
)
const found: FoundLayers = { hit: MANY, tail: MANY, rise: MANY }
const AT = 480_000
const ids = (): (() => string) => {
  let count = 0
  return () => `n${count++}`
}
const done = (doc: ReelDocument, change: Change): ReelDocument => expectOk(apply(doc, change))
const layersOf = (seed: number) => shakeStack(plan, { seed, held: {} }, found)
const kept = (newId = ids()): ReelDocument => {
  const facts = { name: 'Train', planId: plan.id, variation: '1' }
  return done(
    testReel(),
    expectOk(keepStack(testReel(), { ...facts, id: 'k', layers: layersOf(1), at: AT, cueId: null, newId })),
  )
}
const clipsOf = (doc: ReelDocument, id = 'k') => clipsByGroup(doc).get(id) ?? []

const inOrder = (places: number[]): number[] => places.sort((a, b) => a - b)
/** Where the sync points lie after the moment, and where the plan wants them. */
const offsets = (doc: ReelDocument): number[] => inOrder(clipsOf(doc).map((clip) => syncPlace(clip) - AT))
const planned = (seed: number): number[] => inOrder(layersOf(seed).map((one) => one.at))

describe('a stack on the Sheet', () => {
  it('has its layers around its moment, each on a track of its own, as one thing', () => {
    const doc = kept()
    // What ends on the moment and what begins after it have room on one track.
    expect([clipsOf(doc).length, doc.track.size, doc.stack.get('k')?.name]).toEqual([3, 2, 'Train'])
    expect(offsets(doc)).toEqual(planned(1))
  })
  it('gives its place to another variation; moment, level and mute stay', () => {
    const newId = ids()
    let doc = kept(newId)
    const all = clipsOf(doc).map(({ id }) => id)
    doc = done(doc, expectOk(shapeClips(doc, { ids: all, gainBy: -4, fields: { mute: true } })))
    const swap = expectOk(
      swapStack(doc, { id: 'k', layers: layersOf(2), before: layersOf(1), variation: '2', newId }),
    )
    const next = done(doc, swap)
    expect([offsets(next), next.stack.get('k')?.variation]).toEqual([planned(2), '2'])
    expect(clipsOf(next).map(({ gain, mute }) => [gain, mute])).toEqual(Array(3).fill([-4, true]))
    expect(new Set(clipsOf(next).map(({ soundId }) => soundId))).toEqual(
      new Set(layersOf(2).map((one) => one.sound.id)),
    )
  })
  it('is copied whole as a stack of its own, and its layers one by one as sounds', () => {
    const newId = ids()
    const doc = kept(newId)
    const all = clipsOf(doc).map(({ id }) => id)
    const paste = (some: string[]): ReelDocument =>
      done(doc, expectOk(pasteClips(doc, { copied: copyClips(doc, some), at: 2 * AT, cueId: null, newId })))
    const twice = paste(all)
    expect([twice.stack.size, ...[...twice.stack.keys()].map((id) => clipsOf(twice, id).length)]).toEqual([
      2, 3, 3,
    ])
    const once = paste(all.slice(1))
    expect([once.stack.size, once.clip.size, clipsOf(once).length]).toEqual([1, 5, 3])
  })
  it('goes with its last layer', () => {
    const doc = kept()
    const [first = '', ...others] = clipsOf(doc).map(({ id }) => id)
    const less = done(doc, expectOk(deleteRecords(doc, { ids: others })))
    expect([less.stack.size, clipsOf(less).length]).toEqual([1, 1])
    expect(done(less, expectOk(deleteRecords(less, { ids: [first] }))).stack.size).toBe(0)
  })
  it('of a plan that finds nothing is refused', () => {
    const none = {
      id: 'k',
      name: 'Train',
      planId: '',
      variation: '',
      layers: [],
      at: 0,
      cueId: null,
      newId: ids(),
    }
    expect(keepStack(testReel(), none)).toMatchObject({ ok: false, code: 'CORE_NOTHING_TO_LAY' })
  })
})

describe('a stack as a recording', () => {
  const noise = new Map(
    MANY.map(({ id, length }, index) => {
      const random = seededRandom(index)
      return [id, Float32Array.from({ length }, () => random() - 0.5)] as const
    }),
  )
  const port = (mediaId: string): SoundBlock | null => {
    const channel = noise.get(mediaId)
    return channel ? { from: 0, channels: [channel] } : null
  }
  it('is the sum of its layers, each where it lies, at the law of the middle', () => {
    const still = planOf(
      layer('a', { fadeIn: 0, fadeOut: 0 }),
      layer('b', { fadeIn: 0, fadeOut: 0, lies: 'begins', later: [1, 1] }),
    )
    const layers = shakeStack(still, { seed: 3, held: {} }, { a: [MANY[0]!], b: [MANY[4]!] })
    const { left, right } = renderStack(layers, port)
    const [from, to] = stackSpan(layers)!
    expect([from, to, left.length]).toEqual([-12_000, 144_000, 156_000])
    // -3.01 dB on each side (pan law: equal power).
    const a = noise.get('s0')!
    const b = noise.get('s4')!
    for (const at of [0, 20_000, 59_999, 60_000, 100_000, 155_999]) {
      const sum = (a[at] ?? 0) + (b[at - 60_000] ?? 0)
      expect(left[at]).toBeCloseTo(sum * Math.SQRT1_2, 5)
      expect(right[at]).toBe(left[at])
    }
  })
  it('is the same to the bit for the same seed', () => {
    const [one, two] = [renderStack(layersOf(5), port), renderStack(layersOf(5), port)]
    expect(Buffer.from(one.left.buffer).equals(Buffer.from(two.left.buffer))).toBe(true)
  })
  it('rings on as long as its treatment does, and no longer', () => {
    const dry = renderStack(layersOf(5), port)
    const span = stackSpan(layersOf(5))!
    expect(dry.left.length).toBe(span[1] - span[0])
    const delay: Insert = {
      ...{ kind: 'insert', id: 'i', on: 'x', order: 'a', bypass: false, effect: 'delay' },
      ...{ time: 500, feedback: 0.5, wet: 0, lowPass: 20_000 },
    }
    const wet = renderStack(layersOf(5), port, { inserts: [delay] })
    // Noise of up to -9 dBFS that loses 6 dB with each repeat is below -72 dBFS after eleven at the latest.
    const repeats = (wet.left.length - dry.left.length) / 24_000
    expect(repeats).toBeGreaterThan(6)
    expect(repeats).toBeLessThan(12)
  })
  it('that can’t be read says so', () => {
    expect(() => renderStack(layersOf(5), () => null)).toThrow('could not be read')
  })
})

import { describe, expect, it } from 'vitest'
import type { FoundSound } from '../contract/sounds.js'
import { keepTake } from '../edits/keepTake.js'
import { spotCue } from '../edits/spotCue.js'
import { editCue } from '../edits/editRecords.js'
import { frames } from '../time/units.js'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import { syncPlace, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { after, placed } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { cueContext, isToDraft } from './cueContext.js'
import { draftCue } from './draftCue.js'
import { layDraft, stepsOf } from './layDraft.js'
import { rankForCue, wordsOfCue, type CueContext } from './rankForCue.js'

const RATE = 48_000
const FRAME = 2000
/** A found sound whose name is met by some words that were typed. */
const found = (name: string, met: readonly string[], fields: Partial<FoundSound> = {}): FoundSound =>
  ({
    ...{ id: name, name, keywords: '', description: '', category: '', length: RATE, sync: 4800, events: 1 },
    why: met.map((typed) => ({ typed, found: typed, field: 'name', how: 'typed' })),
    ...fields,
  }) as FoundSound
const withCue = (fields: Partial<Cue>): { doc: ReelDocument; cue: Cue } => {
  const spotted = { id: 'q', category: fields.category ?? ('FX' as const), in: 100, out: 148 }
  let doc = after(testReel(), spotCue(testReel(), { ...spotted, words: fields.words ?? '' }))
  const { category, words, ...rest } = fields
  expect([category, words]).toBeDefined()
  doc = after(doc, editCue(doc, { id: 'q', fields: rest }))
  return { doc, cue: doc.cue.get('q') as Cue }
}
const plain: CueContext = { seconds: 2, near: new Map(), steps: 0 }
const order = (cue: Partial<Cue>, sounds: FoundSound[], context: Partial<CueContext> = {}): string[] =>
  rankForCue(withCue(cue).cue, sounds, { ...plain, ...context }).map(({ sound }) => sound.name)

describe('what is found for a cue', () => {
  it('is ranked by the words that few of it meet', () => {
    const doors = ['a', 'b', 'c', 'd'].map((one) => found(`Door ${one}`, ['door']))
    expect(
      order({ words: 'The door of the barn creaks' }, [...doors, found('Barn creak', ['barn', 'creaks'])])[0],
    ).toBe('Barn creak')
    expect(wordsOfCue('He crosses to the frame, 2 boards')).toEqual(['crosses', 'frame', 'boards'])
  })
  it('by category, length, distance, and whether it sounds nearby already', () => {
    const rain = { words: 'Rain', category: 'BG' } as const
    const met = ['rain']
    expect(
      order(rain, [
        found('Rain hit', met, { category: 'Impacts' }),
        found('Rain', met, { category: 'Rain' }),
      ])[0],
    ).toBe('Rain')
    const lasting = found('Rain long', met, { length: 30 * RATE })
    expect(order(rain, [found('Rain brief', met), lasting], { seconds: 20 })[0]).toBe('Rain long')
    const bells = [found('Bell close', ['bell']), found('Bell far', ['bell'])]
    expect(order({ words: 'Bell', perspective: 'far' }, bells)[0]).toBe('Bell far')
    expect(order({ words: 'Bell', perspective: 'close' }, bells)[0]).toBe('Bell close')
    expect(order({ words: 'Bell' }, bells, { near: new Map([['Bell close', 1]]) })[0]).toBe('Bell far')
    const sureOf = (near: number): number =>
      rankForCue(withCue({ words: 'Bell' }).cue, bells, {
        ...plain,
        near: new Map([['Bell far', near]]),
      }).find(({ sound }) => sound.name === 'Bell far')?.sure ?? 0
    // What is only meant for another cue counts half as much as what is placed.
    expect(sureOf(0) - sureOf(0.5)).toBeCloseTo((sureOf(0) - sureOf(1)) / 2)
    const begun = (name: string, met: string) => ({
      ...found(name, []),
      why: [{ typed: 'dies', found: met, field: 'name' as const, how: 'typed' as const }],
    })
    expect(order({ words: 'Dies' }, [begun('A', 'diesel'), begun('B', 'dies')])[0]).toBe('B')
    const hits = [found('Knock ambience', ['knock'], { length: 60 * RATE }), found('Knock', ['knock'])]
    expect(order({ words: 'Knock' }, hits)[0]).toBe('Knock')
  })
  it('by ear as well, after what meets the words', () => {
    const alike = { name: 'Knock', met: 1, ids: new Map([['Thump', 1]]) }
    const rank = (context: CueContext) =>
      rankForCue(
        withCue({ words: 'Knock' }).cue,
        [found('Thump', []), found('Squeal', []), found('Knock', ['knock'])],
        context,
      )
    const ranked = rank({ ...plain, alike })
    const sureOf = (met: number) =>
      rank({ ...plain, alike: { ...alike, met } }).find(({ sound }) => sound.name === 'Thump')?.sure ?? 0
    // What is like something that hardly fits hardly fits.
    expect([sureOf(0.2) < sureOf(0.5), sureOf(0.5) < sureOf(1)]).toEqual([true, true])
    expect(ranked.map(({ sound }) => sound.name)).toEqual(['Knock', 'Thump', 'Squeal'])
    expect(ranked.map(({ why }) => why)).toEqual([['knock'], ['sounds like Knock'], []])
  })
  it('says how sure it is, and why; the same for the same, in whatever order it comes', () => {
    const sounds = [
      found('Door', ['door']),
      found('Window', []),
      found('Door rain', ['door'], { category: 'Rain' }),
    ]
    const context = { ...plain, near: new Map([['Door', 1]]) }
    const { cue } = withCue({ words: 'Door' })
    const ranked = rankForCue(cue, sounds, context)
    expect(rankForCue(cue, sounds.toReversed(), context)).toEqual(ranked)
    for (const { sure } of ranked) expect(sure >= 0 && sure <= 1).toBe(true)
    const why = new Map(ranked.map((one) => [one.sound.name, one.why]))
    expect(why.get('Door')).toEqual(['door', 'sounds nearby already'])
    expect(why.get('Door rain')).toEqual(['door', 'filed as BG, not FX'])
    expect(rankForCue(cue, [], context)).toEqual([])
  })
})

describe('a cue of a draft', () => {
  it('is asked for by its words, no longer than a search takes, and by ear; without words by nothing', async () => {
    const asked: object[] = []
    const find = (params: { q: string; cue?: '1'; like?: string }) => {
      asked.push(params)
      return Promise.resolve(params.like ? [found('Thump', [])] : [found('Knock', ['knock'])])
    }
    const { cue } = withCue({ words: `Knock ${'x'.repeat(900)}` })
    expect((await draftCue(cue, plain, find)).map(({ sound }) => sound.name)).toEqual(['Knock', 'Thump'])
    expect(asked).toEqual([
      { q: cue.words.slice(0, 400), cue: '1' },
      { q: '', like: 'Knock' },
    ])
    expect(await draftCue({ ...cue, words: ' ' }, plain, find)).toEqual([])
    expect(asked).toHaveLength(2)
  })
  it('knows what sounds nearby, placed or meant for another cue, how long it is, and its steps', () => {
    const { doc, cue } = withCue({ words: 'He walks off' })
    const far = after(doc, spotCue(doc, { id: 'far', category: 'FX', in: 100 + 61 * 24, out: 2000 }))
    const both = after(far, spotCue(far, { id: 'close', category: 'FX', in: 100 + 59 * 24, out: 2000 }))
    const choices = new Map([
      ['far', 'a'],
      ['close', 'b'],
      ['gone', 'c'],
    ])
    expect(cueContext(both, cue, choices, [101, 113, 125])).toEqual({
      ...{ seconds: 2, near: new Map([['b', 0.5]]), steps: 3 },
    })
    expect(isToDraft(both, cue)).toBe(true)
    expect(isToDraft(both, { ...cue, state: 'omitted' })).toBe(false)
    expect(isToDraft(placed(both, 'c', 100, { cueId: 'q' }), cue)).toBe(false)
  })
})

describe('a choice', () => {
  const none = { steps: [], takes: [], events: [] }
  const kept = (doc: ReelDocument, performed: ReturnType<typeof layDraft>): ReelDocument => {
    let count = 0
    const newId = (): string => `n${count++}`
    return expectOk(
      apply(doc, expectOk(keepTake(doc, { performed, cues: 'none', words: '', newId, cueId: 'q' }))),
    )
  }
  it('lies with its sync point on the cue’s, and is cut where it goes on far beyond the cue', () => {
    const { doc, cue } = withCue({ words: 'Bell', sync: 110 as never })
    const [short] = kept(doc, layDraft(doc, cue, found('Bell', []), none)).clip.values()
    expect([short && syncPlace(short), short?.length, short?.cueId]).toEqual([110 * FRAME, RATE, 'q'])
    const [long] = kept(doc, layDraft(doc, cue, found('Bell', [], { length: 60 * RATE }), none)).clip.values()
    expect((long?.start ?? 0) + (long?.length ?? 0)).toBe(148 * FRAME + 1.5 * RATE)
  })
  it('of an ambience lasts as long as its cue', () => {
    const { doc, cue } = withCue({ words: 'Rain', category: 'BG' })
    const [rain] = kept(doc, layDraft(doc, cue, found('Rain', [], { length: 60 * RATE }), none)).clip.values()
    expect([rain?.start, rain?.length, rain?.fadeIn, rain?.fadeOut]).toEqual([
      100 * FRAME,
      48 * FRAME,
      24_000,
      24_000,
    ])
  })
  it('for a cue that was only pressed lasts as it does, an ambience until the next one', () => {
    const lengths = (cue: Partial<Cue>, seconds: number): number[] => {
      const one = withCue({ out: frames(101), ...cue })
      const two = after(
        one.doc,
        spotCue(one.doc, { id: 'next', category: 'BG', in: 100 + 20 * 24, out: 9000 }),
      )
      const laid = layDraft(two, one.cue, found('A', [], { length: seconds * RATE, sync: 0 }), none)
      return [...kept(two, laid).clip.values()].map(({ length }) => length / RATE)
    }
    expect(lengths({ words: 'Rain', category: 'BG' }, 60)).toEqual([20])
    expect(lengths({ words: 'Rain', category: 'BG' }, 5)).toEqual([5])
    expect(lengths({ words: 'Bell' }, 4)).toEqual([4])
    expect(lengths({ words: 'Bell' }, 60)).toEqual([10])
  })
  it('of steps is laid one by one on the onsets of the guide within the cue, going round its takes', () => {
    const { doc, cue } = withCue({ words: 'He walks off', category: 'FOL' })
    const onsets = [90, 101, 102, 113, 125, 137, 150]
    const steps = stepsOf(doc, cue, onsets)
    // Before and after the cue there is none, and what follows within a fifth of a second is the same step.
    expect(steps).toEqual([101, 113, 125, 137])
    const takes = [1, 2, 3].map((n) => found(`Boot ${n}`, []))
    const laid = kept(doc, layDraft(doc, cue, takes[0] as FoundSound, { steps, takes, events: [] }))
    const clips = [...laid.clip.values()].sort((a, b) => syncPlace(a) - syncPlace(b))
    expect(clips.map((clip) => [syncPlace(clip) / FRAME, clip.name])).toEqual([
      ...[
        [101, 'Boot 1'],
        [113, 'Boot 2'],
        [125, 'Boot 3'],
        [137, 'Boot 1'],
      ],
    ])
    expect(clips.every(({ cueId }) => cueId === 'q')).toBe(true)
  })
  it('of steps takes the events of a long recording in their order', () => {
    const { doc, cue } = withCue({ words: 'Steps', category: 'FOL' })
    const events = [0, 1, 2].map((at): [number, number, number] => [
      at * 20_000,
      at * 20_000 + 900,
      at * 20_000 + 9000,
    ])
    const walk = found('Walk', [], { length: 60_000, events: 3 })
    const performed = layDraft(doc, cue, walk, { steps: [101, 113, 125, 137], takes: [walk], events })
    expect(performed.map(({ sound }) => sound.from)).toEqual([0, 20_000, 40_000, 0])
    expect(performed.map(({ at }) => at / FRAME)).toEqual([101, 113, 125, 137])
  })
  it('of one thing that is no steps is one sound, whatever the guide has', () => {
    const { doc, cue } = withCue({ words: 'Lever thrown' })
    expect(stepsOf(doc, cue, [101, 113, 125, 137])).toEqual([])
    expect(stepsOf(doc, withCue({ words: 'Walks' }).cue, [101, 113])).toEqual([])
  })
})

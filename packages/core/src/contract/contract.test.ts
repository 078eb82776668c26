import { describe, expect, it } from 'vitest'
import { spotCue } from '../edits/spotCue.js'
import { expectOk } from '../errors.js'
import { placed } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { recordsOf } from '../reel/document.js'
import { recordSchema } from '../reel/records.js'
import { isJobKind, JOB_KINDS, JOB_LANES } from './jobs.js'
import { commitSchema, newReelSchema } from './reels.js'
import { preparationSchema } from './sounds.js'

const change = expectOk(spotCue(testReel(), { id: 'a', category: 'FX', in: 1, out: 2 }))
const commit = { changeId: '00000000-0000-4000-8000-000000000000', base: 1, role: 'do', target: null, change }

describe('what crosses the wire', () => {
  it('is a change with its base and its id', () => {
    expect(commitSchema.safeParse(commit).success).toBe(true)
  })

  it.each([
    ['no id', { changeId: 'x' }],
    ['a base before all', { base: -1 }],
    ['half a base', { base: 1.5 }],
    ['a role of its own', { role: 'mend' }],
    ['a target before all', { target: 0 }],
    ['no words', { change: { ...change, label: '' } }],
    ['a record of no kind', { change: { ...change, added: [{ id: 'a' }] } }],
    ['a change with one side', { change: { ...change, updated: [[change.added[0]]] } }],
  ])('is refused with %s', (_, odd) => {
    expect(commitSchema.safeParse({ ...commit, ...odd }).success).toBe(false)
  })

  it('is every record that edits make, field by field', () => {
    for (const record of recordsOf(placed(testReel(), 'a', 100)))
      expect(recordSchema.parse(record)).toEqual(record)
  })

  it.each([
    ['clip', { gain: 99 }],
    ['clip', { length: 0 }],
    ['clip', { start: 0.5 }],
    ['clip', { speed: 9 }],
    ['clip', { sides: 'up' }],
    ['track', { pan: 2 }],
    ['track', { name: '' }],
    ['track', { column: -1 }],
    ['reel', { rate: '26' }],
    ['reel', { length: 0 }],
  ] as const)('is no %s with %j', (kind, odd) => {
    const record = [...placed(testReel(), 'a', 100)[kind].values()][0]
    expect(recordSchema.safeParse({ ...record, ...odd }).success).toBe(false)
  })

  it('is a preparation within what can be played', () => {
    const plain = {
      ...{ in: null, out: null, sync: null, fadeIn: null, fadeOut: null },
      ...{ gain: 0, speed: 1, keepPitch: false, reverse: false, sides: 'kept' },
    }
    expect(preparationSchema.safeParse(plain).success).toBe(true)
    for (const odd of [{ speed: 0 }, { speed: 5 }, { in: -1 }, { gain: 'loud' }]) {
      expect(preparationSchema.safeParse({ ...plain, ...odd }).success).toBe(false)
    }
  })

  it('is a wish for a reel with a company only where there is one', () => {
    const wish = {
      showId: null,
      showName: 'S',
      name: 'R',
      rate: '24',
      firstTimecode: '01:00:00:00',
      lengthSeconds: 60,
    }
    expect(newReelSchema.parse(wish)).toMatchObject({ company: '' })
    expect(newReelSchema.safeParse({ ...wish, lengthSeconds: 90_000 }).success).toBe(false)
  })
})

describe('kinds of long work', () => {
  it('wait in a lane that there is, and are told from other words', () => {
    for (const { lane } of Object.values(JOB_KINDS)) expect(JOB_LANES).toContain(lane)
    expect([isJobKind('bounce'), isJobKind('toString'), isJobKind('')]).toEqual([true, false, false])
  })
  it('are given what they need, and nothing unclean', () => {
    expect(JOB_KINDS.bounce.payload.safeParse({ reelId: 'r' }).success).toBe(true)
    for (const odd of [{}, { reelId: '' }, { reelId: 7 }, { reelId: 'a\u0000' }]) {
      expect(JOB_KINDS.bounce.payload.safeParse(odd).success).toBe(false)
    }
  })
})

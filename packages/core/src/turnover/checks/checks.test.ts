import { describe, expect, it } from 'vitest'
import { NO_AIMS, type SoundState, type TurnoverFacts } from '../../contract/turnover.js'
import { addCut } from '../../edits/editCuts.js'
import { addInsert, editInsert } from '../../edits/editInserts.js'
import { addNote, closeNote } from '../../edits/editNotes.js'
import { deleteRecords } from '../../edits/deleteRecords.js'
import { editCue, editTrack } from '../../edits/editRecords.js'
import { moveClips } from '../../edits/moveClips.js'
import { shapeClips } from '../../edits/shapeClips.js'
import { spotCue } from '../../edits/spotCue.js'
import { trimClip } from '../../edits/trimClip.js'
import { expectOk } from '../../errors.js'
import { documentOf, recordsOf, withRecord, type ReelDocument } from '../../reel/document.js'
import type { ReelRecord } from '../../reel/records.js'
import { after, placed } from '../../test/after.js'
import { testReel } from '../../test/testReel.js'
import { samples } from '../../time/units.js'
import { acceptancesOf } from './accepted.js'
import { acceptFinding } from './acceptFinding.js'
import { CHECKS, checksMade, findingsOf } from './findAll.js'
import type { Finding } from './finding.js'

const lever: SoundState = {
  ...{ id: 's', name: 'Lever', state: 'here', licence: 'CC0 1.0', source: 'House', sampleRate: 48_000 },
  length: 48_000,
}
const tone: SoundState = { ...lever, id: 'tone', name: '2-pop' }
const picture = { id: 'p', rate: '24', frames: 14_208 } as const
const whole: TurnoverFacts = { sounds: [lever, tone], picture, mix: null, edges: [], recipe: NO_AIMS }

/** A reel with nothing wrong: leader with its 2-pop, picture as long as the reel, one cue met on its frame by its sound. */
const fine = ((): ReelDocument => {
  let doc = testReel({ programme: 192 })
  doc = after(doc, addCut(doc, { id: 'cut', pictureId: 'p', name: 'Cut 1', length: 14_208, offset: 192 }))
  doc = after(doc, spotCue(doc, { id: 'q', category: 'FX', in: 400, out: 412, words: 'Lever thrown' }))
  doc = after(doc, editCue(doc, { id: 'q', fields: { state: 'ready' } }))
  doc = placed(doc, 'a', 400, { cueId: 'q' })
  doc = placed(doc, 'pop', 144, {
    sound: { id: 'tone', name: '2-pop', recorded: 48_000, sync: 0 },
    newTrackId: 't-pop',
    category: 'DSG',
  })
  doc = after(doc, trimClip(doc, { id: 'pop', end: 'tail', to: 145 * 2000 }))
  doc = after(doc, shapeClips(doc, { ids: ['pop'], fields: { fadeIn: 0, fadeOut: 0 } }))
  doc = after(doc, spotCue(doc, { id: 'p2', category: 'DSG', in: 144, out: 145 }))
  doc = after(doc, shapeClips(doc, { ids: ['pop'], fields: { cueId: 'p2' } }))
  return after(doc, editCue(doc, { id: 'p2', fields: { state: 'approved' } }))
})()
const ofCheck = (doc: ReelDocument, check: string, facts = whole): Finding[] =>
  findingsOf(doc, facts).filter((finding) => finding.check === check)
const clip = fine.clip.get('a')!

it('a reel with nothing wrong has no findings, and every check has a heading', () => {
  expect(findingsOf(fine, whole)).toEqual([])
  expect(new Set(CHECKS.map(([id]) => id)).size).toBe(CHECKS.length)
})

/** A fault: where it is looked for, how it comes about, what is found, and how it is mended where that is more than undoing it. */
interface Fault {
  readonly check: string
  readonly what: string
  readonly doc?: ReelDocument
  readonly facts?: Partial<TurnoverFacts>
  readonly found: Partial<Finding>
}
const asFound = (weight: Finding['weight'], text: RegExp, at?: [number, number]): Partial<Finding> => ({
  ...{ weight, text: expect.stringMatching(text) as string },
  ...(at ? { at: { from: at[0], to: at[1] } } : {}),
})
const set = (fields: object): ReelDocument => withRecord(fine, { ...clip, ...fields })
const FAULTS: readonly Fault[] = [
  ...(['missing', 'changed', 'unreadable'] as const).map((state): Fault => ({
    ...{ check: 'media', what: state, facts: { sounds: [{ ...lever, state }] } },
    found: asFound('stops', /^Lever: its file/, [394, 418]),
  })),
  {
    check: 'media',
    what: 'on no shelf',
    facts: { sounds: [] },
    found: asFound('stops', /on no shelf any more/),
  },
  {
    ...{ check: 'media', what: 'another length', facts: { sounds: [{ ...lever, length: 47_000 }] } },
    found: asFound('stops', /has changed since it was placed/),
  },
  {
    check: 'rates',
    what: 'no picture',
    facts: { picture: null },
    found: asFound('stops', /Cut 1 is not there/),
  },
  {
    ...{ check: 'rates', what: 'another rate', facts: { picture: { ...picture, rate: '25' } } },
    found: asFound('stops', /reel runs at 24.* picture at 25/),
  },
  {
    ...{ check: 'rates', what: 'a shorter picture', facts: { picture: { ...picture, frames: 14_000 } } },
    found: asFound('stops', /picture ends at 01:09:51:08 and the reel at 01:10:00:00/),
  },
  {
    ...{
      check: 'bounds',
      what: 'a sound past the end',
      doc: after(fine, moveClips(fine, { ids: ['a'], by: 27_999_000 })),
    },
    found: asFound('stops', /Lever reaches past the end of the picture/),
  },
  {
    ...{
      check: 'bounds',
      what: 'a sound in the leader',
      doc: after(fine, moveClips(fine, { ids: ['a'], by: -600_000 })),
    },
    found: asFound('stops', /Lever begins before the programme/),
  },
  {
    ...{
      check: 'bounds',
      what: 'a cue past the end',
      doc: after(fine, editCue(fine, { id: 'q', fields: { out: 14_401 } })),
    },
    found: asFound('stops', /Cue FX 001 reaches past the end/, [400, 14_401]),
  },
  {
    ...{
      check: 'silence',
      what: 'a solo',
      doc: after(fine, editTrack(fine, { id: 't-a', fields: { solo: true } })),
    },
    found: asFound('stops', /is soloed/),
  },
  {
    ...{
      check: 'silence',
      what: 'a mute',
      doc: after(fine, editTrack(fine, { id: 't-a', fields: { mute: true } })),
    },
    found: asFound('mind', /has sounds and is muted/),
  },
  {
    ...{ check: 'empty', what: 'an empty cue', doc: after(fine, deleteRecords(fine, { ids: ['a'] })) },
    found: asFound('mind', /FX 001 Lever thrown: nothing is placed/, [400, 412]),
  },
  {
    ...{
      check: 'part',
      what: 'a longer cue',
      doc: after(fine, editCue(fine, { id: 'q', fields: { out: 500 } })),
    },
    found: asFound('mind', /covered only in part/),
  },
  {
    ...{
      check: 'unready',
      what: 'a cue in work',
      doc: after(fine, editCue(fine, { id: 'q', fields: { state: 'work' } })),
    },
    found: asFound('mind', /still in work/),
  },
  { check: 'loose', what: 'no cue', doc: set({ cueId: null }), found: asFound('mind', /belongs to no cue/) },
  {
    ...{
      check: 'short',
      what: 'it ends early',
      doc: after(fine, trimClip(fine, { id: 'a', end: 'tail', to: 410 * 2000 })),
    },
    found: asFound('mind', /ends before its cue FX 001/),
  },
  {
    ...{
      check: 'sync',
      what: 'late by one frame',
      doc: after(fine, moveClips(fine, { ids: ['a'], by: 2000 })),
    },
    found: asFound('mind', /meets its cue FX 001 1.0 frames late/),
  },
  {
    ...{ check: 'attacks', what: 'a fade past the sync', doc: set({ fadeIn: samples(12_001) }) },
    found: asFound('mind', /fade in of Lever reaches past its sync point/),
  },
  {
    ...{
      check: 'attacks',
      what: 'a cut into it',
      doc: after(fine, trimClip(fine, { id: 'a', end: 'head', to: clip.start + 11_900 })),
    },
    found: asFound('mind', /begins inside its attack/),
  },
  {
    ...{ check: 'clicks', what: 'a hard end', doc: set({ fadeOut: samples(0) }) },
    ...{ facts: { edges: [{ clipId: 'a', first: -80, last: -39 }] } },
    found: asFound('mind', /cut hard inside something loud at its end/),
  },
  {
    ...{ check: 'licences', what: 'none', facts: { sounds: [{ ...lever, licence: ' ' }] } },
    found: asFound('mind', /no licence is known/, [394, 418]),
  },
  {
    ...{
      check: 'licences',
      what: 'no selling',
      facts: { sounds: [{ ...lever, licence: 'CC BY-NC-ND 4.0' }] },
    },
    found: asFound('mind', /forbids selling and changing/),
  },
  {
    check: 'questions',
    what: 'an open one',
    doc: after(
      fine,
      addNote(fine, {
        id: 'n',
        cueId: 'q',
        frame: 0,
        words: 'Wood?',
        author: 'Ines',
        at: '',
        question: true,
      }),
    ),
    found: asFound('mind', /^Ines asks: Wood\?$/, [400, 401]),
  },
  {
    ...{ check: 'temporary', what: 'a scratch track' },
    doc: after(fine, editTrack(fine, { id: 't-a', fields: { name: 'Scratch lines' } })),
    found: asFound('mind', /Lever on Scratch lines looks temporary/),
  },
  {
    ...{ check: 'repeats', what: 'twice', doc: placed(fine, 'b', 460, { cueId: 'q' }) },
    found: asFound('tells', /heard twice within ten seconds/),
  },
  {
    ...{ check: 'leader', what: 'no 2-pop', doc: after(fine, deleteRecords(fine, { ids: ['pop'] })) },
    found: asFound('tells', /no 2-pop in the leader/),
  },
  {
    ...{ check: 'handles', what: 'short handles' },
    doc: after(fine, trimClip(fine, { id: 'a', end: 'head', to: clip.start + 100 })),
    facts: { recipe: { ...NO_AIMS, handles: 2 } },
    found: asFound('tells', /less than 2 s before it/),
  },
  {
    ...{ check: 'peaks', what: 'an over' },
    facts: {
      recipe: { ...NO_AIMS, truePeak: -2 },
      mix: {
        seq: 1,
        loudness: -27,
        truePeak: -0.4,
        overs: [{ from: 816_000, to: 818_000, what: 'The mix', peak: -0.4 }],
      },
    },
    found: asFound('stops', /The mix reaches -0.4 dBTP, and -2 is asked for/, [408, 409]),
  },
  {
    ...{ check: 'loudness', what: 'too loud' },
    facts: {
      recipe: { ...NO_AIMS, loudness: { target: -27, tolerance: 2 } },
      mix: { seq: 1, loudness: -24.5, truePeak: -3, overs: [] },
    },
    found: asFound('mind', /2.5 LU louder than -27 LUFS/),
  },
]

describe('a fault', () => {
  it.each(FAULTS)(
    'is found ($check: $what), at its place, and goes when it is mended',
    ({ check, doc, facts, found }) => {
      const findings = ofCheck(doc ?? fine, check, { ...whole, ...facts })
      expect(findings.length).toBeGreaterThan(0)
      expect(findings).toContainEqual(expect.objectContaining(found))
      expect(ofCheck(fine, check)).toEqual([])
    },
  )

  it('is not said to be absent where it was not looked for', () => {
    expect(checksMade(whole).left).toEqual(['peaks', 'loudness', 'handles'])
    const mix = { seq: 1, loudness: -27, truePeak: -3, overs: [] }
    const recipe = { twoPop: false, truePeak: -2, loudness: { target: -27, tolerance: 1 }, handles: 1 }
    expect(checksMade({ ...whole, mix, recipe }).left).toEqual([])
    expect(checksMade({ ...whole, recipe }).left).toEqual(['peaks', 'loudness'])
  })

  it('is looked for by every check', () => {
    expect(new Set(FAULTS.map(({ check }) => check))).toEqual(new Set(CHECKS.map(([id]) => id)))
  })
})

describe('what is no fault', () => {
  it('a question that was closed, treatment that works, a cue that is omitted', () => {
    let doc = after(
      fine,
      addNote(fine, { id: 'n', cueId: 'q', frame: 0, words: 'Wood?', author: 'I', at: '', question: true }),
    )
    doc = after(doc, closeNote(doc, { id: 'n', closed: true }))
    doc = after(doc, addInsert(doc, { id: 'i', on: 't-a', effect: 'limiter' }))
    doc = after(doc, spotCue(doc, { id: 'o', category: 'FX', in: 900, out: 950 }))
    doc = after(doc, editCue(doc, { id: 'o', fields: { state: 'omitted', omitReason: 'cut' } }))
    expect(findingsOf(doc, whole)).toEqual([])
    const passed = after(doc, editInsert(doc, { id: 'i', fields: { bypass: true } }))
    expect(ofCheck(passed, 'silence')).toMatchObject([
      { text: expect.stringMatching(/^Limiter on .* is passed by$/) as string },
    ])
  })
  it('a hard cut where the same recording goes on', () => {
    const edges = [
      { clipId: 'a', first: -10, last: -10 },
      { clipId: 'b', first: -10, last: -10 },
    ]
    const half = { length: samples(24_000), fadeIn: samples(0), fadeOut: samples(0) }
    const rest = { ...clip, ...half, id: 'b', start: samples(clip.start + 24_000), offset: samples(24_000) }
    const split = withRecord(withRecord(fine, { ...clip, ...half }), rest)
    expect(
      ofCheck(split, 'clicks', { ...whole, edges }).map(({ text, about }) => [
        about[0],
        text.split(' ').at(-1),
      ]),
    ).toEqual([
      ['a', 'beginning'],
      ['b', 'end'],
    ])
  })
})

describe('findings', () => {
  it('come worst first, then check by check in the order of time', () => {
    const doc = after(fine, editTrack(fine, { id: 't-a', fields: { solo: true } }))
    const facts = { ...whole, sounds: [{ ...lever, licence: '' }, tone] }
    const weights = findingsOf(placed(doc, 'b', 460), facts).map(({ weight, check }) => `${weight} ${check}`)
    expect(weights).toEqual(['stops silence', 'mind loose', 'mind licences', 'tells repeats'])
  })

  it('that were accepted with a reason stay so until what they speak of changes', () => {
    const empty = after(fine, deleteRecords(fine, { ids: ['a'] }))
    const finding = ofCheck(empty, 'empty')[0]!
    const accept = { id: 'x', finding, reason: 'The music covers it', by: 'Ines', at: '2026-11-26T10:00:00Z' }
    const doc = after(empty, acceptFinding(empty, accept))
    expect(acceptancesOf(doc, findingsOf(doc, whole)).get(ofCheck(doc, 'empty')[0]!)).toBeUndefined()
    const now = findingsOf(doc, whole)
    const accepted = (of: ReelDocument): string[] =>
      [...acceptancesOf(of, findingsOf(of, whole)).values()].map(({ reason }) => reason)
    expect(acceptancesOf(doc, now).get(now.find(({ check }) => check === 'empty')!)).toMatchObject({
      by: 'Ines',
    })
    expect(accepted(doc)).toEqual(['The music covers it'])
    // As a database gives records back: the same fields in another order.
    const turned = recordsOf(doc).map((record) => Object.fromEntries(Object.entries(record).reverse()))
    expect(accepted(documentOf(turned as ReelRecord[]))).toEqual(['The music covers it'])
    const changed = after(doc, editCue(doc, { id: 'q', fields: { out: 420 } }))
    expect(accepted(changed)).toEqual([])
    const again = { ...accept, finding: ofCheck(changed, 'empty')[0]!, reason: 'Still covered' }
    const twice = after(changed, acceptFinding(changed, again))
    expect([accepted(twice), twice.acceptance.size]).toEqual([['Still covered'], 1])
    expect(accepted(after(twice, deleteRecords(twice, { ids: ['x'] })))).toEqual([])
    expect(acceptFinding(doc, { ...accept, reason: '  ' })).toMatchObject({
      ok: false,
      code: 'CORE_NO_WORDS',
    })
    expect(expectOk(acceptFinding(empty, accept)).label).toBe('Accept: Cues with nothing placed')
  })
})

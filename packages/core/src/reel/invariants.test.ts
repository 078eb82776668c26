import { describe, expect, it } from 'vitest'
import { deleteRecords } from '../edits/deleteRecords.js'
import { addCut } from '../edits/editCuts.js'
import { addInsert } from '../edits/editInserts.js'
import { addNote, replyToNote } from '../edits/editNotes.js'
import { drawRide } from '../edits/rides.js'
import { shapeClips } from '../edits/shapeClips.js'
import { shortlistSound } from '../edits/shortlist.js'
import { spotCue } from '../edits/spotCue.js'
import { expectOk, type CoreErrorCode } from '../errors.js'
import { after, placed, SOUND } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { samples } from '../time/units.js'
import { apply, type Change } from './change.js'
import { clipsByTrack, clipsOnTrack, reelOf, type ReelDocument } from './document.js'
import { checkChange, checkClip, checkCue, mayMeet } from './invariants.js'
import type { Clip, ReelRecord } from './records.js'

let made = 0
const newId = (): string => `new${made++}`
const NO_PART = { in: null, out: null, sync: null }

/** A sound on a track that is ridden and treated; a cue with a note that was answered, and a shortlist. */
const reel = ((): ReelDocument => {
  let doc = placed(testReel(), 'a', 100)
  doc = after(
    doc,
    drawRide(doc, {
      trackId: 't-a',
      what: 'level',
      moments: [
        [0, 0],
        [9, 3],
      ],
      newId,
    }),
  )
  doc = after(doc, addInsert(doc, { id: 'i', on: 't-a', effect: 'limiter' }))
  doc = after(doc, spotCue(doc, { id: 'q', category: 'FX', in: 100, out: 150 }))
  doc = after(doc, addNote(doc, { id: 'n', cueId: 'q', frame: 100, words: 'Loud?', author: 'I', at: '' }))
  doc = after(doc, replyToNote(doc, { id: 'r1', to: 'n', words: 'Yes.', author: 'J', at: '' }))
  return after(doc, shortlistSound(doc, { id: 'l', cueId: 'q', sound: SOUND, part: NO_PART }))
})()

const clip = reel.clip.get('a') as Clip
const cue = reel.cue.get('q')!
const note = reel.note.get('n')!
const point = [...reel.ride.values()][0]!

const adding = (...added: readonly ReelRecord[]): Change => ({
  label: 'Try',
  added,
  updated: [],
  removed: [],
})
const removing = (...removed: readonly ReelRecord[]): Change => ({
  label: 'Try',
  added: [],
  updated: [],
  removed,
})
const changing = (from: ReelRecord, to: object): Change => ({
  label: 'Try',
  added: [],
  updated: [[from, { ...from, ...to } as ReelRecord]],
  removed: [],
})

const candidate = reel.candidate.get('l')!
/** A cue that a sound hangs on, one that has but a note, and a reel that shows a picture. */
const heard = after(
  after(reel, spotCue(reel, { id: 'h', category: 'FX', in: 9, out: 10 })),
  shapeClips(reel, { ids: ['a'], fields: { cueId: 'h' } }),
)
const noted = after(reel, deleteRecords(reel, { ids: ['l'] }))
const shown = after(reel, addCut(reel, { id: 'c', pictureId: 'p', name: 'Cut 1', length: 10 }))
const twice = { ...changing(cue, { words: 'One' }), removed: [{ ...cue, words: 'One' }] }

type Broken = readonly [rule: string, change: Change, code: CoreErrorCode, on?: ReelDocument]
const broken: readonly Broken[] = [
  ['a cue ends after it begins', changing(cue, { out: cue.in }), 'CORE_BAD_SPAN'],
  ['a number is given out once', adding({ ...cue, id: 'q2' }), 'CORE_NUMBER_TAKEN'],
  ['nothing lies before the reel', changing(clip, { start: -1 }), 'CORE_BEFORE_REEL'],
  ['a sound has a length', changing(clip, { length: 0 }), 'CORE_BAD_SPAN'],
  ['a sound stays within its recording', changing(clip, { length: 60_000 }), 'CORE_OUTSIDE_RECORDING'],
  ['a sound does not begin before its recording', changing(clip, { offset: -1 }), 'CORE_OUTSIDE_RECORDING'],
  ['a sound lies on a track', changing(clip, { trackId: 'x' }), 'CORE_NO_TRACK'],
  ['sounds don’t lie over each other', adding({ ...clip, id: 'b' }), 'CORE_OVERLAP'],
  ['a ride belongs to a track', changing(point, { trackId: 'x' }), 'CORE_NO_TRACK'],
  ['a place lies between left and right', changing(point, { what: 'pan', value: 2 }), 'CORE_BAD_RECORD'],
  ['treatment belongs to a place', changing(reel.insert.get('i')!, { on: 'x' }), 'CORE_NO_TRACK'],
  ['a note on a cue needs the cue', changing(note, { cueId: 'x' }), 'CORE_RECORD_MISSING'],
  ['an answer needs its note', changing(reel.note.get('r1')!, { replyTo: 'x' }), 'CORE_RECORD_MISSING'],
  ['an answer is not answered', changing(note, { replyTo: 'r1' }), 'CORE_RECORD_MISSING'],
  ['a shortlist belongs to a cue', changing(reel.candidate.get('l')!, { cueId: 'x' }), 'CORE_RECORD_MISSING'],
  ['a cue with a shortlist stays', removing(cue), 'CORE_RECORD_MISSING'],
  ['a note that was answered stays', removing(note), 'CORE_RECORD_MISSING'],
  ['a track with a ride, treatment or sounds stays', removing(reel.track.get('t-a')!), 'CORE_NO_TRACK'],
  ['the reel stays', removing(reelOf(reel)), 'CORE_REEL_GONE'],
  ['fades are no longer than their sound', changing(clip, { fadeIn: clip.length + 1 }), 'CORE_BAD_SPAN'],
  ['a sound of a cue needs the cue', changing(clip, { cueId: 'x' }), 'CORE_RECORD_MISSING'],
  ['a cue that sounds hang on stays', removing(heard.cue.get('h')!), 'CORE_RECORD_MISSING', heard],
  ['a cue with a note stays', removing(noted.cue.get('q')!), 'CORE_RECORD_MISSING', noted],
  ['a part of a sound has a length', changing(candidate, { in: 5, out: 5 }), 'CORE_BAD_SPAN'],
  ['a reel is one reel', adding({ ...reelOf(reel), id: 'other' }), 'CORE_BAD_RECORD'],
  ['what is laid holds the rate', changing(reelOf(reel), { rate: '25' }), 'CORE_REEL_IN_USE'],
  ['the picture has a place', changing(reelOf(reel), { pictureId: 'x' }), 'CORE_RECORD_MISSING'],
  ['the shown picture keeps its place', removing(shown.cut.get('c')!), 'CORE_RECORD_MISSING', shown],
  ['an id is of one kind', adding({ ...cue, id: 'a', number: 9 }), 'CORE_BAD_RECORD'],
  ['a record keeps its kind', changing(clip, { ...cue, id: clip.id, number: 9 }), 'CORE_BAD_RECORD'],
  ['a record keeps its id', changing(cue, { id: 'other', number: 9 }), 'CORE_BAD_RECORD'],
  ['a record stands in a change once', twice, 'CORE_BAD_RECORD'],
]

describe('the rules of a reel', () => {
  it.each(broken.map((each) => ({ each, rule: each[0] })))(
    '$rule',
    ({ each: [, change, code, on = reel] }) => {
      // A change that contradicts itself can't be applied in every order; its form is looked at all the same.
      const applied = apply(on, change)
      const next = applied.ok ? applied.value : on
      expect(checkChange(next, change)).toMatchObject({ ok: false, code })
    },
  )

  it('are kept by taking out a track with all that hangs on it', () => {
    const all = [reel.track.get('t-a')!, clip, reel.insert.get('i')!, ...reel.ride.values()]
    const change = removing(...all)
    expect(checkChange(expectOk(apply(reel, change)), change).ok).toBe(true)
  })

  it('look at a cue and a sound by themselves', () => {
    expect(checkCue(cue)).toBeNull()
    expect(checkClip(clip)).toBeNull()
    expect(checkClip({ ...clip, start: samples(-1) })?.code).toBe('CORE_BEFORE_REEL')
  })
})

describe('two sounds on one track', () => {
  const at = (start: number, fields: Partial<Clip> = {}): Clip => ({
    ...clip,
    start: samples(start),
    ...fields,
  })
  const fades = { fadeIn: samples(1000), fadeOut: samples(1000) }

  it('may touch', () => {
    expect(mayMeet(at(0), at(48_000))).toBe(true)
  })
  it('may overlap for as long as both fade, in either order', () => {
    const [first, second] = [at(0, fades), at(47_000, fades)]
    expect([mayMeet(first, second), mayMeet(second, first)]).toEqual([true, true])
    expect(mayMeet(first, at(46_999, fades))).toBe(false)
  })
  it('may not swallow one another', () => {
    const long = at(0, fades)
    const inside = at(47_500, { ...fades, length: samples(400) })
    expect(mayMeet(long, inside)).toBe(false)
  })
})

describe('the sounds of each track', () => {
  it('are carried on from edit to edit as they would be gathered anew', () => {
    let doc = reel
    let seed = 3
    const roll = (most: number): number => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % most
    for (let step = 0; step < 200; step++) {
      clipsByTrack(doc)
      const ids = [...doc.clip.keys()]
      const id = ids[roll(ids.length)] ?? ''
      const from = doc.clip.get(id)
      const to = { ...(from ?? clip), start: samples(roll(5_000_000)), trackId: `t${roll(4)}` }
      const change = from && roll(3) > 0 ? changing(from, to) : adding({ ...to, id: `s${step}` })
      doc = expectOk(apply(doc, roll(8) === 0 && from ? removing(from) : change))
      for (const trackId of ['t-a', 't0', 't1', 't2', 't3']) {
        const anew = [...doc.clip.values()].filter((one) => one.trackId === trackId)
        expect(clipsOnTrack(doc, trackId)).toEqual(anew.sort((a, b) => a.start - b.start))
      }
    }
  })
})

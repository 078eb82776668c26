import { describe, expect, it } from 'vitest'
import { Mixer } from '../audio/mixer.js'
import { planReel } from '../audio/plan.js'
import { insertsOfPlan, type RenderPlan } from '../audio/renderPlan.js'
import { duplicateClips } from '../edits/copyClips.js'
import { splitClips } from '../edits/cutClips.js'
import { addInsert } from '../edits/editInserts.js'
import { swapClips } from '../edits/swapClips.js'
import { addClipPiece, treatClips } from '../edits/treatClips.js'
import type { ReelDocument } from '../reel/document.js'
import { clipSchema } from '../reel/records.js'
import type { SoundPort } from '../signal/soundPort.js'
import { after, placed, SOUND } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import {
  isTreatment,
  MOST_PIECES,
  piecesOf,
  treatmentIn,
  treatmentWords,
  type ClipPiece,
} from './clipTreatment.js'

const LENGTH = 5 * 48_000
const noise = Float32Array.from({ length: 48_000 }, (_, i) => (((i * 7919 + 13) % 997) / 997 - 0.5) * 0.4)
const port: SoundPort = (_, at) => (at < noise.length ? { from: 0, channels: [noise] } : null)
function render(plan: RenderPlan, piece = 1024): Float32Array {
  const mixer = new Mixer(plan, port)
  const [left, right] = [new Float32Array(LENGTH), new Float32Array(LENGTH)]
  for (let at = 0; at < LENGTH; at += piece) mixer.render(left, right, at, Math.min(piece, LENGTH - at))
  return left
}
const furthest = (a: Float32Array, b: Float32Array): number =>
  a.reduce((most, value, at) => Math.max(most, Math.abs(value - b[at]!)), 0)

/** One sound on a track of its own, and two more of which the second follows the first. */
const reel = placed(placed(placed(testReel(), 'a', 12), 'b', 12, { newTrackId: 'two' }), 'c', 48)
const withPiece = (doc: ReelDocument, id: string, effect: ClipPiece['effect']): ReelDocument =>
  after(doc, addClipPiece(doc, { id, effect }))
const alone = placed(testReel(), 'a', 12)

describe('a sound’s own treatment', () => {
  it.each(['equaliser', 'compressor', 'reverb', 'delay', 'place'] as const)(
    'does what the same %s does on a track that holds nothing else, and is heard to its end',
    (effect) => {
      const own = withPiece(alone, 'a', effect)
      const onTrack = after(alone, addInsert(alone, { id: 'i', on: 't-a', effect }))
      const sounds = render(planReel(own))
      expect(furthest(sounds, render(planReel(onTrack)))).toBeLessThan(1e-7)
      for (const piece of [128, 777])
        expect(furthest(sounds, render(planReel(own), piece))).toBeLessThan(1e-6)
    },
  )
  it('leaves its neighbours alone, to the bit', () => {
    const own = after(
      reel,
      treatClips(reel, {
        ids: ['a'],
        pieces: piecesOf(treatmentIn(withPiece(alone, 'a', 'reverb').clip.get('a')!)),
      }),
    )
    const [before, now] = [reel, own].map((doc) => {
      const plan = planReel(doc)
      const { trackId } = doc.clip.get('b')!
      return render({ ...plan, strips: plan.strips.filter(({ key }) => key === trackId) })
    })
    expect(now).toEqual(before)
  })
  it('costs a plan nothing where there is none or all of it is passed by, and names its rooms', () => {
    const voice = (doc: ReelDocument) => planReel(doc).strips[0]?.voices[0]
    expect(Object.keys(voice(alone)!)).not.toContain('inserts')
    const own = withPiece(alone, 'a', 'reverb')
    expect(insertsOfPlan(planReel(own)).map(({ effect }) => effect)).toEqual(['reverb'])
    const pieces = piecesOf(treatmentIn(own.clip.get('a')!)).map((piece) => ({ ...piece, bypass: true }))
    const passed = after(own, treatClips(own, { ids: ['a'], pieces }))
    expect(Object.keys(voice(passed)!)).not.toContain('inserts')
    expect(render(planReel(passed))).toEqual(render(planReel(alone)))
    expect(treatmentWords(passed.clip.get('a')!)).toBe('Room (off)')
  })
  it('goes on sounding when it is set otherwise, and is forgotten on a jump elsewhere', () => {
    const [wet, wetter] = [-6, 0].map((level) => {
      const [piece] = piecesOf(treatmentIn(withPiece(alone, 'a', 'reverb').clip.get('a')!))
      const other = { ...piece, room: 'hall', wet: level } as ClipPiece
      return planReel(after(alone, treatClips(alone, { ids: ['a'], pieces: [other] })))
    })
    const mixer = new Mixer(wet!, port)
    const [left, right] = [new Float32Array(48_000), new Float32Array(48_000)]
    // The sound ends at 60,000: from there on only its room is heard.
    for (let at = 0; at < 72_000; at += 24_000) mixer.render(left, right, 0, 24_000)
    mixer.setPlan(wetter!)
    mixer.render(left, right, 0, 4800)
    expect(Math.max(...left.subarray(0, 4800).map(Math.abs))).toBeGreaterThan(1e-3)
    mixer.seek(90_000)
    mixer.render(left, right, 0, 4800)
    expect(Math.max(...left.subarray(0, 4800).map(Math.abs))).toBe(0)
  })
  it('is there on both halves of a split, on copies, and stays when the sound is swapped', () => {
    const own = withPiece(alone, 'a', 'place')
    const { treatment } = own.clip.get('a')!
    let count = 0
    const newId = (): string => `n${++count}`
    const all = (doc: ReelDocument): string[] => [...doc.clip.values()].map((clip) => clip.treatment)
    expect(all(after(own, splitClips(own, { ids: ['a'], at: 30_000, newId })))).toEqual([
      treatment,
      treatment,
    ])
    expect(all(after(own, duplicateClips(own, { ids: ['a'], newId })))).toEqual([treatment, treatment])
    const other = { ...SOUND, id: 'other', name: 'Other' }
    expect(all(after(own, swapClips(own, { swaps: [{ id: 'a', sound: other }] })))).toEqual([treatment])
    expect(treatmentWords({ treatment })).toBe('Telephone 100 %')
  })
  it('of before places had sizes is read with the size that they had', () => {
    const before = '[{"effect":"place","bypass":false,"place":"door","amount":1,"distance":2,"broken":0.5}]'
    expect(treatmentIn({ treatment: before })).toMatchObject([{ place: 'door', size: 1 }])
  })
  it('is refused where a setting lies out of range, where it looks ahead, or where there are too many', () => {
    const [piece] = piecesOf(treatmentIn(withPiece(alone, 'a', 'place').clip.get('a')!))
    const far = { ...piece, amount: 2 } as ClipPiece
    expect(treatClips(alone, { ids: ['a'], pieces: [far] })).toMatchObject({
      ok: false,
      code: 'CORE_BAD_RECORD',
    })
    const many = Array<ClipPiece>(MOST_PIECES + 1).fill(piece!)
    expect(treatClips(alone, { ids: ['a'], pieces: many })).toMatchObject({ ok: false })
    expect(treatClips(alone, { ids: ['gone'], pieces: [] })).toMatchObject({ code: 'CORE_RECORD_MISSING' })
    const limiter = JSON.stringify([{ effect: 'limiter', bypass: false, ceiling: -1, release: 80 }])
    for (const text of [limiter, '{', '[1]', 'null']) {
      expect(isTreatment(text), text).toBe(false)
      expect(clipSchema.safeParse({ ...alone.clip.get('a'), treatment: text }).success).toBe(false)
    }
  })
})

import { describe, expect, it } from 'vitest'
import { spotCue } from '../edits/spotCue.js'
import { addTake, keepTakeOf, laidTake, layTakeAtGate, nextTake, takesOf } from '../edits/recordedTakes.js'
import { rankCandidate, shortlistSound } from '../edits/shortlist.js'
import { apply, invert } from '../reel/change.js'
import { shortlistOf, syncPlace, type ReelDocument } from '../reel/document.js'
import { after } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { expectOk } from '../errors.js'
import { SAMPLE_RATE } from '../time/units.js'
import { layScratch, scratchOf } from '../voices/layScratch.js'
import { InputLevel } from './overs.js'
import { measureRoundTrip, TEST_LENGTH, testSound } from './roundTrip.js'
import { standInMoments, standInRoom, standInSound } from './standIn.js'
import { countedIn, partOfTake, placeOfTake, planTake } from './takePlan.js'

const S = SAMPLE_RATE

describe('when a take rolls', () => {
  it('is three seconds before the in with a beep at each, until a second after the out', () => {
    expect(planTake({ in: 10 * S, out: 12 * S, reelEnd: 60 * S, countIn: true })).toEqual({
      ...{ roll: 7 * S, in: 10 * S, out: 12 * S, end: 13 * S },
      beeps: [7 * S, 8 * S, 9 * S],
    })
    const quiet = planTake({ in: 10 * S, out: 12 * S, reelEnd: 12.5 * S, countIn: false })
    expect(quiet).toMatchObject({ roll: 9 * S, end: 12.5 * S, beeps: [] })
  })

  it('is the beginning of the reel where there is no room, with the beeps that fit', () => {
    const plan = planTake({ in: 1.5 * S, out: 1.5 * S + 2000, reelEnd: 60 * S, countIn: true })
    expect(plan).toMatchObject({ roll: 0, beeps: [0.5 * S] })
    expect([countedIn(plan, 0), countedIn(plan, 1.5 * S)]).toEqual([0.5, null])
  })
})

describe('where a take lies', () => {
  it('is where the reel was when what is heard was played: a round trip before it came in', () => {
    const rolling = { frame: 1000, at: 7 * S }
    expect(placeOfTake({ first: 1000 + 2400, rolling, roundTrip: 2400 })).toBe(7 * S)
    expect(placeOfTake({ first: 1128, rolling: { frame: 1000, at: 0 }, roundTrip: 2400 })).toBe(128 - 2400)
  })

  it('gives in, out and sync as samples of the file, held within it', () => {
    const wanted = { in: 100, out: 300, sync: 150 }
    expect(partOfTake({ start: 40, length: 500 }, wanted)).toEqual({ in: 60, out: 260, sync: 110 })
    // Stopped early, the out is its end; broken off before the in, it is all that there is.
    expect(partOfTake({ start: 40, length: 100 }, wanted)).toEqual({ in: 60, out: 100, sync: 99 })
    expect(partOfTake({ start: 40, length: 50 }, wanted)).toEqual({ in: 0, out: 50, sync: 49 })
  })
})

describe('the round trip', () => {
  /** What comes in of the test sound: late by a fraction of a sample (linear), softer, through a dull loudspeaker, with noise. */
  const heard = (delay: number, level: number, noise: number, dull = 0.5): Float32Array => {
    const played = testSound()
    const out = new Float32Array(TEST_LENGTH)
    let low = 0
    let seed = 1
    for (let i = 0; i < out.length; i++) {
      const at = i - delay
      const whole = Math.floor(at)
      const part = at - whole
      const value = (1 - part) * (played[whole] ?? 0) + part * (played[whole + 1] ?? 0)
      low += dull * (value - low)
      seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0
      out[i] = level * low + noise * (seed / 2 ** 31 - 1)
    }
    return out
  }

  it.each([0, 1, 480.5, 2400, 9000.25])('of %d samples is found to a sample', (delay) => {
    expect(Math.abs(measureRoundTrip(heard(delay, 0.2, 0, 1))! - delay)).toBeLessThan(0.5)
  })

  it('is found through a dull loudspeaker, noise and a turned wiring, within a tenth of a millisecond', () => {
    expect(Math.abs(measureRoundTrip(heard(2400, -0.05, 0.004))! - 2400)).toBeLessThan(4.8)
  })

  it('is not made up where nothing is heard but noise, or where it is longer than is looked for', () => {
    expect(measureRoundTrip(heard(2400, 0, 0.1))).toBeNull()
    expect(measureRoundTrip(new Float32Array(TEST_LENGTH))).toBeNull()
    expect(measureRoundTrip(heard(21_000, 0.2, 0.001))).toBeNull()
  })
})

describe('an input’s level', () => {
  it('has an over for three samples in a row at full scale, across blocks, and a peak since it was asked', () => {
    const level = new InputLevel()
    level.hear(Float32Array.of(0.5, 1, 1, 0.2, -1))
    expect([level.overs, level.peak(), level.peak()]).toEqual([0, 1, 0])
    level.hear(Float32Array.of(-1, 1, 1, 1, -0.25))
    expect([level.overs, level.peak()]).toEqual([1, 1])
    level.clear()
    expect(level.overs).toBe(0)
  })
})

describe('the stand-in', () => {
  it('acts at once, differently each time, the same for the same seed, and is never over', () => {
    for (const act of ['step', 'bag', 'click'] as const) {
      const sound = standInSound(act, 7)
      expect(Math.max(...sound.map(Math.abs))).toBeLessThan(1)
      expect(Math.max(...sound.slice(0, 240).map(Math.abs))).toBeGreaterThan(0.05)
      expect(standInSound(act, 7)).toEqual(sound)
    }
    expect(standInSound('step', 8)).not.toEqual(standInSound('step', 7))
    expect(standInRoom().every((value, at, all) => value !== 0 || all[at - 1] !== 0)).toBe(true)
  })

  it('acts at what happens within the take, a tenth of a second apart; else at the sync', () => {
    const span = { in: S, out: 3 * S, sync: 1.5 * S }
    expect(standInMoments([2 * S, 0.5 * S, 2 * S + 100, 3 * S, 1.2 * S], span)).toEqual([1.2 * S, 2 * S])
    expect(standInMoments([5 * S], span)).toEqual([1.5 * S])
  })
})

describe('takes of a cue', () => {
  const part = { in: 3 * S, out: 5 * S, sync: 3.5 * S }
  const soundOf = (take: number) => ({ id: `s${take}`, name: `take ${take}`, length: 8 * S })
  const withTakes = (count: number): ReelDocument => {
    let doc = testReel()
    doc = after(doc, spotCue(doc, { id: 'q', category: 'DX', in: 100, out: 160, words: 'MAN: Ten.' }))
    for (let take = 1; take <= count; take++)
      doc = after(doc, addTake(doc, { id: `k${take}`, cueId: 'q', take, sound: soundOf(take), part }))
    return doc
  }
  const cueOf = (doc: ReelDocument) => [...doc.cue.values()][0]!
  const keep = (doc: ReelDocument, take: number) =>
    keepTakeOf(doc, { id: `k${take}`, sound: soundOf(take), newId: `c${take}`, newTrackId: `t${take}` })

  it('stand on its shortlist by number; the next one is counted on', () => {
    const doc = withTakes(3)
    expect(takesOf(doc, cueOf(doc).id).map(({ take }) => take)).toEqual([1, 2, 3])
    expect([nextTake(doc, cueOf(doc).id), nextTake(doc, 'other')]).toEqual([4, 1])
  })

  it('the best is laid where it was performed, and goes first; another takes its place with its level; undone in a step', () => {
    const doc = withTakes(3)
    const cue = cueOf(doc)
    const kept = after(doc, keep(doc, 2))
    const laid = laidTake(kept, cue.id)!
    expect([laid.soundId, laid.offset, laid.length, laid.cueId]).toEqual(['s2', 3 * S, 2 * S, cue.id])
    expect(syncPlace(laid)).toBe(cue.sync * 2000)
    expect(shortlistOf(kept, cue.id)[0]?.take).toBe(2)
    const softer = { ...kept, clip: new Map(kept.clip).set(laid.id, { ...laid, gain: -6 }) }
    const change = expectOk(keep(softer, 3))
    const swapped = expectOk(apply(softer, change))
    expect(laidTake(swapped, cue.id)).toMatchObject({ id: laid.id, soundId: 's3', gain: -6 })
    expect(expectOk(apply(swapped, invert(change)))).toEqual(softer)
    // Kept again, nothing changes.
    expect(expectOk(keep(kept, 2)).updated).toEqual([])
  })

  it('ends what a machine said for the actor', () => {
    let doc = withTakes(1)
    const cue = cueOf(doc)
    const line = { text: 'Ten.', voice: 'flite rms', pace: 'cue', pitch: 0 } as const
    const sound = { id: 'said', name: 'Scratch', recorded: S, sync: 0 }
    const made = { cueId: cue.id, line, said: 'Ten.', sound, id: 'scratch', newTrackId: 'ts' }
    doc = after(doc, layScratch(doc, { lines: [made] }))
    doc = after(doc, keep(doc, 1))
    expect([scratchOf(doc, cue.id), laidTake(doc, cue.id)?.soundId]).toEqual([null, 's1'])
  })

  it('are ranked among themselves: a sound that was found does not stand between', () => {
    let doc = withTakes(2)
    const cueId = cueOf(doc).id
    const found = {
      id: 'f',
      cueId,
      sound: { id: 'door', name: 'Door' },
      part: { in: null, out: null, sync: null },
    }
    doc = after(doc, shortlistSound(doc, found))
    doc = after(doc, addTake(doc, { id: 'k3', cueId, take: 3, sound: soundOf(3), part }))
    doc = after(doc, rankCandidate(doc, { id: 'k3', by: -1 }))
    const takes = shortlistOf(doc, cueId).filter(({ take }) => take > 0)
    expect(takes.map(({ take }) => take)).toEqual([1, 3, 2])
  })

  it('at the gate is laid on its own, on a track that is free', () => {
    const doc = testReel()
    const args = { id: 'g', newTrackId: 'tg', at: 20 * S, sound: soundOf(1), part }
    const laid = after(doc, layTakeAtGate(doc, args)).clip.get('g')!
    expect([laid.cueId, syncPlace(laid), laid.length]).toEqual([null, 20 * S, 2 * S])
    const missing = keepTakeOf(doc, { id: 'no', sound: soundOf(1), newId: 'c', newTrackId: 't' })
    expect(missing).toMatchObject({ ok: false, code: 'CORE_RECORD_MISSING' })
  })
})

import { describe, expect, it } from 'vitest'
import { expectOk, type Result } from '../errors.js'
import { apply, type Change } from '../reel/change.js'
import { clipsAfter, clipsLike, withGroups } from '../reel/choose.js'
import { clipsOnTrack, syncPlace, tracksInOrder, type ReelDocument } from '../reel/document.js'
import { checkChange } from '../reel/invariants.js'
import { magnetsOf, nearestMagnet } from '../reel/magnets.js'
import { nearUses } from '../sounds/nearUses.js'
import { testReel } from '../test/testReel.js'
import { bendClips } from './bendClips.js'
import { copyClips, duplicateClips, pasteClips, repeatClip } from './copyClips.js'
import { crossfadeClips } from './crossfade.js'
import { rollBoundary, slipClip, splitClips } from './cutClips.js'
import { editCues } from './editRecords.js'
import { moveTrack, removeEmptyTracks } from './editTracks.js'
import { layEvents } from './layEvents.js'
import { deleteRecords } from './deleteRecords.js'
import { moveAcross, moveClips } from './moveClips.js'
import { placeSound } from './placeSound.js'
import { shapeClips } from './shapeClips.js'
import { groupClips } from './stacks.js'
import { spotCue } from './spotCue.js'
import { swapClips } from './swapClips.js'

const FRAME = 2000
const sound = { id: 's', name: 'Lever', recorded: 48_000, sync: 12_000 }
let made = 0
const newId = (): string => `n${made++}`
const run = (doc: ReelDocument, change: Result<Change>): ReelDocument => {
  const value = expectOk(change)
  const after = expectOk(apply(doc, value))
  expectOk(checkChange(after, value))
  return after
}
/** Sounds of a second with the attack after a quarter, each with its attack on a frame. */
const reelWith = (...frames: number[]): ReelDocument =>
  frames.reduce(
    (doc, frame, index) =>
      run(
        doc,
        placeSound(doc, {
          id: `c${index}`,
          newTrackId: `t${index}`,
          category: 'FX',
          cueId: null,
          frame,
          sound,
        }),
      ),
    testReel(),
  )
const clip = (doc: ReelDocument, id: string) => doc.clip.get(id)!

describe('cutting', () => {
  it('splits without a gap: the second part goes on where the first ends', () => {
    const doc = reelWith(100)
    const after = run(doc, splitClips(doc, { ids: ['c0'], at: 200_000, newId: () => 'b' }))
    expect(clip(after, 'c0')).toMatchObject({ start: 188_000, length: 12_000, offset: 0, fadeOut: 0 })
    expect(clip(after, 'b')).toMatchObject({
      start: 200_000,
      length: 36_000,
      offset: 12_000,
      fadeIn: 0,
      fadeOut: 480,
    })
    expect(splitClips(doc, { ids: ['c0'], at: 10, newId })).toMatchObject({ code: 'CORE_NOTHING_DONE' })
  })
  it('rolls the boundary of two that meet, as far as both recordings go', () => {
    const doc = reelWith(100)
    const two = run(doc, splitClips(doc, { ids: ['c0'], at: 200_000, newId: () => 'b' }))
    const after = run(two, rollBoundary(two, { firstId: 'c0', secondId: 'b', to: 210_000 }))
    expect([clip(after, 'c0').length, clip(after, 'b').start, clip(after, 'b').offset]).toEqual([
      22_000, 210_000, 22_000,
    ])
    expect(
      clip(run(two, rollBoundary(two, { firstId: 'c0', secondId: 'b', to: 9_999_999 })), 'b').length,
    ).toBe(48)
    expect(rollBoundary(reelWith(100, 200), { firstId: 'c0', secondId: 'c1', to: 0 })).toMatchObject({
      code: 'CORE_NOT_NEIGHBOURS',
    })
  })
  it('moves the sound inside its clip, no farther than the recording', () => {
    const doc = reelWith(100)
    const short = run(doc, splitClips(doc, { ids: ['c0'], at: 200_000, newId: () => 'b' }))
    expect(clip(run(short, slipClip(short, { id: 'b', by: 5000 })), 'b')).toMatchObject({
      start: 200_000,
      length: 36_000,
      offset: 7000,
    })
    expect(clip(run(short, slipClip(short, { id: 'b', by: -99_999 })), 'b').offset).toBe(12_000)
  })
  it('lays the events of a take on the frames of its cues, each attack on its frame', () => {
    const doc = testReel()
    const events = [0, 1, 2].map((n): [number, number, number] => [
      n * 10_000,
      n * 10_000 + 700,
      n * 10_000 + 9000,
    ])
    const places = [50, 63, 75].map((frame) => ({ frame, cueId: null }))
    const after = run(doc, layEvents(doc, { sound, events, places, category: 'FOL', newId }))
    expect([...after.clip.values()].map((one) => [syncPlace(one), one.offset, one.length])).toEqual([
      [50 * FRAME, 0, 9000],
      [63 * FRAME, 10_000, 9000],
      [75 * FRAME, 20_000, 9000],
    ])
    expect(
      layEvents(doc, { sound, events, places: [...places, ...places], category: 'FOL', newId }),
    ).toMatchObject({ code: 'CORE_NOTHING_DONE' })
  })
})

describe('crossfades', () => {
  const cut = (): ReelDocument => {
    const doc = reelWith(100)
    return run(doc, splitClips(doc, { ids: ['c0'], at: 210_000, newId: () => 'b' }))
  }
  it('draw both sounds over their boundary with equal power', () => {
    const doc = cut()
    const after = run(doc, crossfadeClips(doc, { ids: ['c0', 'b'], length: 4000 }))
    expect(clip(after, 'c0')).toMatchObject({
      start: 188_000,
      length: 24_000,
      fadeOut: 4000,
      fadeOutShape: 'power',
    })
    expect(clip(after, 'b')).toMatchObject({
      start: 208_000,
      offset: 20_000,
      fadeIn: 4000,
      fadeInShape: 'power',
    })
  })
  it('are refused where the recordings give nothing', () => {
    const doc = reelWith(100, 200)
    expect(crossfadeClips(doc, { ids: ['c0', 'c1'], length: 4000 })).toMatchObject({ code: 'CORE_NO_HANDLE' })
  })
  it('are made where one is moved over the end of another', () => {
    const doc = reelWith(100, 130)
    const by = -(60_000 - 48_000 + 3000)
    expect(moveClips(doc, { ids: ['c1'], by })).toMatchObject({ code: 'CORE_OVERLAP' })
    const after = run(doc, moveClips(doc, { ids: ['c1'], by, meet: true }))
    expect([clip(after, 'c0').fadeOut, clip(after, 'c1').fadeIn]).toEqual([3000, 3000])
    expect(expectOk(moveClips(doc, { ids: ['c1'], by, meet: true })).label).toBe('Move Lever')
    expect(moveClips(doc, { ids: ['c1'], by: -60_000, meet: true })).toMatchObject({ code: 'CORE_OVERLAP' })
  })
})

describe('copies', () => {
  it('are pasted with the first attack on the gate, at their distance, on free tracks, also into another reel', () => {
    const doc = reelWith(100, 150)
    const copied = copyClips(doc, ['c1', 'c0'])
    const same = run(doc, pasteClips(doc, { copied, at: 110 * FRAME, cueId: null, newId }))
    const fresh = [...same.clip.values()].filter((one) => !doc.clip.get(one.id))
    expect(fresh.map(syncPlace)).toEqual([110 * FRAME, 160 * FRAME])
    expect(new Set(fresh.map((one) => one.trackId))).not.toContain('t0')
    const other = testReel({ rate: '25' })
    expect(
      [...run(other, pasteClips(other, { copied, at: 19_200, cueId: null, newId })).clip.values()].map(
        syncPlace,
      ),
    ).toEqual([19_200, 119_200])
    expect(pasteClips(doc, { copied, at: 0, cueId: null, newId })).toMatchObject({ code: 'CORE_BEFORE_REEL' })
  })
  it('stand a whole number of frames behind the first', () => {
    const doc = reelWith(100)
    const after = run(doc, duplicateClips(doc, { ids: ['c0'], newId: () => 'b' }))
    expect(syncPlace(clip(after, 'b'))).toBe(124 * FRAME)
  })
  it('repeat an ambience to a place, every seam crossfaded at equal power', () => {
    const doc = reelWith(100)
    const after = run(doc, repeatClip(doc, { id: 'c0', until: 188_000 + 130_000, overlap: 6000, newId }))
    const chain = clipsOnTrack(after, 't0')
    expect(chain.map((one) => [one.start - 188_000, one.length, one.fadeIn, one.fadeOut])).toEqual([
      [0, 48_000, 96, 6000],
      [42_000, 48_000, 6000, 6000],
      [84_000, 46_000, 6000, 480],
    ])
    expect(new Set(chain.map((one) => one.group)).size).toBe(1)
  })
})

describe('how sounds are played', () => {
  it('keeps the attack on its frame at another speed, and the place when turned round', () => {
    const doc = reelWith(100)
    const fast = run(doc, bendClips(doc, { ids: ['c0'], fields: { speed: 2, keepPitch: true } }))
    expect(clip(fast, 'c0')).toMatchObject({ recorded: 24_000, length: 24_000, sync: 6000, start: 194_000 })
    const turned = run(doc, bendClips(doc, { ids: ['c0'], fields: { reverse: true } }))
    expect(clip(turned, 'c0')).toMatchObject({ start: 188_000, length: 48_000, offset: 0, sync: 35_999 })
  })
  it('swaps a sound for another: attack, level, fades and track stay, neighbours are not touched', () => {
    const doc = reelWith(100, 130)
    const shaped = run(doc, shapeClips(doc, { ids: ['c0'], fields: { gain: -7, fadeOut: 900 } }))
    const other = { id: 'x', name: 'Bolt', recorded: 480_000, sync: 4000 }
    const after = run(shaped, swapClips(shaped, { swaps: [{ id: 'c0', sound: other }] }))
    expect(clip(after, 'c0')).toMatchObject({
      soundId: 'x',
      gain: -7,
      fadeOut: 900,
      trackId: 't0',
      start: 196_000,
      offset: 0,
      length: clip(doc, 'c1').start - 196_000,
    })
    expect(syncPlace(clip(after, 'c0'))).toBe(100 * FRAME)
  })
  it('lowers several step by step in the order of time', () => {
    const doc = reelWith(100, 200, 300)
    const after = run(doc, shapeClips(doc, { ids: ['c2', 'c0', 'c1'], gainBy: -3, stepBy: -3 }))
    expect(['c0', 'c1', 'c2'].map((id) => clip(after, id).gain)).toEqual([-3, -6, -9])
  })
  it('leaves what is locked as it is, but for its mute', () => {
    const doc = reelWith(100)
    const locked = run(doc, shapeClips(doc, { ids: ['c0'], fields: { locked: true } }))
    const moved = expectOk(moveClips(locked, { ids: ['c0'], by: 2000 }))
    expect(checkChange(expectOk(apply(locked, moved)), moved)).toMatchObject({
      code: 'CORE_LOCKED',
      message: 'Lever: it is locked; unlock it first.',
    })
    expect(clip(run(locked, shapeClips(locked, { ids: ['c0'], fields: { mute: true } })), 'c0').mute).toBe(
      true,
    )
  })
})

describe('choosing', () => {
  it('takes what is alike, what comes after, and whole groups', () => {
    const doc = reelWith(300, 100, 200)
    expect(clipsLike(doc, clip(doc, 'c0'), 'category')).toEqual(['c1', 'c2', 'c0'])
    expect(clipsAfter(doc, 200 * FRAME)).toEqual(['c2', 'c0'])
    const grouped = run(doc, groupClips(doc, { ids: ['c0', 'c1'], group: 'g' }))
    expect(withGroups(grouped, ['c1']).sort()).toEqual(['c0', 'c1'])
  })
  it('is drawn to the nearest mark within reach, not to itself', () => {
    const doc = reelWith(100)
    const cued = run(doc, spotCue(doc, { id: 'q', category: 'FX', in: 98, out: 104 }))
    const later = run(cued, editCues(cued, { edits: [{ id: 'q', fields: { sync: 101 } }] }))
    const magnets = magnetsOf(later, { onsets: [90], cuts: [110] }, new Set(['c0']))
    expect(nearestMagnet(magnets, 101 * FRAME + 300, 1000)).toEqual({ at: 101 * FRAME, what: 'cue' })
    expect(nearestMagnet(magnets, 110 * FRAME - 900, 1000)).toMatchObject({ what: 'cut' })
    expect(nearestMagnet(magnets, 100 * FRAME, 900)).toBeNull()
  })
  it('moves to the tracks beside together, and stays where something lies there or no track is', () => {
    const doc = reelWith(100, 101, 102)
    const without = run(doc, deleteRecords(doc, { ids: ['c2'] }))
    const right = run(without, moveAcross(without, { ids: ['c0', 'c1'], by: 1 }))
    expect([clip(right, 'c0').trackId, clip(right, 'c1').trackId, clip(right, 'c0').start]).toEqual([
      't1',
      't2',
      clip(doc, 'c0').start,
    ])
    expect(moveAcross(doc, { ids: ['c1'], by: 1 })).toMatchObject({
      ok: false,
      message: expect.stringContaining('it would sound over Lever') as string,
    })
    expect(moveAcross(doc, { ids: ['c0', 'c1'], by: -1 })).toMatchObject({ ok: false, code: 'CORE_NO_TRACK' })
  })
  it('orders tracks by moving one before another, or last', () => {
    const doc = reelWith(100, 101, 102)
    const order = (now: ReelDocument): string[] => tracksInOrder(now).map((track) => track.id)
    const first = run(doc, moveTrack(doc, { id: 't2', before: 't0' }))
    expect([
      order(doc),
      order(first),
      order(run(first, moveTrack(first, { id: 't2', before: null }))),
    ]).toEqual([
      ['t0', 't1', 't2'],
      ['t2', 't0', 't1'],
      ['t0', 't1', 't2'],
    ])
  })
  it('knows which recordings sound near a frame, and where', () => {
    const doc = reelWith(100, 200, 3000)
    expect(nearUses(doc, 160, 60)).toEqual(new Map([['s', '01:00:08:08']]))
    expect(nearUses(doc, 8000, 60)).toEqual(new Map())
  })
  it('removes the tracks that are empty, and says when there are none', () => {
    const doc = reelWith(100)
    expect(removeEmptyTracks(doc)).toMatchObject({ ok: false })
    const moved = run(
      doc,
      placeSound(doc, { id: 'z', newTrackId: 'tz', category: 'BG', cueId: null, frame: 9, sound }),
    )
    const without = { ...moved, clip: new Map([...moved.clip].filter(([id]) => id !== 'z')) }
    expect([...run(without, removeEmptyTracks(without)).track.keys()]).toEqual(['t0'])
  })
})

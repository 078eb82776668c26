import { describe, expect, it } from 'vitest'
import { warped, warpOf } from '../audio/warp.js'
import { expectOk, type Result } from '../errors.js'
import { apply, type Change } from '../reel/change.js'
import { documentOf, recordsOf, syncPlace, type ReelDocument } from '../reel/document.js'
import { checkChange } from '../reel/invariants.js'
import { recordSchema, STILL, type Clip } from '../reel/records.js'
import { testClip, testTrack } from '../test/records.js'
import { testReel } from '../test/testReel.js'
import { bendClips } from './bendClips.js'
import { repeatClip } from './copyClips.js'
import { splitClips } from './cutClips.js'
import { swapClips } from './swapClips.js'
import { trimClip } from './trimClip.js'

const LENGTH = 192_000
const fields = { start: 48_000, length: LENGTH, recorded: LENGTH, sync: 60_000 }
const reel = documentOf([...recordsOf(testReel()), testTrack('t'), testClip('c', 't', fields)])
const done = (doc: ReelDocument, result: Result<Change>): ReelDocument => {
  const change = expectOk(result)
  const next = expectOk(apply(doc, change))
  expect(checkChange(next, change)).toMatchObject({ ok: true })
  return next
}
const clip = (doc: ReelDocument, id = 'c'): Clip => doc.clip.get(id) as Clip
const moving = done(
  reel,
  bendClips(reel, { ids: ['c'], fields: { runUp: 24_000, runDown: 96_000, passSpeed: 20 } }),
)

describe('a sound on the move', () => {
  it('stays in its place with its sync point on its frame, and can stand still again', () => {
    expect(clip(moving)).toEqual({ ...clip(reel), runUp: 24_000, runDown: 96_000, passSpeed: 20 })
    const still = done(moving, bendClips(moving, { ids: ['c'], fields: STILL }))
    expect([recordsOf(still), warpOf(clip(still))]).toEqual([recordsOf(reel), null])
  })
  it('runs over no more than it is long', () => {
    const long = done(reel, bendClips(reel, { ids: ['c'], fields: { runUp: 500_000, runDown: 9000 } }))
    expect(clip(long)).toMatchObject({ runUp: LENGTH, runDown: 0 })
    const cut = done(moving, trimClip(moving, { id: 'c', end: 'tail', to: 48_000 + 50_000 }))
    expect(clip(cut)).toMatchObject({ length: 50_000, runUp: 24_000, runDown: 26_000 })
    const wrong = {
      label: '',
      added: [],
      removed: [],
      updated: [[clip(reel), { ...clip(reel), runUp: LENGTH + 1 }]],
    } as const
    expect(checkChange(expectOk(apply(reel, wrong)), wrong)).toMatchObject({ code: 'CORE_BAD_SPAN' })
  })
  it('is split between its runs without a change of what is heard', () => {
    const at = 48_000 + 70_000
    const split = done(moving, splitClips(moving, { ids: ['c'], at, newId: () => 'd' }))
    expect([clip(split), clip(split, 'd')]).toMatchObject([
      { runUp: 24_000, runDown: 0, passSpeed: 20 },
      { runUp: 0, runDown: 96_000, passSpeed: 20 },
    ])
    const heard = (one: Clip, sample: number): number => {
      const warp = warpOf(one)
      return one.offset + (warp ? warped(warp, sample - one.start) : 0)
    }
    for (let sample = 48_000; sample < 48_000 + LENGTH; sample += 7777)
      expect(heard(sample < at ? clip(split) : clip(split, 'd'), sample)).toBeCloseTo(
        heard(clip(moving), sample),
        4,
      )
  })
  it('that is repeated rises at the first and falls at the last; swapped, another moves as it did', () => {
    let count = 0
    const until = 48_000 + 3 * LENGTH
    const often = done(
      moving,
      repeatClip(moving, { id: 'c', until, overlap: 4800, newId: () => `r${count++}` }),
    )
    const runs = [...often.clip.values()]
      .sort((a, b) => a.start - b.start)
      .map((one) => [one.runUp, one.runDown])
    expect([runs[0], runs.at(-1), new Set(runs.slice(1, -1).flat())]).toEqual([
      [24_000, 0],
      // The last is cut where it is to end, and its run with it.
      [0, 14_400],
      new Set([0]),
    ])
    const sound = { id: 'other', name: 'Other', recorded: 120_000, sync: 30_000 }
    const swapped = clip(done(moving, swapClips(moving, { swaps: [{ id: 'c', sound }] })))
    expect(swapped).toMatchObject({ soundId: 'other', passSpeed: 20, runUp: 24_000 })
    expect(syncPlace(swapped)).toBe(syncPlace(clip(moving)))
  })
  it('of a package that is older stands still', () => {
    const { runUp, runDown, passSpeed, passDistance, ...old } = clip(reel)
    expect([runUp, runDown, passSpeed, passDistance]).toEqual([0, 0, 0, 5])
    expect(recordSchema.parse(old)).toEqual(clip(reel))
  })
})

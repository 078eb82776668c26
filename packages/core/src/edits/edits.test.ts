import { describe, expect, it } from 'vitest'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { testReel } from '../test/testReel.js'
import { deleteRecords } from './deleteRecords.js'
import { moveClips } from './moveClips.js'
import { placeSound } from './placeSound.js'
import { shapeClips } from './shapeClips.js'
import { spotCue } from './spotCue.js'
import { trimClip } from './trimClip.js'

const sound = { id: 's', name: 'Lever', recorded: 48_000, sync: 12_000 }

function place(
  doc: ReelDocument,
  id: string,
  frame: number,
  extra: Partial<Parameters<typeof placeSound>[1]> = {},
): ReelDocument {
  return expectOk(
    apply(
      doc,
      expectOk(
        placeSound(doc, { id, newTrackId: `t-${id}`, category: 'FX', cueId: null, frame, sound, ...extra }),
      ),
    ),
  )
}

describe('placing', () => {
  it('has the sync point meet the frame to the sample', () => {
    const doc = place(testReel(), 'a', 100)
    const clip = doc.clip.get('a')!
    expect(clip.start + clip.sync - clip.offset).toBe(200_000)
    expect(clip).toMatchObject({ start: 188_000, length: 48_000, offset: 0 })
  })
  it('cuts off what would begin before the reel', () => {
    expect(place(testReel(), 'a', 2).clip.get('a')).toMatchObject({
      start: 0,
      offset: 8000,
      length: 40_000,
      sync: 12_000,
    })
  })
  it('never sounds over another: the next free track, else a new one', () => {
    const doc = place(place(testReel(), 'a', 100), 'b', 110)
    expect(doc.clip.get('a')?.trackId).toBe('t-a')
    expect(doc.clip.get('b')?.trackId).toBe('t-b')
    expect(place(doc, 'c', 200).clip.get('c')?.trackId).toBe('t-a')
    expect(
      placeSound(doc, {
        id: 'd',
        newTrackId: 'x',
        trackId: 't-a',
        category: 'FX',
        cueId: null,
        frame: 100,
        sound,
      }),
    ).toMatchObject({
      ok: false,
      code: 'CORE_OVERLAP',
      message:
        'Lever on Hard effects 1: sounds on one track may only meet in a crossfade (it would sound over Lever).',
    })
  })
  it('keeps the fade in before the attack', () => {
    expect(place(testReel(), 'a', 100, { sound: { ...sound, sync: 40 } }).clip.get('a')?.fadeIn).toBe(40)
  })
})

describe('trimming', () => {
  it('stops at the recording and at neighbours, and leaves what is heard where it is', () => {
    const doc = place(place(testReel(), 'a', 100), 'b', 130)
    const trimmed = expectOk(
      apply(doc, expectOk(trimClip(doc, { id: 'a', end: 'head', to: 190_000 }))),
    ).clip.get('a')!
    expect(trimmed).toMatchObject({ start: 190_000, offset: 2000, length: 46_000 })
    const short = expectOk(apply(doc, expectOk(trimClip(doc, { id: 'a', end: 'tail', to: 200_000 }))))
    const moved = expectOk(apply(short, expectOk(moveClips(short, { ids: ['b'], by: -40_000 }))))
    const long = expectOk(trimClip(moved, { id: 'a', end: 'tail', to: 9_999_999 })).updated[0]![1]
    expect(long).toMatchObject({ start: 188_000, length: moved.clip.get('b')!.start - 188_000 })
    expect(expectOk(trimClip(doc, { id: 'b', end: 'tail', to: 9_999_999 })).updated).toEqual([])
  })
})

describe('moving and shaping', () => {
  it('refuses to move over another sound or before the reel', () => {
    const doc = place(place(testReel(), 'a', 100), 'b', 130)
    expect(moveClips(doc, { ids: ['b'], by: -40_000 })).toMatchObject({ ok: false, code: 'CORE_OVERLAP' })
    expect(moveClips(doc, { ids: ['a', 'b'], by: -200_000 })).toMatchObject({
      ok: false,
      code: 'CORE_BEFORE_REEL',
    })
    expect(expectOk(moveClips(doc, { ids: ['a', 'b'], by: -40_000 })).updated).toHaveLength(2)
  })
  it('lets two sounds meet in a crossfade and keeps the fade it needs', () => {
    let doc = place(place(testReel(), 'a', 100), 'b', 130)
    doc = expectOk(
      apply(doc, expectOk(shapeClips(doc, { ids: ['a', 'b'], fields: { fadeIn: 10_000, fadeOut: 10_000 } }))),
    )
    const meet = doc.clip.get('a')!.start + 48_000 - 6000 - doc.clip.get('b')!.start
    doc = expectOk(apply(doc, expectOk(moveClips(doc, { ids: ['b'], by: meet }))))
    expect(shapeClips(doc, { ids: ['b'], fields: { fadeIn: 100 } })).toMatchObject({
      ok: false,
      code: 'CORE_OVERLAP',
    })
  })
  it('keeps the balance of several under a common gain, within limits', () => {
    let doc = place(place(testReel(), 'a', 100), 'b', 130)
    doc = expectOk(apply(doc, expectOk(shapeClips(doc, { ids: ['a'], fields: { gain: -12 } }))))
    const change = expectOk(shapeClips(doc, { ids: ['a', 'b'], gainBy: -3 }))
    expect(change.updated.map(([, to]) => (to.kind === 'clip' ? to.gain : null))).toEqual([-15, -3])
    expect(expectOk(shapeClips(doc, { ids: ['a'], gainBy: 99 })).updated[0]?.[1]).toMatchObject({ gain: 24 })
  })
  it('leaves the sounds of a deleted cue, and takes those of a deleted track along', () => {
    let doc = expectOk(
      apply(testReel(), expectOk(spotCue(testReel(), { id: 'q', category: 'FX', in: 100, out: 120 }))),
    )
    doc = place(doc, 'a', 100, { cueId: 'q' })
    const without = expectOk(apply(doc, expectOk(deleteRecords(doc, { ids: ['q'] }))))
    expect(without.clip.get('a')?.cueId).toBeNull()
    expect(expectOk(deleteRecords(doc, { ids: ['t-a'] })).removed.map((record) => record.id)).toEqual([
      't-a',
      'a',
    ])
  })
  it('gives a deleted number out again only when it was the last', () => {
    let doc = testReel()
    for (const id of ['x', 'y', 'z'])
      doc = expectOk(apply(doc, expectOk(spotCue(doc, { id, category: 'FOL', in: 1, out: 2 }))))
    doc = expectOk(apply(doc, expectOk(deleteRecords(doc, { ids: ['y'] }))))
    expect(expectOk(spotCue(doc, { id: 'n', category: 'FOL', in: 1, out: 2 })).added[0]).toMatchObject({
      number: 4,
    })
    expect(spotCue(doc, { id: 'n', category: 'FOL', in: 5, out: 5 })).toMatchObject({
      ok: false,
      code: 'CORE_BAD_SPAN',
    })
  })
})

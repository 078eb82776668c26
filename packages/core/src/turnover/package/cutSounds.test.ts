import { describe, expect, it } from 'vitest'
import { documentOf, recordsOf, type ReelDocument } from '../../reel/document.js'
import type { Candidate, Clip, ReelRecord } from '../../reel/records.js'
import { testClip, testTrack } from '../../test/records.js'
import { testReel } from '../../test/testReel.js'
import { packRecords, soundParts, unpackRecords } from './cutSounds.js'

const reel = (...records: ReelRecord[]): ReelDocument =>
  documentOf([...recordsOf(testReel()), testTrack('t'), ...records])
const clip = (id: string, soundId: string, fields: Parameters<typeof testClip>[2] = {}): Clip =>
  testClip(id, 't', { soundId, recorded: 960_000, length: 10_000, ...fields })
const partsOf = (doc: ReelDocument, handles: number | null) =>
  soundParts(doc, handles).map(({ soundId, part, clips }) => [soundId, part && [part.from, part.to], clips])

describe('the recordings of a package', () => {
  const doc = reel(
    clip('a', 'rain', { offset: 100_000, sync: 100_500 }),
    clip('b', 'rain', { offset: 115_000, sync: 115_000 }),
    clip('c', 'rain', { offset: 700_000, sync: 650_000 }),
    clip('d', 'bell', { offset: 0, sync: 10, reverse: true }),
    clip('e', 'bell', { offset: 500_000, sync: 500_000 }),
    clip('f', 'door', { offset: 955_000, length: 5000, sync: 959_999 }),
  )

  it('are whole files, each once, where nothing is to be cut', () => {
    expect(partsOf(doc, null)).toEqual([
      ['rain', null, ['a', 'b', 'c']],
      ['bell', null, ['d', 'e']],
      ['door', null, ['f']],
    ])
  })

  it('are what is heard with handles: joined where they meet, whole where one plays backwards, never beyond the file', () => {
    expect(partsOf(doc, 4000)).toEqual([
      ['rain', [96_000, 129_000], ['a', 'b']],
      // The sync point lies before what is heard; it stays in the file.
      ['rain', [650_000, 714_000], ['c']],
      ['bell', null, ['d', 'e']],
      ['door', [951_000, 960_000], ['f']],
    ])
  })

  it('are played from their parts at the same samples, and found again under the ids they are given', () => {
    const parts = soundParts(doc, 4000)
    const packed = packRecords(doc, parts)
    const files = new Map(parts.map(({ id, soundId, part }) => [id, { soundId, from: part?.from ?? 0 }]))
    for (const record of packed) {
      if (record.kind !== 'clip') continue
      const before = doc.clip.get(record.id)!
      const { soundId, from } = files.get(record.soundId)!
      expect([soundId, record.offset + from, record.sync + from]).toEqual([
        before.soundId,
        before.offset,
        before.sync,
      ])
      expect(record.offset + record.length).toBeLessThanOrEqual(record.recorded)
    }
    const ids = new Map(parts.map(({ id }) => [id, `here-${id}`]))
    const unpacked = documentOf(unpackRecords(packed, ids))
    expect([...unpacked.clip.values()].every(({ soundId }) => soundId.startsWith('here-s'))).toBe(true)
    expect(() => unpackRecords(packed, new Map())).toThrow(/no recording s1/)
  })

  it('leave out what is not in use: shortlisted recordings, and clips of an earlier stand that the parts don’t hold', () => {
    const candidate = (id: string, soundId: string): Candidate => ({
      ...{ kind: 'candidate', id, cueId: 'q', soundId, name: id, order: 'a', remark: '' },
      ...{ in: null, out: null, sync: null, take: 0 },
    })
    const parts = soundParts(doc, 4000)
    const earlier = reel(
      clip('a', 'rain', { offset: 400_000, sync: 400_000 }),
      clip('x', 'bell', { offset: 3 }),
      clip('y', 'rain', { offset: 97_000, sync: 97_000 }),
      candidate('p', 'bell'),
      candidate('q', 'rain'),
    )
    const kept = packRecords(earlier, parts).filter(({ kind }) => kind === 'clip' || kind === 'candidate')
    expect(kept.map(({ id }) => id)).toEqual(['x', 'y', 'p'])
  })
})

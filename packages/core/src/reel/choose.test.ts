import { describe, expect, it } from 'vitest'
import { groupClips } from '../edits/stacks.js'
import { spotCue } from '../edits/spotCue.js'
import { after, placed, SOUND } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { clipsAfter, clipsLike, withGroups } from './choose.js'
import type { ReelDocument } from './document.js'
import { magnetsOf, nearestMagnet } from './magnets.js'

const other = { ...SOUND, id: 'o', name: 'Bell' }
const reel = ((): ReelDocument => {
  let doc = placed(testReel(), 'late', 300)
  doc = placed(doc, 'early', 100, { trackId: 't-late' })
  doc = placed(doc, 'bell', 200, { sound: other, trackId: 't-late' })
  doc = placed(doc, 'rain', 250, { category: 'BG' })
  return after(doc, spotCue(doc, { id: 'q', category: 'FX', in: 110, out: 150 }))
})()

describe('selecting together', () => {
  it('takes in the whole group of whatever is chosen, once', () => {
    const grouped = after(reel, groupClips(reel, { ids: ['early', 'bell'], group: 'g' }))
    expect(withGroups(grouped, ['bell', 'rain']).sort()).toEqual(['bell', 'early', 'rain'])
    expect(withGroups(reel, ['bell'])).toEqual(['bell'])
  })
  it('finds what is alike, in the order of time', () => {
    const early = reel.clip.get('early')!
    expect(clipsLike(reel, early, 'sound')).toEqual(['early', 'rain', 'late'])
    expect(clipsLike(reel, early, 'track')).toEqual(['early', 'bell', 'late'])
    expect(clipsLike(reel, reel.clip.get('rain')!, 'category')).toEqual(['rain'])
  })
  it('finds what meets the picture at a place or after it', () => {
    expect(clipsAfter(reel, 200 * 2000)).toEqual(['bell', 'rain', 'late'])
    expect(clipsAfter(reel, 200 * 2000 + 1)).toEqual(['rain', 'late'])
  })
})

describe('what a drag is drawn to', () => {
  const magnets = magnetsOf(reel, { onsets: [105], cuts: [400] }, new Set(['bell']))

  it('is every onset, cut, cue, end and sync point but those of what is dragged, by place', () => {
    expect(magnets.map(({ at }) => at)).toEqual(magnets.map(({ at }) => at).toSorted((a, b) => a - b))
    const count = (what: string): number => magnets.filter((magnet) => magnet.what === what).length
    expect(['onset', 'cut', 'cue', 'sync point', 'edge'].map(count)).toEqual([1, 1, 3, 3, 6])
  })
  it('is the nearest within reach, inclusive; none beyond', () => {
    expect(nearestMagnet(magnets, 210_400, 500)).toMatchObject({ at: 210_000, what: 'onset' })
    expect(nearestMagnet(magnets, 210_500, 500)).toMatchObject({ at: 210_000 })
    expect(nearestMagnet(magnets, 211_000, 500)).toBeNull()
    expect(nearestMagnet(magnets, 10_000_000, 500)).toBeNull()
    expect(nearestMagnet([], 5, 500)).toBeNull()
  })
})

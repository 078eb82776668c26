import { describe, expect, it } from 'vitest'
import { placeSound } from '../edits/placeSound.js'
import { shapeClips } from '../edits/shapeClips.js'
import { spotCue } from '../edits/spotCue.js'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import { testReel } from '../test/testReel.js'
import { layoutCards } from './cardLayout.js'
import { coverageOf } from './coverage.js'

describe('card layout', () => {
  it('leaves cards where they want to be when there is room', () => {
    expect(
      layoutCards(
        [
          { id: 'a', wanted: 10, height: 20 },
          { id: 'b', wanted: 50, height: 20 },
        ],
        4,
      ),
    ).toEqual([
      { id: 'a', top: 10 },
      { id: 'b', top: 50 },
    ])
  })
  it('moves two that collide by the same amount, which is the least in squares', () => {
    // Both want 100, heights 20, gap 4: they stand 24 apart around 100, at 88 and 112.
    expect(
      layoutCards(
        [
          { id: 'a', wanted: 100, height: 20 },
          { id: 'b', wanted: 100, height: 20 },
        ],
        4,
      ),
    ).toEqual([
      { id: 'a', top: 88 },
      { id: 'b', top: 112 },
    ])
  })
  it('never overlaps, keeps the order and the upper bound', () => {
    const wishes = Array.from({ length: 400 }, (_, i) => ({
      id: String(i),
      wanted: ((i * 7919) % 900) + i,
      height: 10 + ((i * 31) % 30),
    })).sort((a, b) => a.wanted - b.wanted)
    const places = layoutCards(wishes, 3, 0)
    expect(places.map((place) => place.id)).toEqual(wishes.map((wish) => wish.id))
    expect(places[0]!.top).toBeGreaterThanOrEqual(0)
    for (let i = 1; i < places.length; i++)
      expect(places[i]!.top - places[i - 1]!.top).toBeGreaterThanOrEqual(wishes[i - 1]!.height + 3 - 1e-9)
  })
})

describe('coverage', () => {
  it('is nothing, partly, fully, as far as sounds that can be heard reach', () => {
    let doc = expectOk(
      apply(testReel(), expectOk(spotCue(testReel(), { id: 'q', category: 'BG', in: 0, out: 240 }))),
    )
    expect(coverageOf(doc, doc.cue.get('q')!)).toBe('nothing')
    const place = (id: string, frame: number, recorded: number): void => {
      doc = expectOk(
        apply(
          doc,
          expectOk(
            placeSound(doc, {
              id,
              newTrackId: `t${id}`,
              category: 'BG',
              cueId: 'q',
              frame,
              sound: { id: 's', name: 's', recorded, sync: 0 },
            }),
          ),
        ),
      )
    }
    place('a', 0, 240_000)
    expect(coverageOf(doc, doc.cue.get('q')!)).toBe('partly')
    place('b', 100, 280_000)
    expect(coverageOf(doc, doc.cue.get('q')!)).toBe('fully')
    doc = expectOk(apply(doc, expectOk(shapeClips(doc, { ids: ['a'], fields: { mute: true } }))))
    expect(coverageOf(doc, doc.cue.get('q')!)).toBe('partly')
  })
})

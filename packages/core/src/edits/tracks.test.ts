import { describe, expect, it } from 'vitest'
import { expectOk, type Result } from '../errors.js'
import { apply, invert, type Change } from '../reel/change.js'
import { tracksAsPrinted, tracksInOrder, type ReelDocument } from '../reel/document.js'
import { checkChange } from '../reel/invariants.js'
import { testReel } from '../test/testReel.js'
import { freezeColumns, moveTrack, thawColumns } from './editTracks.js'
import { keepLayers, type Layer } from './keepLayers.js'
import { addTrack } from './placeSound.js'

const run = (doc: ReelDocument, change: Result<Change>): ReelDocument => {
  const after = expectOk(apply(doc, expectOk(change)))
  expectOk(checkChange(after, expectOk(change)))
  return after
}
const printed = (doc: ReelDocument): string[] => tracksAsPrinted(doc).map((track) => track.id)

describe('columns on paper', () => {
  const three = ['a', 'b', 'c'].reduce(
    (doc, id) => run(doc, addTrack(doc, { id, category: 'FX' })),
    testReel(),
  )
  it('stay where they were frozen, whatever is moved on the Sheet; a later track is printed behind', () => {
    let doc = run(three, freezeColumns(three))
    doc = run(doc, moveTrack(doc, { id: 'c', before: 'a' }))
    doc = run(doc, addTrack(doc, { id: 'd', category: 'DX' }))
    doc = run(doc, moveTrack(doc, { id: 'd', before: 'c' }))
    expect(tracksInOrder(doc).map((track) => track.id)).toEqual(['d', 'c', 'a', 'b'])
    expect(printed(doc)).toEqual(['a', 'b', 'c', 'd'])
    // Frozen again, they are those of the Sheet.
    expect(printed(run(doc, freezeColumns(doc)))).toEqual(['d', 'c', 'a', 'b'])
    const free = run(doc, thawColumns(doc))
    expect(printed(free)).toEqual(tracksInOrder(free).map((track) => track.id))
  })
})

describe('layers', () => {
  const layer = (id: string, sync: number, category: Layer['category'] = 'FX'): Layer => ({
    id,
    newTrackId: `t-${id}`,
    category,
    sound: { id: `s-${id}`, name: id, recorded: 48_000, sync },
  })
  it('are kept as one: sync points on the frame, each on a track of its own, grouped, taken back in one step', () => {
    const doc = testReel()
    const change = expectOk(
      keepLayers(doc, {
        layers: [layer('whoosh', 30_000), layer('impact', 500), layer('tail', 0, 'DSG')],
        cueId: null,
        frame: 100,
        group: 'g',
      }),
    )
    const after = run(doc, { ok: true, value: change })
    expect(change.label).toBe('Keep 3 layers')
    expect(
      [...after.clip.values()].map((clip) => [
        clip.id,
        clip.start + clip.sync - clip.offset,
        clip.trackId,
        clip.group,
      ]),
    ).toEqual([
      ['whoosh', 200_000, 't-whoosh', 'g'],
      ['impact', 200_000, 't-impact', 'g'],
      ['tail', 200_000, 't-tail', 'g'],
    ])
    expect(expectOk(apply(after, invert(change)))).toEqual(doc)
  })
  it('are no group when there is one, and nothing when there is none', () => {
    const doc = testReel()
    expect(
      run(doc, keepLayers(doc, { layers: [layer('a', 0)], cueId: null, frame: 1, group: 'g' })).clip.get('a')
        ?.group,
    ).toBe('')
    expect(keepLayers(doc, { layers: [], cueId: null, frame: 1, group: 'g' })).toMatchObject({ ok: false })
  })
})

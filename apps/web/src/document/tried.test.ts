import {
  addTrack,
  apply,
  expectOk,
  planReel,
  syncPlace,
  treatmentWords,
  UNPREPARED,
  type ReelDocument,
  type Sound,
} from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { isTried, keepTried, layersOf, triedIn, withTriedTracks } from './tried.js'
import { tryActions, tryReducer, type TryState } from './trySlice.js'

const doc = testReel({ length: 2400 })
const sound = (id: string, sync = 4800): Sound =>
  ({
    id,
    name: id,
    description: '',
    keywords: '',
    category: 'Levers',
    path: `${id}.wav`,
    shelf: 'Irons',
    length: 48_000,
    sync,
    loudness: -29,
    peak: -12,
    truePeak: -12,
    measured: true,
  }) as unknown as Sound
const start = tryReducer(undefined, tryActions.choose(sound('a')))
const at = { cueId: null, frame: 100 }
const trying = (...acts: Parameters<typeof tryReducer>[1][]): TryState =>
  acts.reduce(tryReducer, tryReducer(start, tryActions.tryAt(at)))
const fresh = (now: ReelDocument, state: TryState): ReelDocument =>
  expectOk(apply(now, expectOk(keepTried(now, state, (what, index) => `${what}${index}`)!)))

describe('what is tried', () => {
  it('is where it would be kept, on the track that would be made, and nowhere in the document', () => {
    const tried = triedIn(doc, trying())!
    expect(tried.clips.map((clip) => [syncPlace(clip), isTried(clip.id)])).toEqual([[200_000, true]])
    expect(tried.tracks.map((track) => track.id)).toEqual([tried.clips[0]!.trackId])
    expect([doc.clip.size, doc.track.size, tried.doc.clip.size]).toEqual([0, 0, 1])
    const kept = [...fresh(doc, trying()).clip.values()][0]!
    expect({ ...tried.clips[0]!, id: '', trackId: '' }).toEqual({ ...kept, id: '', trackId: '' })
  })
  it('is heard in the place that was chosen for listening, and kept with it; other layers have theirs', () => {
    const door = tryActions.setInPlace({ place: 'door', amount: 0.5 })
    const state = trying(tryActions.hold(), tryActions.choose(sound('b')), door)
    const words = [...fresh(doc, state).clip.values()].map((clip) => [clip.soundId, treatmentWords(clip)])
    expect(words).toEqual([
      ['a', ''],
      ['b', 'Behind a door 50 %'],
    ])
  })
  it('is heard once, as what is kept will be', () => {
    const tried = triedIn(doc, trying())!
    const heard = planReel(withTriedTracks(doc, tried), { tries: tried.clips })
    const kept = planReel(fresh(doc, trying()))
    expect(heard.strips.map((strip) => [strip.voices, strip.stem, strip.level])).toEqual(
      kept.strips.map((strip) => [strip.voices, strip.stem, strip.level]),
    )
  })
  it('sounds on its track also where that is muted, with that track’s level', () => {
    let muted = expectOk(apply(doc, expectOk(addTrack(doc, { id: 't', category: 'FX' }))))
    muted = { ...muted, track: new Map([['t', { ...muted.track.get('t')!, mute: true, level: -6 }]]) }
    const tried = triedIn(muted, trying())!
    expect(tried.tracks).toEqual([])
    expect(planReel(muted, { tries: tried.clips }).strips).toMatchObject([
      { key: 't', level: expect.closeTo(0.5012, 4) as number },
    ])
  })
  it('is nothing where nothing is, and stays out where it could not be kept', () => {
    expect(triedIn(doc, start)).toBeNull()
    // All of it would lie before the reel: its sync point is its end.
    expect(
      triedIn(
        doc,
        tryReducer(
          tryReducer(undefined, tryActions.choose(sound('a', 48_000))),
          tryActions.tryAt({ cueId: null, frame: 0 }),
        ),
      ),
    ).toBeNull()
  })
})

describe('layers', () => {
  it('are the held ones and the chosen one, which counts once while it is the one held last', () => {
    const names = (state: TryState): string[] => layersOf(state).map((layer) => layer.sound.id)
    expect(names(trying(tryActions.hold()))).toEqual(['a'])
    expect(names(trying(tryActions.hold(), tryActions.choose(sound('b'))))).toEqual(['a', 'b'])
    // The same recording again, cut otherwise, is a layer of its own.
    expect(names(trying(tryActions.hold(), tryActions.prepare({ in: 100 })))).toEqual(['a', 'a'])
    const three = trying(
      tryActions.hold(),
      tryActions.choose(sound('b')),
      tryActions.hold(),
      tryActions.choose(sound('c')),
    )
    expect(names(tryReducer(three, tryActions.drop(0)))).toEqual(['b', 'c'])
    expect(names(tryReducer(three, tryActions.putBack()))).toEqual(['c'])
  })
  it('keep the preparation and the loudness at which each was held', () => {
    const state = trying(
      tryActions.toggleMatched(),
      tryActions.hold(),
      tryActions.toggleMatched(),
      tryActions.choose(sound('b')),
    )
    // -29 LUFS brought to -23, and as it is.
    expect(triedIn(doc, state)!.clips.map((clip) => clip.gain)).toEqual([6, 0])
    expect(state.prepared).toBe(UNPREPARED)
  })
})

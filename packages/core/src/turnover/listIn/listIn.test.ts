import { describe, expect, it } from 'vitest'
import { layList, planList, type LayListArgs } from '../../edits/layList.js'
import { expectOk } from '../../errors.js'
import { apply } from '../../reel/change.js'
import { documentOf, rateOf, recordsOf, tracksInOrder, type ReelDocument } from '../../reel/document.js'
import { checkChange } from '../../reel/invariants.js'
import { testClip, testTrack } from '../../test/records.js'
import { testReel } from '../../test/testReel.js'
import { FRAME_RATES } from '../../time/rates.js'
import { adlText } from '../interchange/adl.js'
import { clipsEdl } from '../interchange/edl.js'
import { otioText } from '../interchange/otio.js'
import type { FileOf } from '../interchange/placed.js'
import { listMedia, matchMedia, type MediaCandidate } from './matchMedia.js'
import { playedFrom, type ListedSound } from './playedFrom.js'
import { readAdl } from './readAdl.js'
import { readEdlList } from './readEdlList.js'
import { PLAIN_CLIP, plainTrack, type ReadClip, type ReadList } from './readList.js'
import { readOtio } from './readOtio.js'

const HOUR = 3600 * 48_000
const SOUNDS: Readonly<Record<string, ListedSound>> = {
  a: { id: 'a', name: 'Lever', length: 480_000, sync: 600, channels: 8, timeReference: HOUR },
  b: { id: 'b', name: 'Rain', length: 480_001, sync: 0, channels: 2, timeReference: 0 },
}
const fileOf: FileOf = ({ soundId }) => {
  const { length, timeReference } = SOUNDS[soundId]!
  return { path: `../sounds/${soundId}.wav`, timeReference, from: 0, length, sha256: '' }
}

/** Sounds at odd samples: a crossfade, shaped fades, a gain, half and double speed, backwards. */
function reel(): ReelDocument {
  const clip = (id: string, track: string, fields: Parameters<typeof testClip>[2]) =>
    testClip(id, track, { recorded: 480_000, ...fields })
  return documentOf([
    ...recordsOf(testReel({ rate: '29.97d', firstFrame: 215_784 })),
    testTrack('t1', { name: 'Levers', order: 'a0', level: -3 }),
    testTrack('t2', { name: 'Rain', order: 'a1', category: 'BG' }),
    clip('c1', 't1', {
      soundId: 'a',
      start: 100_003,
      length: 48_017,
      offset: 1201,
      fadeOut: 9600,
      sync: 2000,
    }),
    clip('c2', 't1', { soundId: 'a', start: 138_420, length: 60_000, offset: 9000, fadeIn: 9600 }),
    clip('c3', 't2', {
      ...{ soundId: 'b', start: 3_000_001, length: 24_000, fadeIn: 240, fadeInShape: 'power', gain: -4.25 },
      recorded: 480_001,
    }),
    clip('c4', 't2', {
      soundId: 'a',
      start: 4_000_001,
      length: 24_000,
      offset: 1000,
      speed: 2,
      keepPitch: true,
      channels: '3+4',
      recorded: 240_000,
    }),
    clip('c5', 't2', {
      soundId: 'a',
      start: 4_500_001,
      length: 24_000,
      offset: 4000,
      speed: 0.5,
      recorded: 960_000,
    }),
    clip('c6', 't2', {
      soundId: 'a',
      start: 5_000_000,
      length: 24_000,
      offset: 4000,
      reverse: true,
      sides: 'swapped',
      channels: '7',
      fadeOut: 480,
    }),
  ])
}

let made = 0
const laid = (list: ReadList, more: Partial<LayListArgs> = {}): LayListArgs => ({
  ...{
    list,
    sounds: soundsFor(list),
    tracks: new Map(list.tracks.map(({ category }, at) => [at, category ?? 'FX'])),
  },
  ...{ shift: 0, markers: 'none', from: 'their list', author: 'Mara', at: '2031-05-09T12:00:00Z' },
  newId: () => `n${made++}`,
  ...more,
})
const soundsFor = (list: ReadList): Map<string, ListedSound> =>
  new Map(
    listMedia(list).flatMap(({ key, file }) => {
      const sound = SOUNDS[/(\w)\.wav$/.exec(file)?.[1] ?? '']
      return sound ? [[key, sound] as const] : []
    }),
  )

/** What stands on the tracks of a document, without ids. */
const placed = (doc: ReelDocument, from = 0) =>
  tracksInOrder(doc)
    .slice(from)
    .map((track) => ({
      ...{ name: track.name, level: track.level },
      clips: [...doc.clip.values()]
        .filter((clip) => clip.trackId === track.id)
        .sort((a, b) => a.start - b.start)
        .map(({ id: _, trackId: __, name: ___, cueId: ____, sync: _____, ...clip }) => clip),
    }))

describe('a list of our own comes in as it went out, to the sample', () => {
  const doc = reel()
  const rate = rateOf(doc)
  it.each([
    ['OTIO', () => readOtio(otioText(doc, fileOf))],
    ['ADL', () => readAdl(adlText(doc, fileOf, { date: '', uid: 'u' }), rate)],
    ['EDL', () => readEdlList(clipsEdl(doc, fileOf), rate, 215_784)],
  ])('%s', (kind, read) => {
    const list = expectOk(read())
    expect(list.left).toEqual([])
    expect(list.begins).toBeCloseTo((215_784 * 1001) / 30_000, 6)
    const args = laid(list)
    const change = expectOk(layList(doc, args))
    const after = expectOk(apply(doc, change))
    expect(expectOk(checkChange(after, change))).toBeNull()
    const [levers, rain] = placed(doc)
    // An EDL has no word for the level of a track.
    expect(placed(after, 2)).toEqual([{ ...levers, level: kind === 'EDL' ? 0 : -3 }, rain])
    if (kind === 'OTIO')
      expect([...after.clip.values()].find(({ start, id }) => start === 100_003 && id !== 'c1')?.sync).toBe(
        2000,
      )
    expect([...after.track.values()].at(-1)).toMatchObject({ folder: 'their list' })
  })
})

describe('an EDL of somebody else', () => {
  const text = [
    'TITLE: THEIRS',
    'FCM: DROP FRAME',
    '001  BELL     A     C        00:00:01:00 00:00:03:00 01:00:00:00 01:00:02:00',
    '* FROM CLIP NAME: bell.wav',
    '002  BELL     A     C        00:00:03:00 00:00:03:00 01:00:02:00 01:00:02:00',
    '002  RAIN     A     D    024 00:00:10:00 00:00:12:00 01:00:02:00 01:00:04:00',
    '* FROM CLIP NAME: bell.wav',
    '* TO CLIP NAME: rain.wav',
    '003  RAIN     A2    C        01:00:00:00 01:00:04:00 01:00:05:00 01:00:07:00',
    'M2   RAIN       048.0                01:00:00:00',
    '004  BL       A     C        00:00:00:00 00:00:01:00 01:00:07:00 01:00:08:00',
    '005  VIEW     V     C        00:00:00:00 00:00:01:00 01:00:08:00 01:00:09:00',
    '006  BAD      A     C        00:00:00:99 00:00:01:00 01:00:09:00 01:00:10:00',
    '* FROM CLIP NAME: nobody.wav',
    '* LOC: 01:00:03:12 RED     Door slams',
  ].join('\n')
  const list = expectOk(readEdlList(text, FRAME_RATES['24'], 86_400))

  it('has its audio on a track a channel, with dissolves that overlap and speeds', () => {
    expect(list.tracks).toEqual([plainTrack('A'), plainTrack('A2')])
    expect(list.clips).toMatchObject([
      { name: 'bell.wav', track: 0, start: 0, length: 144_000, offset: 48_000, clock: true, fadeOut: 48_000 },
      {
        name: 'rain.wav',
        track: 0,
        start: 96_000,
        length: 96_000,
        offset: 480_000,
        fadeIn: 48_000,
        fadeOut: 0,
      },
      { name: 'RAIN', track: 1, start: 240_000, length: 96_000, speed: 2, reverse: false },
    ])
  })

  it('says what of it does not come in, and gives no event the name of one that could not be read', () => {
    expect(list.left).toEqual([
      '2 events without sound',
      '1 event without length',
      'the counting: it says drop-frame and was read at 24 fps',
      expect.stringMatching(/^line 13: .*99/),
    ])
    expect(list.markers).toEqual([{ at: 168_000, length: 0, words: 'Door slams' }])
    expect(readEdlList('TITLE: X', FRAME_RATES['24'], 0)).toMatchObject({ ok: false })
  })
})

describe('files of a list are found', () => {
  const known: MediaCandidate[] = [
    { id: '1', path: 'Boxes/Levers/Slam.wav', name: 'Slam', length: 100, sha256: 'aa' },
    { id: '2', path: 'Doors/Slam.wav', name: 'Slam', length: 200, sha256: 'bb' },
    { id: '3', path: 'Rain/Soft rain.flac', name: 'Rain on slate', length: 300, sha256: '' },
  ]
  const media = (file: string, sha256 = '', fileLength: number | null = null) => ({
    ...{ key: 'k', file, sha256, fileLength, uses: 1 },
  })
  it.each([
    ['by checksum, whatever it is called', media('x.wav', 'bb'), ['2', 'checksum', false]],
    ['by its path', media('D:\\Library\\levers\\SLAM.WAV'), ['1', 'path', false]],
    ['by its length, of two of the same name', media('slam.wav', '', 200), ['2', 'name', false]],
    ['not where two are equally likely: then it is asked', media('slam.wav'), [null, null, false]],
    ['by name without ending', media('soft rain'), ['3', 'name', false]],
    ['by what the recording is called', media('Rain on slate'), ['3', 'name', false]],
    ['of another length, and it is told', media('soft rain.flac', '', 999), ['3', 'name', true]],
    ['of another content, and it is told', media('Levers/slam.wav', 'cc', 100), ['1', 'path', true]],
    ['not at all', media('nothing.wav'), [null, null, false]],
    ['not without a name', media(''), [null, null, false]],
  ])('%s', (_, one, [id, by, differs]) => {
    expect(matchMedia([one], known)[0]).toMatchObject({ id, by, differs })
  })
})

describe('what a list asks for that is not there', () => {
  const read = (fields: Partial<ReadClip>): ReadClip => ({
    ...{ ...PLAIN_CLIP, track: 0, name: 'Lever', file: 'a.wav', start: 48_000, length: 1000, offset: 0 },
    ...fields,
  })
  const listOf = (clips: ReadClip[], markers: ReadList['markers'] = []): ReadList => ({
    ...{ title: '', tracks: [plainTrack('T')], clips, markers, begins: null, left: [] },
  })

  it.each([
    ['begins before its recording', { offset: -100 }, { offset: 0, length: 900, cut: 100 }],
    ['goes on behind it', { offset: 479_500 }, { offset: 479_500, length: 500, cut: 0 }],
    ['counts from midnight as the file does', { clock: true, offset: HOUR + 50 }, { offset: 50, cut: 0 }],
    ['counts from its head though the file has a clock', { clock: true, offset: 50 }, { offset: 50, cut: 0 }],
    ['lies outside', { offset: 480_000 }, null],
  ])('%s', (_, fields, part) => {
    const played = playedFrom(read(fields), SOUNDS['a']!)
    if (part) expect(played).toMatchObject(part)
    else expect(played).toBeNull()
  })

  it('with thousands of sounds on a track and as many files is worked out at once', () => {
    const many = Array.from({ length: 6000 }, (_, at) => read({ start: at * 500, file: `${at}.wav` }))
    const found = matchMedia(
      listMedia({ clips: many }),
      many.map(({ file }) => ({ id: file, path: file, name: file, length: 480_000, sha256: '' })),
    )
    expect(found.filter(({ id, media }) => id === media.file)).toHaveLength(6000)
    const sounds = new Map(many.map(({ file }) => [file, SOUNDS['a']!]))
    const { tracks, clips } = planList(testReel(), laid(listOf(many), { sounds }))
    // Each meets the next one only: two rows hold them all.
    expect([tracks.length, clips.length]).toEqual([2, 6000])
  })

  it('is cut or left out, counted in a sentence, and what overlaps goes on another track', () => {
    const list = listOf([
      ...[
        read({}),
        read({ start: 48_500 }),
        read({ file: 'gone.wav' }),
        read({ speed: 9 }),
        read({ offset: 500_000 }),
      ],
      ...[
        read({ start: -500 }),
        read({ start: -5000 }),
        read({ start: 96_000, offset: 479_900, fadeOut: 5000 }),
      ],
    ])
    const plan = planList(testReel(), laid(list))
    expect(plan.tracks.map(({ name }) => name)).toEqual(['T', 'T (2)'])
    expect(plan.clips.map(({ start, length, fadeOut }) => [start, length, fadeOut])).toEqual([
      [0, 500, 0],
      [48_000, 1000, 0],
      [96_000, 100, 100],
      [48_500, 1000, 0],
    ])
    expect(plan.told).toEqual([
      '1 sound without a recording: left out.',
      '1 sound faster or slower than can be played: left out.',
      '1 sound outside its recording: left out.',
      '2 sounds cut where a recording ends or the reel begins.',
      '1 sound before the reel’s first frame: left out.',
    ])
    expect(planList(testReel(), laid(list, { tracks: new Map() })).clips).toEqual([])
    expect(layList(testReel(), laid(listOf([])))).toMatchObject({ ok: false, code: 'CORE_NOTHING_TO_LAY' })
  })

  it('markers become cues or notes, and none twice', () => {
    const list = listOf(
      [],
      [
        { at: 2000, length: 0, words: 'Door' },
        { at: 4000, length: 8000, words: 'Steps' },
        { at: -9000, length: 0, words: 'Early' },
      ],
    )
    const args = laid(list, { markers: 'cues', shift: 2000 })
    const once = expectOk(apply(testReel(), expectOk(layList(testReel(), args))))
    expect([...once.cue.values()].map((cue) => [cue.in, cue.out, cue.words])).toEqual([
      [2, 3, 'Door'],
      [3, 7, 'Steps'],
    ])
    const again = planList(once, args)
    expect([again.markers, again.told]).toEqual([
      [],
      ['2 markers there already: left out.', '1 marker before the reel’s first frame: left out.'],
    ])
    const noted = expectOk(apply(testReel(), expectOk(layList(testReel(), { ...args, markers: 'notes' }))))
    expect([...noted.note.values()]).toMatchObject([
      { frame: 2, words: 'Door', author: 'Mara' },
      { frame: 3, words: 'Steps' },
    ])
  })
})

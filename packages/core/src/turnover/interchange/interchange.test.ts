import { describe, expect, it } from 'vitest'
import { expectOk } from '../../errors.js'
import { readEdl } from '../../formats/readEdl.js'
import { documentOf, rateOf, recordsOf, type ReelDocument } from '../../reel/document.js'
import type { FrameRateId } from '../../time/rates.js'
import { nearestFrame } from '../../time/convert.js'
import { parseTimecode } from '../../time/timecode.js'
import type { Clip } from '../../reel/records.js'
import { testClip, testTrack } from '../../test/records.js'
import { testReel } from '../../test/testReel.js'
import { adlText } from './adl.js'
import { clipsCsv } from './clipsCsv.js'
import { clipsEdl, edlCount, edlFiles, MOST_EVENTS } from './edl.js'
import { otioText } from './otio.js'
import type { FileOf } from './placed.js'
import { readAdl } from '../listIn/readAdl.js'
import { readOtio } from '../listIn/readOtio.js'
import type { ReadClip } from '../listIn/readList.js'

const HOUR = 3600 * 48_000
/** A file that begins an hour into its day, and one that says nothing of when it begins. */
const fileOf: FileOf = ({ soundId }) => ({
  path: `../sounds/${soundId} lever #1.wav`,
  ...{ timeReference: soundId === 'a' ? HOUR : 0, from: 0, length: 480_000, sha256: 'f'.repeat(64) },
})

/** Two tracks: sounds at odd samples, a crossfade, a fade of each shape, one faster, one backwards, one muted. */
function reel(rate: FrameRateId = '24', first = '01:00:00:00'): ReelDocument {
  const bare = testReel({ rate })
  const parsed = parseTimecode(first, rateOf(bare))
  const firstFrame = parsed.ok ? parsed.frame : 0
  return documentOf([
    ...recordsOf(testReel({ rate, firstFrame })),
    testTrack('t1', { name: 'Levers "one"', order: 'a' }),
    testTrack('t2', { name: 'Rain', order: 'b', level: -3, category: 'BG' }),
    testClip('c1', 't1', {
      soundId: 'a',
      start: 100_003,
      length: 48_017,
      offset: 1201,
      fadeOut: 9600,
      recorded: 480_000,
    }),
    testClip('c2', 't1', {
      soundId: 'b',
      start: 140_003,
      length: 60_000,
      offset: 9000,
      fadeIn: 9600,
      recorded: 480_000,
    }),
    testClip('c3', 't2', {
      soundId: 'b',
      start: 3_000_001,
      length: 24_000,
      fadeIn: 240,
      fadeInShape: 'power',
      gain: -4.25,
    }),
    testClip('c4', 't2', {
      soundId: 'a',
      start: 4_000_001,
      length: 24_000,
      fadeOut: 480,
      fadeOutShape: 's',
      speed: 2,
    }),
    testClip('c5', 't2', {
      soundId: 'b',
      start: 5_000_000,
      length: 24_000,
      recorded: 480_000,
      offset: 4000,
      reverse: true,
    }),
    testClip('c6', 't2', { soundId: 'b', start: 6_000_000, length: 24_000, mute: true }),
  ])
}
const RATES = [
  ['24', '01:00:00:00'],
  ['25', '10:00:00:00'],
  ['23.976', '00:59:52:00'],
  ['29.97d', '02:00:00;00'],
  ['30', '23:30:00:00'],
] as const

/** What a clip that was read should be. */
const expected = (doc: ReelDocument, id: string): Partial<ReadClip> => {
  const { start, length, fadeIn, fadeOut, fadeInShape, fadeOutShape, gain } = doc.clip.get(id)!
  return { start, length, fadeIn, fadeOut, fadeInShape, fadeOutShape, gain }
}

describe('OTIO', () => {
  it.each(RATES)('at %s reads back to the sample, crossfades, speeds and all', (rate, first) => {
    const doc = reel(rate, first)
    const read = expectOk(readOtio(otioText(doc, fileOf)))
    expect(read.tracks).toMatchObject([
      { name: 'Levers "one"', category: 'FX' },
      { name: 'Rain', category: 'BG', level: -3 },
    ])
    expect(read.left).toEqual([])
    for (const [index, id] of ['c1', 'c2', 'c3', 'c4', 'c5', 'c6'].entries())
      expect(read.clips[index]).toMatchObject(expected(doc, id))
    expect(read.clips.map(({ offset }) => offset)).toEqual([1201, 9000, 0, 0, 452_000, 0])
    expect(read.clips.map(({ speed, reverse, mute }) => [speed, reverse, mute])).toEqual([
      ...[0, 1, 2].map(() => [1, false, false]),
      [2, false, false],
      [1, true, false],
      [1, false, true],
    ])
    expect(read.clips[0]).toMatchObject({ file: '../sounds/a lever #1.wav', sha256: 'f'.repeat(64) })
  })

  // Schema names and versions of OpenTimelineIO 0.17 (CORE_VERSION_MAP of the ASWF repository; from memory).
  it('writes no schema but those that are published', () => {
    const schemas = new Set(otioText(reel(), fileOf).match(/"OTIO_SCHEMA": "[^"]+"/g))
    const known = ['Timeline.1', 'Stack.1', 'Track.1', 'Clip.2', 'Gap.1', 'Transition.1', 'LinearTimeWarp.1']
    const more = ['RationalTime.1', 'TimeRange.1', 'ExternalReference.1', 'Marker.2']
    for (const schema of schemas)
      expect([...known, ...more].map((name) => `"OTIO_SCHEMA": "${name}"`)).toContain(schema)
  })

  it('of somebody else is taken as far as it goes, and what is not known is told', () => {
    const time = (value: number, rate = 25) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value })
    const range = (start: number, duration: number) => ({ start_time: time(start), duration: time(duration) })
    const clip = { OTIO_SCHEMA: 'Clip.1', name: 'bell', source_range: range(10, 50) }
    const track = { OTIO_SCHEMA: 'Track.1', kind: 'Audio', name: 'A1' }
    const nested = { OTIO_SCHEMA: 'Stack.1', name: 'nest', source_range: range(0, 25), children: [] }
    const timeline = {
      ...{ OTIO_SCHEMA: 'Timeline.1', name: 'theirs', global_start_time: time(90_000) },
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        children: [
          { ...track, kind: 'Video', children: [] },
          {
            ...track,
            children: [nested, { ...clip, media_reference: { OTIO_SCHEMA: 'MissingReference.1' } }],
          },
          { OTIO_SCHEMA: 'Hologram.7', name: 'x' },
        ],
      },
    }
    const read = expectOk(readOtio(JSON.stringify(timeline)))
    expect(read.clips).toMatchObject([
      { name: 'bell', start: 48_000, length: 96_000, offset: 19_200, file: '' },
    ])
    expect(read).toMatchObject({ title: 'theirs', begins: 3600, tracks: [{ name: 'A1', category: null }] })
    expect(read.left).toEqual(['2 tracks that are not audio', 'Stack.1 “nest” on A1'])
  })

  it.each([
    ['{', /no JSON/],
    ['[]', /expected object/],
    ['{"OTIO_SCHEMA": "Timeline.1"}', /expected object/],
  ])('%s is refused', (text, message) => {
    expect(readOtio(text)).toMatchObject({ ok: false, message: expect.stringMatching(message) as string })
  })
})

describe('ADL', () => {
  it.each(RATES)('at %s reads back to the sample, fades, gain and all', (rate, first) => {
    const doc = reel(rate, first)
    const read = expectOk(
      readAdl(adlText(doc, fileOf, { date: '2031-05-09T12:00:00', uid: 'u' }), rateOf(doc)),
    )
    expect(read.tracks.map(({ name }) => name)).toEqual(['Levers  one ', 'Rain'])
    // c6 is muted.
    for (const [index, id] of ['c1', 'c2', 'c3', 'c4', 'c5'].entries())
      expect(read.clips[index]).toMatchObject(expected(doc, id))
    expect(read.clips.map(({ offset, track }) => [offset, track])).toEqual([
      ...[
        [1201, 0],
        [9000, 0],
      ],
      ...[
        [0, 1],
        [0, 1],
        [452_000, 1],
      ],
    ])
    expect(read.clips[0]).toMatchObject({ file: '../sounds/a lever #1.wav' })
  })

  it('names the line that can’t be read', () => {
    const text = adlText(reel(), fileOf, { date: '', uid: '' }).replace('01|00|02|02/', '01|00|02|99/')
    expect(readAdl(text, rateOf(reel()))).toMatchObject({
      ok: false,
      message: expect.stringMatching(/line \d+/) as string,
    })
    expect(readAdl('EDL', rateOf(reel()))).toMatchObject({
      ok: false,
      message: expect.stringMatching(/no <ADL>/) as string,
    })
  })
})

describe('EDL', () => {
  it.each(RATES)('at %s reads back to the frame, source from its own timecode', (rate, first) => {
    const doc = reel(rate, first)
    const [levers, rain] = edlFiles(doc, fileOf)
    const read = readEdl(levers!.text, rateOf(doc))
    expect(read.problems).toEqual([])
    const firstFrame = [...doc.reel.values()][0]!.firstFrame
    expect(
      read.events.map(({ recordIn, recordOut }) => [recordIn - firstFrame, recordOut - firstFrame]),
    ).toEqual(
      ['c1', 'c2'].map((id) => {
        const { start, length } = doc.clip.get(id)!
        return [nearestFrame(start, rateOf(doc)), nearestFrame(start + length, rateOf(doc))]
      }),
    )
    expect(read.events[0]?.sourceIn).toBe(nearestFrame(HOUR + 1201, rateOf(doc)))
    expect(readEdl(rain!.text, rateOf(doc)).events).toHaveLength(3)
    expect(rain!.text).toMatch(/^M2 {3}AX/m)
  })

  it('states drop-frame, one line a name, and the samples beside', () => {
    const doc = reel('29.97d', '02:00:00;00')
    const text = clipsEdl(doc, (clip) => ({ ...fileOf(clip), path: 'two\r\nlines.wav' }))
    expect(text).toMatch(/^FCM: DROP FRAME\r$/m)
    expect(text).toMatch(/^\* TRACK 1: FX Levers "one"\r$/m)
    expect(text).toMatch(/^\* FROM CLIP NAME: two lines\.wav\r$/m)
    expect(text).toMatch(/^\* SAMPLES: IN \d+ LENGTH 48017 OFFSET 1201 SPEED 1 GAIN 0\.00 DB\r$/m)
    expect(clipsEdl(testReel(), fileOf)).toBe('TITLE: SHOW REEL 1\r\nFCM: NON-DROP FRAME\r\n')
  })

  // CMX 3600: columns of an event, one blank apart: 1 number, 6 reel, 15 channels, 24 transition, 30 source in, record out ends at 76.
  it('puts each field in its column', () => {
    const event = /^001.*$/m.exec(edlFiles(reel(), fileOf)[0]!.text)?.[0] ?? ''
    expect([event.slice(5, 7), event.slice(14, 16), event.slice(20, 21)]).toEqual(['AX', 'AA', 'C'])
    expect(event.slice(29).trim().split(' ')).toHaveLength(4)
  })

  it('of a category holds its tracks one after the other, and nothing that is not heard', () => {
    const on = (track: string, count: number, more = {}): Clip[] =>
      Array.from({ length: count }, (_, i) =>
        testClip(`${track}-${i}`, track, { start: (10 - i) * 4800, length: 2400, ...more }),
      )
    const tracks = [
      testTrack('one'),
      testTrack('two', { order: 'a1' }),
      testTrack('muted', { order: 'a2', mute: true }),
      testTrack('rain', { order: 'a3', category: 'BG' }),
    ]
    const clips = [...on('one', 600), ...on('two', 600), ...on('muted', 3), ...on('rain', 2)]
    const doc = documentOf([...recordsOf(testReel()), ...tracks, ...clips, ...on('two', 1, { mute: true })])
    const files = edlFiles(doc, fileOf)
    expect(files.map(({ category, track, part, parts }) => [category, track?.id, part, parts])).toEqual([
      ['FX', undefined, 1, 2],
      ['FX', undefined, 2, 2],
      ['FX', 'one', 1, 1],
      ['FX', 'two', 1, 1],
      ['BG', 'rain', 1, 1],
    ])
    expect(edlCount(doc)).toBe(files.length)
    const [first, second] = files.map(({ text }) => text)
    expect(first).toMatch(/^TITLE: SHOW REEL 1 FX\r$/m)
    expect(first!.match(/^\* TRACK .*/gm)).toEqual(['* TRACK 1: FX one', '* TRACK 2: FX two'])
    expect(second!.match(/^\* TRACK .*/gm)).toEqual(['* TRACK 1: FX two'])
    expect(files.map(({ text }) => readEdl(text, rateOf(doc)).events.length)).toEqual([999, 200, 600, 599, 2])
  })

  it('of more events than it can number is several', () => {
    const clips = Array.from({ length: MOST_EVENTS + 2 }, (_, i) =>
      testClip(`c${i}`, 't', { start: i * 4800, length: 2400 }),
    )
    const doc = documentOf([...recordsOf(testReel()), testTrack('t'), ...clips])
    const files = edlFiles(doc, fileOf)
    expect(files.map(({ part, parts }) => [part, parts])).toEqual([
      [1, 2],
      [2, 2],
    ])
    expect(files.map(({ text }) => readEdl(text, rateOf(doc)).events.length)).toEqual([999, 2])
  })
})

it('clips as CSV have a line each, with what a reader has to know', () => {
  const [head, first] = clipsCsv(reel(), fileOf).replace('\ufeff', '').split('\r\n')
  expect(head?.split(',')).toHaveLength(first!.split(',').length)
  expect(first).toBe(
    '"Levers ""one""",FX,,Lever,../sounds/a lever #1.wav,01:00:02:02,01:00:03:02,01:00:02:01,100003,48017,1201,0,0,9600,1,,',
  )
})

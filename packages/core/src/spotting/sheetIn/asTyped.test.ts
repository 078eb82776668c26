import { describe, expect, it } from 'vitest'
import { expectOk } from '../../errors.js'
import { readCaptionSheet, readDelimited, type ReadSheet } from '../../formats/readSheet.js'
import { reelOf } from '../../reel/document.js'
import { testReel } from '../../test/testReel.js'
import { FRAME_RATES, type FrameRateId } from '../../time/rates.js'
import { matchTable } from './columns.js'
import { findHead, tableOf } from './head.js'
import { previewImport, type ImportOptions, type ImportPreview } from './previewImport.js'
import { guessTimes, readLength, readTime, type TimesAs } from './times.js'

// Sheets as people type them: written here by hand, each with what its author meant.
const RATE = FRAME_RATES['24']
function read(sheet: ReadSheet | string, more: Partial<ImportOptions> = {}): ImportPreview {
  const file = typeof sheet === 'string' ? expectOk(readDelimited(sheet)) : sheet
  const table = tableOf(file, findHead(file.rows))
  const match = matchTable(table.headings, table.rows)
  const { as } = guessTimes(
    table.rows.map((row) => row[match['in'] ?? -1] ?? ''),
    RATE,
  )
  const options = { rate: RATE, times: as, category: 'FX', spellings: {}, seconds: 1, ...more } as const
  return expectOk(previewImport(testReel(), table, match, options))
}
const told = ({ cues }: ImportPreview): string[] =>
  cues.map((cue) => `${cue.category} ${cue.number} ${cue.in}-${cue.out} ${cue.words}`)
const warned = ({ problems }: ImportPreview): string[] =>
  problems.map(({ line, message }) => `${line}: ${message}`)

describe('a sheet as it was typed', () => {
  it('with a title, lines between, sections and durations is read by its meaning', () => {
    const found = read(
      [
        'The Lamp Room;;;',
        'Spotting of reel 1;;;',
        ';;;',
        'TC;Duration;Effect;Remarks',
        'FOLEY;;;',
        '01:00:01:00;00:00:02:00;Steps on gravel;',
        '01:00:05:00;1:12;Coat;',
        'Backgrounds:;;;',
        '01:00:00:00;30;Wind in wires;low',
        'after the break;;;',
        '01:00:40:00;;Generator;',
      ].join('\n'),
    )
    expect(told(found)).toEqual([
      'FOL 1 24-72 Steps on gravel',
      'FOL 2 120-156 Coat',
      'BG 1 0-720 Wind in wires',
      'BG 2 960-984 Generator',
    ])
    expect(warned(found)).toEqual(['10: “after the break” stands alone: taken as a title'])
  })

  it('with `sep=;`, two rows of headings, or none', () => {
    const two = 'sep=;\nTime code;;Sound;\nIn;Out;Description;Category\n01:00:01:00;01:00:02:00;Door;SFX\n'
    expect(told(read(two))).toEqual(['FX 1 24-48 Door'])
    const none = '01:00:01:00,01:00:02:00,Door slams\n01:00:03:00,01:00:04:00,Bell\n'
    expect(told(read(none))).toEqual(['FX 1 24-48 Door slams', 'FX 2 72-96 Bell'])
  })

  it('of bare frame numbers alone is one of cues, not of titles', () => {
    expect(told(read('In\nFOLEY\n252\n300\n'))).toEqual(['FOL 1 252-276 ', 'FOL 2 300-324 '])
  })

  it('never loses a line for a word beside the time; unknown categories are asked once', () => {
    const sheet = [
      'Cue,In,Out,Type,Description,State,Sync',
      'SFX 14,01:00:01:00,01:00:02:00,,Door,done-ish,',
      '14a,01:00:03:00,01:00:04:00,Walla,Crowd,open,01:00:09:00',
      'Fol 3,01:00:05:00,01:00:06:00,,Steps,,',
      'q?,01:00:07:00,01:00:08:00,walla,Crowd goes,,',
      ',01:00:10:00,01:00:09:00,Atmo,Air,,',
      ',01:00:10:00,01:00:11:00,Atmo,Air,,',
    ].join('\n')
    const found = read(sheet)
    expect(told(found)).toEqual([
      'FX 14 24-48 Door',
      'FX 15 72-96 Crowd',
      'FOL 3 120-144 Steps',
      'FX 16 168-192 Crowd goes',
      'BG 1 240-264 Air',
      'BG 2 240-264 Air',
    ])
    expect(found.unknown).toEqual([{ word: 'Walla', lines: 2 }])
    expect(warned(found)).toEqual([
      '2: State: "done-ish" is none of open, in work, ready, approved, omitted; left empty',
      '3: Sync: 01:00:09:00 lies outside of the cue; it is put at the beginning',
      '3: FX 014 is already given out; it becomes FX 015',
      '5: Cue: "q?" is no cue number such as FX 014; left empty',
      '6: Out: 01:00:09:00 is not after the in, 01:00:10:00; it ends 1 second later',
      '7: the same as line 6',
    ])
    expect(told(read(sheet, { spellings: { walla: 'BG' } }))).toContain('BG 14 72-96 Crowd')
  })

  it('text beyond a field’s limit is cut, and said', () => {
    const found = read(`In,Description\n01:00:01:00,${'long '.repeat(600)}`)
    expect(found.cues[0]?.words.length).toBeLessThanOrEqual(2000)
    expect(warned(found)).toEqual(['2: What is heard: cut to 2000 of 2,999 letters'])
    const [cue] = read(`In,Description\n01:00:01:00,x${'😀'.repeat(1200)}`).cues
    expect(cue?.words).toBe(`x${'😀'.repeat(999)}`)
  })
})

describe('times', () => {
  const reading = (text: string, as: TimesAs, rate: FrameRateId = '24', first = 86_400): unknown => {
    const time = readTime(text, as, FRAME_RATES[rate], first)
    return time.ok ? time.value : time.message
  }
  it.each([
    ['01:00:10:05', 'timecode', 86_645],
    ['01.00.10.05', 'timecode', 86_645],
    ['01:00:10.05', 'timecode', 86_645],
    ['0100 1005', 'timecode', 86_645],
    ['01001005', 'timecode', 86_645],
    ['01:00:10', 'timecode', 86_640],
    ['01:00:10.500', 'timecode', 86_652],
    ['01:00:10.50', 'fractions', 86_652],
    ['10.5', 'seconds', 86_652],
    ['10,5', 'seconds', 86_652],
    ['252', 'frames', 86_652],
    // 35 mm: 16 frames a foot, 90 feet a minute at 24 (common practice).
    ['15+12', 'feet', 86_652],
    ['90+00', 'feet', 86_400 + 60 * 24],
  ] as const)('%s as %s', (text, as, frame) => expect(reading(text, as)).toBe(frame))

  it('of a clock at 29.97 drop are those that timecode shows', () => {
    expect(reading('01:10:00', 'timecode', '29.97d', 107_892)).toBe(107_892 + 17_982)
  })

  it.each(['soon', '1:2', '01:00:10:24', '12+16'])('%s is refused in words', (text) =>
    expect(reading(text, text.includes('+') ? 'feet' : 'timecode')).toMatch(/timecode|run from/),
  )

  it.each([
    [['01:00:10:12', '01:00:11:00'], { as: 'timecode', ask: false }],
    [['01:00:10.12', '01:00:11.03'], { as: 'timecode', ask: true }],
    [['01:00:10.12', '01:00:11.80'], { as: 'fractions', ask: false }],
    [['01:00:10,120'], { as: 'fractions', ask: false }],
    [['12', '250'], { as: 'frames', ask: true }],
    [['12.5', '250'], { as: 'seconds', ask: true }],
    [['12+05', '13+00'], { as: 'feet', ask: false }],
    [[], { as: 'timecode', ask: false }],
  ])('%j are taken so', (cells, guess) => expect(guessTimes(cells, RATE)).toEqual(guess))

  it.each([
    ['00:00:02:12', 60],
    ['00:00:02', 48],
    ['2:12', 60],
    ['1:02:12', 1500],
    ['2.5', 60],
    ['2,5 s', 60],
    ['60 fr', 60],
    ['3', 72],
    ['0+08', 8],
  ])('a length of %s', (text, frames) => expect(expectOk(readLength(text, 'timecode', RATE))).toBe(frames))
})

describe('captions', () => {
  const srt = (first: string): string => `1\n${first},000 --> ${first.slice(0, 6)}59,000\nNine.\n`
  it.each([
    ['24', 86_400 - 192, '00:00:05', 192 + 120],
    ['24', 86_400 - 192, '01:00:05', 192 + 120],
    ['23.976', 86_400 - 192, '00:00:05', 192 + 120],
    ['23.976', 86_400 - 192, '01:00:05', 192 + 120],
    ['29.97d', 107_892 - 240, '01:00:05', 240 + 150],
  ] as const)('at %s with the programme at an hour: %i, %s', (rate, firstFrame, first, frame) => {
    const programme = rate === '29.97d' ? 240 : 192
    const doc = testReel({ rate, firstFrame, programme })
    const sheet = expectOk(readCaptionSheet(srt(first), reelOf(doc)))
    const table = tableOf(sheet, findHead(sheet.rows))
    const options = {
      rate: FRAME_RATES[rate],
      times: 'timecode',
      category: 'FX',
      spellings: {},
      seconds: 1,
    } as const
    const found = expectOk(previewImport(doc, table, matchTable(table.headings, table.rows), options))
    expect(found.cues[0]?.in).toBe(frame)
  })

  it('lose styles and entities, and keep what only looks like them', () => {
    const text =
      '00:00:01,000 --> 00:00:02,000\n{\\an8}<i>3 < 4 and 5 > 2</i> &quot;so&#8217;s&quot; <font color="red">red</font>\n'
    expect(expectOk(readCaptionSheet(text, reelOf(testReel()))).rows[1]?.[3]).toBe(
      '3 < 4 and 5 > 2 "so’s" red',
    )
  })
})

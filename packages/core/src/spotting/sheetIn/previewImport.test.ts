import { describe, expect, it } from 'vitest'
import { editCells } from '../../edits/editCells.js'
import { importCues } from '../../edits/importCues.js'
import { spotCue } from '../../edits/spotCue.js'
import { expectOk } from '../../errors.js'
import { readCaptionSheet, readDelimited, readEdlSheet, type ReadSheet } from '../../formats/readSheet.js'
import { apply } from '../../reel/change.js'
import { cuesInOrder, reelOf, type ReelDocument } from '../../reel/document.js'
import { testReel } from '../../test/testReel.js'
import { FRAME_RATES, type FrameRateId } from '../../time/rates.js'
import { cueListCsv } from '../../turnover/cueList.js'
import { matchTable } from './columns.js'
import { findHead, tableOf } from './head.js'
import { previewImport, type ImportOptions, type ImportPreview } from './previewImport.js'
import { guessTimes } from './times.js'

/** Reads a sheet as the import page does before anybody has set anything right; cues without an end are a frame long. */
function preview(
  doc: ReelDocument,
  sheet: ReadSheet,
  rate: FrameRateId = reelOf(doc).rate,
  more: Partial<ImportOptions> = {},
): ImportPreview {
  const table = tableOf(sheet, findHead(sheet.rows))
  const match = matchTable(table.headings, table.rows)
  const times = guessTimes(
    table.rows.map((row) => row[match['in'] ?? -1] ?? ''),
    FRAME_RATES[rate],
  ).as
  const options = {
    rate: FRAME_RATES[rate],
    times,
    category: 'FX',
    spellings: {},
    seconds: 0,
    ...more,
  } as const
  return expectOk(previewImport(doc, table, match, options))
}
const told = (found: ImportPreview): string[] =>
  found.cues.map((cue) => `${cue.category} ${cue.number} ${cue.in}-${cue.out} ${cue.words}`)

describe('importing a sheet', () => {
  it('gives back what was exported, formulas, commas and line ends included', () => {
    let doc = testReel({ rate: '29.97d', firstFrame: 107_892 })
    const odd = ['=SUM(1), "heavy"', 'two\nlines; and, more', '门', "'quoted'", "'=kept", "''-twice"]
    odd.forEach((words, index) => {
      doc = expectOk(
        apply(
          doc,
          expectOk(
            spotCue(doc, {
              id: `q${index}`,
              category: index % 2 ? 'BG' : 'FX',
              in: 1798 * (index + 1),
              out: 1798 * (index + 1) + 5 + index,
              words,
            }),
          ),
        ),
      )
      const set = {
        scene: '12A',
        perspective: 'far',
        onScreen: 'off',
        priority: 'must',
        state: 'in work',
        by: 'Me',
        sync: '+3',
      }
      doc = expectOk(
        apply(
          doc,
          expectOk(
            editCells(doc, {
              cells: Object.entries(set).map(([field, text]) => ({ id: `q${index}`, field, text })),
            }),
          ),
        ),
      )
    })
    const found = preview(
      testReel({ rate: '29.97d', firstFrame: 107_892 }),
      expectOk(readDelimited(cueListCsv(doc))),
    )
    expect(found.problems).toEqual([])
    const without = ({ id: _, ...cue }: { id: string }): object => cue
    expect(found.cues).toEqual(cuesInOrder(doc).map(without))
  })

  it('matches the headings of others, numbers what has no number, and keeps given numbers', () => {
    const sheet = expectOk(
      readDelimited(
        'TC In\tTC Out\tDescription\tType\tCue #\n01:00:01:00\t01:00:02:00\tDoor\tfoley\t\n01:00:03:00\t\tBell\tSFX\tFX 020\n01:00:04:00\t\tBell again\t\t\n',
      ),
    )
    expect(told(preview(testReel(), sheet))).toEqual([
      'FOL 1 24-48 Door',
      'FX 20 72-73 Bell',
      'FX 21 96-97 Bell again',
    ])
  })

  it('takes bare numbers as those of the line’s category', () => {
    const sheet = expectOk(readDelimited('Cue,Category,Timecode,Name\n14,BG,01:00:01:00,x\n7,,01:00:02:00,y'))
    expect(preview(testReel(), sheet).cues).toMatchObject([
      { category: 'BG', number: 14 },
      { category: 'FX', number: 7 },
    ])
  })

  it('leaves out lines that make no sense, each with its line and reason, and takes the rest', () => {
    const lines = [
      'In,Out,What is heard',
      '01:00:01:00,01:00:00:00,out first',
      '01:00:01:24,,no such frame',
      ',,no time',
      '00:59:59:00,,too early',
      'soon,,word',
      '01:00:05:00,,good',
      '02:00:00:00,,late',
      '',
      '=1+1,,x',
    ]
    const found = preview(testReel(), expectOk(readDelimited(lines.join('\r\n'))))
    expect(told(found)).toEqual(['FX 1 24-25 out first', 'FX 2 120-121 good', 'FX 3 86400-86401 late'])
    expect(found.problems.map((problem) => [problem.line, problem.severity])).toEqual([
      [2, 'warning'],
      [3, 'error'],
      [4, 'warning'],
      [5, 'error'],
      [6, 'error'],
      [8, 'warning'],
      [10, 'error'],
    ])
    expect(found.problems[1]?.message).toBe('In: 01:00:01:24: frames run from 0 to 23 at 24 fps')
  })

  it('says that many impossible frames mean another rate, and converts when it is named', () => {
    const sheet = expectOk(
      readDelimited(['In', '01:00:01:24', '01:00:02:29', '01:00:03:27', '01:00:10:15'].join('\n')),
    )
    expect(preview(testReel(), sheet).problems[0]?.message).toMatch(
      /3 lines hold frame numbers that do not exist at 24 fps/,
    )
    // 10 s and 15 of 30 frames are 10.5 s: frame 252 at 24.
    expect(preview(testReel(), sheet, '30').cues.at(-1)).toMatchObject({ in: 252 })
  })

  it('gives a number that is taken to nobody twice', () => {
    const doc = expectOk(
      apply(testReel(), expectOk(spotCue(testReel(), { id: 'a', category: 'FX', in: 1, out: 2 }))),
    )
    const found = preview(
      doc,
      expectOk(readDelimited('Cue,In\nFX 001,01:00:01:00\nFX 002,01:00:02:00\nFX 002,01:00:03:00')),
    )
    expect(found.cues.map((cue) => cue.number)).toEqual([2, 3, 4])
    expect(found.problems.map((problem) => problem.message)).toEqual([
      'FX 001 is already given out; it becomes FX 002',
      'FX 002 is already given out; it becomes FX 003',
      'FX 002 is already given out; it becomes FX 004',
    ])
    expect([
      ...expectOk(
        apply(doc, expectOk(importCues(doc, { cues: found.cues, ids: ['x', 'y', 'z'], from: 'f' }))),
      ).cue.keys(),
    ]).toHaveLength(4)
  })

  it('refuses what is no sheet, and one that is too long', () => {
    expect(readDelimited('')).toMatchObject({ ok: false, code: 'CORE_BAD_SHEET' })
    expect(readDelimited('just a line')).toMatchObject({ ok: false })
    const plain: ImportOptions = {
      ...{ rate: FRAME_RATES['24'], times: 'timecode', category: 'FX', spellings: {}, seconds: 0 },
    }
    const long = {
      headings: ['In'],
      rows: Array.from({ length: 50_000 }, () => ['01:00:00:00']),
      problems: [],
    }
    expect(previewImport(testReel(), long, { in: 0 }, plain)).toMatchObject({
      ok: false,
      message: expect.stringContaining('50,000 lines') as string,
    })
    expect(previewImport(testReel(), long, {}, plain)).toMatchObject({
      ok: false,
      message: expect.stringContaining('which column') as string,
    })
  })
})

describe('captions', () => {
  // After the examples of W3C WebVTT, section 1: cue settings, identifiers, notes, voice tags, two lines.
  const vtt =
    'WEBVTT - a title\n\nNOTE about it\n\n1\n00:11.000 --> 00:13.000 align:start\n<v Roger Bingham>We are in New York &amp; <i>late</i>\n\n00:00:16.500 --> 00:00:18.000\n- Hello\n- You\n\n00:20.000 --> 00:19.000\nbackwards\n'
  it('come in as dialogue, from the programme’s first frame', () => {
    const sheet = expectOk(readCaptionSheet(vtt, reelOf(testReel({ programme: 192 }))))
    expect(told(preview(testReel(), sheet))).toEqual([
      'DX 1 456-504 We are in New York & late',
      'DX 2 588-624 - Hello - You',
    ])
    expect(preview(testReel(), sheet).cues[0]).toMatchObject({ source: 'Roger Bingham' })
    expect(sheet.problems).toMatchObject([{ line: 13 }])
  })
  it('count from midnight when they begin at the reel’s own timecode (SRT)', () => {
    const sheet = expectOk(
      readCaptionSheet('1\r\n01:00:02,500 --> 01:00:03,000\r\nNine.\r\n', reelOf(testReel())),
    )
    expect(told(preview(testReel(), sheet))).toEqual(['DX 1 60-72 Nine.'])
  })
})

describe('EDL', () => {
  it('brings markers, or else its events', () => {
    const events =
      'TITLE: R1\nFCM: NON-DROP FRAME\n\n001  AX       V     C        00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00\n* FROM CLIP NAME: yard wide\n002  AX       V     D    012 00:00:00:00 00:00:02:00 01:00:02:00 01:00:04:00\n'
    expect(told(preview(testReel(), expectOk(readEdlSheet(events, FRAME_RATES['24']))))).toEqual([
      'FX 1 0-48 yard wide',
      'FX 2 48-96 AX',
    ])
    const marked = `${events}* MARK: 01:00:01:12 kettle lid\n`
    expect(told(preview(testReel(), expectOk(readEdlSheet(marked, FRAME_RATES['24']))))).toEqual([
      'FX 1 36-37 kettle lid',
    ])
    expect(readEdlSheet('nothing', FRAME_RATES['24'])).toMatchObject({ ok: false })
  })
})

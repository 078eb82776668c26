import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { editCue } from '../edits/editRecords.js'
import { spotCue } from '../edits/spotCue.js'
import { csvCell, writeCsv } from '../formats/csv.js'
import { after } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { cueListCsv, cueTable, LISTED_FIELDS, listedCues, type ListGroup } from './cueList.js'
import { DEFAULT_NAME_RULE, fileName, nameByRule } from './nameFiles.js'

describe('names of files', () => {
  const reel = { company: 'Lamp & Co.', show: 'Last Lamp', name: 'Reel 1', nameRule: DEFAULT_NAME_RULE }

  it.each([
    [['Last Lamp', 'Reel 1'], 'Last-Lamp_Reel-1'],
    [['  ../../etc/passwd ', 'a:b'], 'etc-passwd_a-b'],
    [['門', 'дверь', 'Tür'], '門_дверь_Tür'],
    [['', '***', ''], 'untitled'],
    [['CON', '.'], 'CON'],
    [['x'.repeat(300)], 'x'.repeat(120)],
  ])('of %j are %s', (parts, name) => {
    expect(fileName(...parts)).toBe(name)
  })

  it.each([
    ['letters beyond the basic plane', '\u{20BB7}'],
    ['letters of three bytes', '門'],
    ['letters of two', 'ж'],
    ['plain ones', 'x'],
  ])('keep what tells them apart, cut between characters, and fit every disk: %s', (_, letter) => {
    const name = fileName(letter.repeat(300), 'Reel 1', 'mix')
    expect(name).toMatch(/_Reel-1_mix$/)
    expect([...name].length).toBeLessThanOrEqual(122)
    expect(Buffer.byteLength(name)).toBeLessThanOrEqual(202)
    expect(decodeURIComponent(encodeURIComponent(name))).toBe(name)
  })

  it('follow the reel’s rule, with what it doesn’t know left out', () => {
    const named = (nameRule: string): string => nameByRule({ ...reel, nameRule }, 'mix', '2031-05-09')
    expect(named(DEFAULT_NAME_RULE)).toBe('Last-Lamp_Reel-1_2031-05-09_mix')
    expect(named('{COMPANY}_{unknown}_{Function}-final')).toBe('Lamp-Co_mix-final')
    expect(named('   ')).toBe('Last-Lamp_Reel-1_2031-05-09_mix')
    expect(named('{nothing}')).toBe('untitled')
  })
})

describe('a cell of a list', () => {
  it.each([
    ['plain', 'plain'],
    ['a,b', '"a,b"'],
    ['say "now"', '"say ""now"""'],
    ['two\nlines', '"two\nlines"'],
    ['=1+1', "'=1+1"],
    ['@cmd', "'@cmd"],
    ['-3 dB', "'-3 dB"],
    ['\t=x', "'\t=x"],
    [' =1+1', "' =1+1"],
    ['\n=1+1', '"\'\n=1+1"'],
    ['\u00a0+1', "'\u00a0+1"],
    ['＝1+1', "'＝1+1"],
    [7, '7'],
  ])('%j is written %s', (value, written) => {
    expect(csvCell(value)).toBe(written)
  })

  it('comes back as it went, read by another’s reader (papaparse)', () => {
    const rows = [
      ['In', 'What'],
      ['01:00', 'door, "heavy"\nand slow'],
      ['', '門 — дверь'],
    ]
    const text = writeCsv(rows)
    expect(text.startsWith('\ufeff')).toBe(true)
    expect(Papa.parse<string[]>(text.slice(1), { skipEmptyLines: true }).data).toEqual(rows)
  })
})

describe('the cue list', () => {
  const doc = ((): ReturnType<typeof testReel> => {
    let made = after(
      testReel(),
      spotCue(testReel(), { id: 'b', category: 'BG', in: 240, out: 480, words: 'rain' }),
    )
    made = after(made, spotCue(made, { id: 'a', category: 'FX', in: 24, out: 25, words: 'door, slams' }))
    return after(made, editCue(made, { id: 'a', fields: { state: 'omitted', omitReason: 'cut' } }))
  })()

  it('has a line a cue in the order of time, omitted ones with their reason', () => {
    const [head = [], ...lines] = cueTable(doc)
    expect(head).toEqual(LISTED_FIELDS.map(({ title }) => title))
    expect(lines).toHaveLength(2)
    const cell = (line: number, key: string): string | undefined =>
      lines[line]?.[LISTED_FIELDS.findIndex((field) => field.key === key)]
    expect([cell(0, 'in'), cell(0, 'words'), cell(0, 'state'), cell(0, 'omitReason')]).toEqual([
      '01:00:01:00',
      'door, slams',
      'omitted',
      'cut',
    ])
    expect([cell(1, 'in'), cell(1, 'out')]).toEqual(['01:00:10:00', '01:00:20:00'])
  })

  it('has the columns that are asked for, from left to right, and stands together by what is asked', () => {
    const by = (group: ListGroup | null, ...columns: string[]) => cueTable(doc, { columns, group })
    expect(by(null, 'words', 'gone', 'code')).toEqual([
      ['What is heard', 'Cue'],
      ['door, slams', 'FX 001'],
      ['rain', 'BG 001'],
    ])
    expect(by(null, 'gone')[0]).toHaveLength(LISTED_FIELDS.length)
    // Categories in their own order, whatever else by name.
    let made = after(doc, spotCue(doc, { id: 'c', category: 'BG', in: 0, out: 5, words: 'wind' }))
    made = after(made, editCue(made, { id: 'c', fields: { source: 'Ida 10' } }))
    made = after(made, editCue(made, { id: 'b', fields: { source: 'Ida 9' } }))
    const grouped = (group: ListGroup): unknown =>
      listedCues(made, { columns: null, group }).map(({ heading, cues }) => [
        heading,
        ...cues.map(({ id }) => id),
      ])
    expect(grouped('category')).toEqual([
      ['FX', 'a'],
      ['BG', 'c', 'b'],
    ])
    expect(grouped('source')).toEqual([
      ['', 'a'],
      ['Ida 9', 'b'],
      ['Ida 10', 'c'],
    ])
  })

  it('goes out as text that reads back', () => {
    const parsed = Papa.parse<string[]>(cueListCsv(doc).slice(1), { skipEmptyLines: true })
    expect(parsed.errors).toEqual([])
    expect(parsed.data).toEqual(cueTable(doc))
  })
})

import { strToU8, zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sendSheet, type SheetSent } from '../test/sendSheet.js'
import { startTestServer, type TestServer } from '../test/testServer.js'

// Sheets as offices make them: each byte written here, so that nothing that reads them has made them.
let server: TestServer
let reel = ''
beforeAll(async () => {
  server = await startTestServer()
  reel = await server.makeReel()
})
afterAll(() => server.close())

const send = (name: string, content: Uint8Array, query = ''): Promise<SheetSent> =>
  sendSheet(server, reel, name, content, query)

describe('text in the encodings of offices', () => {
  const sheet = 'In\tWords\r\n01:00:01:00\tTür “auf” … 5 €\r\n'
  const utf16be = Buffer.from(sheet, 'utf16le').swap16()
  it.each([
    ['UTF-8', Buffer.from(sheet)],
    ['UTF-8 with a mark', Buffer.from(`\ufeff${sheet}`)],
    ['UTF-16 without a mark', Buffer.from(sheet, 'utf16le')],
    ['UTF-16, the other way round', utf16be],
    ['UTF-16 with a mark', Buffer.from(`\ufeff${sheet}`, 'utf16le')],
    // Code page 1252: the curly quotes, the ellipsis and the euro stand where ISO 8859-1 has controls.
    [
      'Windows-1252',
      Buffer.from(
        sheet.replace('“', '\x93').replace('”', '\x94').replace('…', '\x85').replace('€', '\x80'),
        'latin1',
      ),
    ],
  ])('%s is read as what was typed', async (_, bytes) => {
    expect((await send('sheet.csv', bytes)).body.rows.at(-1)).toEqual(['01:00:01:00', 'Tür “auf” … 5 €'])
  })

  it('control characters are taken out, and told', async () => {
    const { body } = await send('a.csv', Buffer.from('In,Words\n01:00:01:00,Do\0or\n01:00:02:00,Bell\n'))
    expect(body.rows[1]).toEqual(['01:00:01:00', 'Door'])
    expect(body.problems).toEqual([
      { line: 2, severity: 'warning', message: '1 control character taken out' },
    ])
  })

  it.each([
    ['a.csv', '%PDF-1.7\n...', /^a\.csv is a PDF, not a sheet\. Ask for the sheet it was made from/],
    ['b.csv', '\x89PNG\r\n\x1a\n', /^b\.csv is a picture, not a sheet/],
    [
      'c.xls',
      '\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1',
      /^c\.xls is a workbook in the old form \(\.xls\)\. Open it and save it as XLSX/,
    ],
    ['d.csv', 'In,Words\n01:00:01:00,"Door\n01:00:02:00,Bell', /opened in line 2 is never closed/],
  ])('%s of another kind is refused as what it is', async (name, content, message) => {
    const { status, body } = await send(name, Buffer.from(content, 'latin1'))
    expect([status, body.code]).toEqual([422, 'SHEET_UNREADABLE'])
    expect(body.message).toMatch(message)
  })

  it('an OpenDocument spreadsheet is refused with the way out', async () => {
    const ods = zipSync({
      mimetype: [strToU8('application/vnd.oasis.opendocument.spreadsheet'), { level: 0 }],
    })
    expect((await send('e.ods', ods)).body.message).toBe(
      'e.ods is an OpenDocument spreadsheet (.ods). Open it and save it as XLSX or CSV.',
    )
  })
})

const NS = 'http://schemas.openxmlformats.org'
/** A workbook of sheets by name: their cells, and what stands after them (ECMA-376). */
function workbook(
  sheets: readonly { name: string; rows: string; after?: string; before?: string; hidden?: boolean }[],
): Uint8Array {
  const rels = `${NS}/officeDocument/2006/relationships`
  const types =
    '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>'
  const styles = `<styleSheet xmlns="${NS}/spreadsheetml/2006/main"><fonts><font/></fonts><fills><fill/></fills><borders><border/></borders><cellStyleXfs><xf/></cellStyleXfs><cellXfs><xf numFmtId="0"/><xf numFmtId="21" applyNumberFormat="1"/><xf numFmtId="14" applyNumberFormat="1"/></cellXfs></styleSheet>`
  return zipSync({
    '[Content_Types].xml': strToU8(`<Types xmlns="${NS}/package/2006/content-types">${types}</Types>`),
    '_rels/.rels': strToU8(
      `<Relationships xmlns="${NS}/package/2006/relationships"><Relationship Id="a" Type="${rels}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    'xl/styles.xml': strToU8(styles),
    'xl/workbook.xml': strToU8(
      `<workbook xmlns="${NS}/spreadsheetml/2006/main" xmlns:r="${rels}"><sheets>${sheets
        .map(
          ({ name, hidden }, at) =>
            `<sheet name="${name}" sheetId="${at + 1}" ${hidden ? 'state="hidden" ' : ''}r:id="s${at}"/>`,
        )
        .join('')}</sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      `<Relationships xmlns="${NS}/package/2006/relationships"><Relationship Id="st" Type="${rels}/styles" Target="styles.xml"/>${sheets
        .map(
          (_, at) =>
            `<Relationship Id="s${at}" Type="${rels}/worksheet" Target="worksheets/sheet${at}.xml"/>`,
        )
        .join('')}</Relationships>`,
    ),
    ...Object.fromEntries(
      sheets.map(({ rows, before = '', after = '' }, at) => [
        `xl/worksheets/sheet${at}.xml`,
        strToU8(
          `<worksheet xmlns="${NS}/spreadsheetml/2006/main">${before}<sheetData>${rows}</sheetData>${after}</worksheet>`,
        ),
      ]),
    ),
  })
}
/** A row: texts as they are, numbers with their style: `1|0.5` is half a day as a time. */
const row = (at: number, cells: readonly string[], more = ''): string =>
  `<row r="${at}"${more}>${cells
    .map((cell, index) => {
      const place = `r="${String.fromCharCode(65 + index)}${at}"`
      const [style, value] = cell.split('|')
      if (cell === '') return ''
      return value === undefined
        ? `<c ${place} t="inlineStr"><is><t>${cell}</t></is></c>`
        : `<c ${place} s="${style}"><v>${value}</v></c>`
    })
    .join('')}</row>`

describe('a workbook', () => {
  const book = workbook([
    { name: 'Notes', rows: row(1, ['Read this first']) },
    {
      name: 'Old &amp; done',
      hidden: true,
      rows: [1, 2, 3, 4, 5, 6].map((at) => row(at, ['In', 'a', 'b', 'c'])).join(''),
    },
    {
      name: 'Reel 1',
      before: '<cols><col min="5" max="6" width="9" hidden="1"/></cols>',
      rows: [
        row(1, ['Category', 'In', 'Words', 'Scene']),
        row(2, ['FOLEY', `1|${3610 / 86_400}`, 'Steps', '2|46093']),
        row(3, ['', '01:00:12:00', 'Co_x0000_at', '12'], ' hidden="1"'),
        row(4, ['SFX', '01:00:14:00', 'Door', '13']),
      ].join(''),
      after: '<mergeCells count="1"><mergeCell ref="A2:A3"/></mergeCells>',
    },
  ])

  it('is read at the fullest sheet that can be seen; joined cells are filled, times of day are times', async () => {
    const { body } = await send('book.xlsx', book)
    expect([body.sheets, body.sheet]).toEqual([['Notes', 'Old & done', 'Reel 1'], 'Reel 1'])
    expect(body.rows).toEqual([
      ['Category', 'In', 'Words', 'Scene'],
      ['FOLEY', '01:00:10', 'Steps', '2026-03-12'],
      ['FOLEY', '01:00:12:00', 'Coat', '12'],
      ['SFX', '01:00:14:00', 'Door', '13'],
    ])
    expect(body.problems.map(({ line, message }) => `${line}: ${message}`)).toEqual([
      '1: 1 hidden row and 2 hidden columns are read like the others',
      '2: D2 is a date, 2026-03-12: was it a scene or a number before the spreadsheet took it for one?',
      '3: 1 control character taken out',
    ])
  })

  it('is read at another sheet when that is asked for', async () => {
    const { body } = await send('book.xlsx', book, `?sheet=${encodeURIComponent('Old & done')}`)
    expect([body.sheet, body.rows.length]).toEqual(['Old & done', 6])
  })
})

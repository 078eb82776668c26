import { randomUUID } from 'node:crypto'
import { blankCue, type Change, type ReelRecord } from '@yodel/core'
import { strToU8, zipSync, type Zippable } from 'fflate'
import writeXlsxFile from 'write-excel-file/node'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sendSheet, type SheetSent } from '../test/sendSheet.js'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { checkWorkbook } from './checkWorkbook.js'

let server: TestServer
let reel = ''
beforeAll(async () => {
  server = await startTestServer()
  reel = await server.makeReel()
})
afterAll(() => server.close())

/** A workbook with one sheet, as small as one can be. */
const workbook = (cells: string): Zippable => {
  const ns = 'http://schemas.openxmlformats.org'
  const rels = `${ns}/officeDocument/2006/relationships`
  const types =
    '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>'
  return {
    '[Content_Types].xml': strToU8(`<Types xmlns="${ns}/package/2006/content-types">${types}</Types>`),
    '_rels/.rels': strToU8(
      `<Relationships xmlns="${ns}/package/2006/relationships"><Relationship Id="a" Type="${rels}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    'xl/workbook.xml': strToU8(
      `<workbook xmlns="${ns}/spreadsheetml/2006/main" xmlns:r="${rels}"><sheets><sheet name="S" sheetId="1" r:id="b"/></sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      `<Relationships xmlns="${ns}/package/2006/relationships"><Relationship Id="b" Type="${rels}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    ),
    'xl/worksheets/sheet1.xml': strToU8(
      `<worksheet xmlns="${ns}/spreadsheetml/2006/main"><sheetData>${cells}</sheetData></worksheet>`,
    ),
  }
}
const cell = (at: string, text: string): string =>
  `<row r="${at.replace(/\D/g, '')}"><c r="${at}" t="inlineStr"><is><t>${text}</t></is></c></row>`
const sheet = cell('A1', 'In') + cell('A2', '01:00:01:00')

async function upload(
  name: string,
  content: Uint8Array,
): Promise<SheetSent['body'] & Pick<SheetSent, 'status'>> {
  const { status, body } = await sendSheet(server, reel, name, content)
  return { status, ...body }
}

/** Says whether the server answers others while something long goes on. */
async function answersMeanwhile(long: Promise<unknown>): Promise<boolean> {
  let over = false
  void long.finally(() => (over = true)).catch(() => undefined)
  await server.app.inject('/api/docs/json')
  for (let asked = 0; asked < 20; asked++) await server.app.inject('/api/shows')
  return !over
}

describe('a workbook of a stranger', () => {
  it('is read when it is small and whole', async () => {
    expect(await upload('a.xlsx', zipSync(workbook(sheet)))).toMatchObject({
      status: 200,
      rows: [['In'], ['01:00:01:00']],
    })
    const written = await writeXlsxFile([[{ value: 'In' }], [{ value: '01:00:01:00' }]]).toBuffer()
    expect(checkWorkbook(written)).toBeNull()
  })

  it('with a stray cell in the last corner is refused, and says where the cell is', async () => {
    const answer = await upload('stray.xlsx', zipSync(workbook(sheet + cell('XFD1048576', 'x'))))
    expect(answer).toMatchObject({ status: 422, code: 'SHEET_UNREADABLE' })
    expect(answer.message).toContain('a cell stands at XFD1048576, and a sheet may have 500 columns')
  })

  it('finds the stray cell wherever the pieces are cut', () => {
    for (let blanks = 65_000; blanks < 65_600; blanks += 7)
      expect(
        checkWorkbook(zipSync(workbook(`${' '.repeat(blanks)}${cell('ZZZ1', 'x')}`), { level: 0 })),
      ).toContain('a cell stands at ZZZ1')
  })

  it('that unpacks to hundreds of megabytes is refused, also when it claims to be small', async () => {
    const bomb = Buffer.from(zipSync(workbook(sheet + ' '.repeat(120 * 1024 ** 2))))
    expect(bomb.length).toBeLessThan(400_000)
    expect((await upload('bomb.xlsx', bomb)).message).toContain('it unpacks to more than 96 MB')
    // Sizes stand in the heads of the parts and in the directory; all are made small.
    const size = Buffer.alloc(4)
    size.writeUInt32LE(120 * 1024 ** 2 + workbookHead)
    for (let at = bomb.indexOf(size); at >= 0; at = bomb.indexOf(size, at)) bomb.writeUInt32LE(100, at)
    expect((await upload('liar.xlsx', bomb)).message).toContain('it unpacks to more than 96 MB')
  })

  it('of thousands of parts is refused', () => {
    const parts = Object.fromEntries(Array.from({ length: 2100 }, (_, at) => [`x${at}`, strToU8('x')]))
    expect(checkWorkbook(zipSync({ ...workbook(sheet), ...parts }, { level: 0 }))).toContain(
      'more than 2000 parts',
    )
  })
})
const workbookHead = (workbook(sheet)['xl/worksheets/sheet1.xml'] as Uint8Array).length

describe('what would take the server’s memory or time', () => {
  it('ends its own thread alone: text of nothing but commas', async () => {
    const long = upload('commas.csv', Buffer.alloc(60 * 1024 ** 2, ','))
    expect(await answersMeanwhile(long)).toBe(true)
    expect(await long).toMatchObject({
      status: 422,
      code: expect.stringMatching(/TOO_MUCH|SHEET_UNREADABLE/) as string,
    })
    expect(await upload('a.csv', Buffer.from('In\n01:00:01:00\n'))).toMatchObject({ status: 200 })
  })

  it('leaves the server answering while paper of thousands of cues is written', async () => {
    const cues = Array.from({ length: 4000 }, (_, at): ReelRecord => {
      const cue = blankCue({ category: 'FX', number: at + 1, in: at, out: at + 1, sync: at })
      return { ...cue, id: `c${at}`, words: `Door number ${at} is shut with a bang` }
    })
    const change: Change = { label: 'Many', added: cues, updated: [], removed: [] }
    const payload = { changeId: randomUUID(), base: 1, role: 'do', target: null, change }
    const done = await server.app.inject({ method: 'POST', url: `/api/reels/${reel}/changes`, payload })
    expect(done.statusCode).toBe(200)
    const paper = server.app.inject(`/api/reels/${reel}/cues.pdf`)
    expect(await answersMeanwhile(paper)).toBe(true)
    expect((await paper).rawPayload.subarray(0, 5).toString()).toBe('%PDF-')
    expect(
      (await server.app.inject(`/api/reels/${reel}/cues.xlsx`)).rawPayload.subarray(0, 2).toString(),
    ).toBe('PK')
  })
})

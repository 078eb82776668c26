import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  documentOf,
  expectOk,
  FRAME_RATES,
  findHead,
  matchTable,
  tableOf,
  previewImport,
  recordsOf,
  spotCue,
  cuesInOrder,
  cueTable,
  editCells,
  type Analysis,
  type Job,
  type Picture,
  type ReelDocument,
  type ReelState,
  type Watched,
  type Milestone,
  type ReelAt,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sendSheet, type SheetSent } from '../test/sendSheet.js'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let id: string
beforeAll(async () => {
  server = await startTestServer()
  const made = await server.app.inject({
    method: 'POST',
    url: '/api/reels',
    payload: {
      showId: null,
      showName: 'Harbour',
      name: 'Reel 1',
      rate: '25',
      firstTimecode: '01:00:00:00',
      lengthSeconds: 600,
    },
  })
  id = made.json<{ id: string }>().id
})
afterAll(() => server.close())

const upload = (name: string, content: Buffer | string): Promise<SheetSent> =>
  sendSheet(server, id, name, content)
const state = async (): Promise<ReelState> => (await server.app.inject(`/api/reels/${id}`)).json<ReelState>()
const documentNow = async (): Promise<ReelDocument> => documentOf((await state()).records)
const commit = async (compute: (doc: ReelDocument) => ReturnType<typeof spotCue>): Promise<void> => {
  const { seq, records } = await state()
  const answer = await server.app.inject({
    method: 'POST',
    url: `/api/reels/${id}/changes`,
    payload: {
      changeId: randomUUID(),
      base: seq,
      role: 'do',
      target: null,
      change: expectOk(compute(documentOf(records))),
    } as never,
  })
  expect(answer.statusCode).toBe(200)
}

describe('a sheet that comes in', () => {
  it('is read for what it is, whatever its name', async () => {
    const csv = await upload('sheet.csv', 'In;Out;Description\n01:00:01:00;;Door\n')
    expect(csv.body).toMatchObject({
      rows: [
        ['In', 'Out', 'Description'],
        ['01:00:01:00', '', 'Door'],
      ],
    })
    expect(
      (await upload('x.txt', Buffer.from('In\tSound\r\n01:00:01:00\tTür\r\n', 'latin1'))).body.rows,
    ).toContainEqual(['01:00:01:00', 'Tür'])
    expect(
      (
        await upload(
          'x.csv',
          Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('In\tWords\n01:00:01:00\t門\n', 'utf16le')]),
        )
      ).body.rows,
    ).toContainEqual(['01:00:01:00', '門'])
    expect((await upload('x.csv', 'WEBVTT\n\n00:01.000 --> 00:02.000\nNine.\n')).body.rows).toContainEqual([
      ...['DX', '01:00:01:00', '01:00:02:00', 'Nine.', ''],
    ])
    expect(
      (await upload('x', 'TITLE: R\n001  AX  V  C  00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00\n')).body
        .rows,
    ).toHaveLength(2)
  })
  it('is refused in words when it is no sheet', async () => {
    const tell = async (name: string, content: Buffer | string) => {
      const { status, body } = await upload(name, content)
      return [status, body.code, body.message]
    }
    expect(await tell('tone.csv', Buffer.from([1, 2, 0, 3, 0]))).toEqual([
      422,
      'SHEET_UNREADABLE',
      expect.stringMatching(/^tone\.csv is not text/),
    ])
    expect(await tell('a.csv', '')).toEqual([422, 'UPLOAD_EMPTY', expect.stringMatching(/^a\.csv is empty/)])
    expect(await tell('b.xlsx', Buffer.from('PK\u0003\u0004 nothing'))).toEqual([
      422,
      'SHEET_UNREADABLE',
      expect.stringMatching(/^b\.xlsx can't be read as a workbook/),
    ])
    expect(
      await tell(
        'c.wav',
        readFileSync(ffmpeg(path.join(server.root, 'c.wav'), '-f', 'lavfi', '-i', 'sine=duration=0.1')),
      ),
    ).toEqual([422, 'SHEET_UNREADABLE', expect.stringContaining('holds no markers')])
  })
})

describe('a sheet that goes out', () => {
  beforeAll(async () => {
    for (const [index, words] of ['Gate bolt, "iron"', '=SUM(A1)', 'Škoda door, Дверь', 'Rain'].entries())
      await commit((doc) =>
        spotCue(doc, {
          id: `q${index}`,
          category: index === 3 ? 'BG' : 'FX',
          in: 25 * index,
          out: 25 * index + 12,
          words,
        }),
      )
    await commit((doc) =>
      editCells(doc, {
        cells: [
          { id: 'q0', field: 'scene', text: '12' },
          { id: 'q1', field: 'state', text: 'omitted' },
          { id: 'q0', field: 'sync', text: '+2' },
        ],
      }),
    )
  })
  it('comes back the same from a workbook', async () => {
    const file = (await server.app.inject(`/api/reels/${id}/cues.xlsx`)).rawPayload
    const saved = path.join(server.root, 'cues.xlsx')
    writeFileSync(saved, file)
    execFileSync('unzip', ['-tqq', saved])
    const { body } = await upload('cues.xlsx', file)
    const doc = await documentNow()
    expect(body.rows).toEqual(cueTable(doc))
    const table = tableOf(body, findHead(body.rows))
    const empty = documentOf(recordsOf(doc).filter((record) => record.kind !== 'cue'))
    const found = expectOk(
      previewImport(empty, table, matchTable(table.headings, table.rows), {
        ...{ rate: FRAME_RATES['25'], times: 'timecode', category: 'FX', spellings: {}, seconds: 1 },
      }),
    )
    expect(found.problems).toEqual([])
    expect(found.cues).toEqual(cuesInOrder(doc).map(({ id: _, ...cue }) => cue))
  })
  it('is a PDF in which every cue can be read (poppler)', async () => {
    for (let index = 0; index < 60; index++)
      await commit((doc) =>
        spotCue(doc, {
          id: `m${index}`,
          category: 'FOL',
          in: 500 + index,
          out: 520 + index,
          words: `Step ${index}, ${'slow and heavy '.repeat(index % 9)}`,
        }),
      )
    const many = (what: string): string =>
      Array.from({ length: 180 }, (_, index) => `${what}${index}`).join(' ')
    await commit((doc) =>
      spotCue(doc, { id: 'tall', category: 'FX', in: 900, out: 920, words: many('word') }),
    )
    const cells = [
      { id: 'tall', field: 'notes', text: many('note') },
      { id: 'tall', field: 'by', text: many('who') },
    ]
    await commit((doc) => editCells(doc, { cells }))
    const answer = await server.app.inject(`/api/reels/${id}/cues.pdf?thumbnails=1`)
    expect(answer.headers['content-disposition']).toMatch(/Harbour_Reel-1_\d{4}-\d\d-\d\d_cues\.pdf/)
    const file = path.join(server.root, 'cues.pdf')
    writeFileSync(file, answer.rawPayload)
    const text = execFileSync('pdftotext', ['-layout', file, '-']).toString()
    const pages = Number(/Pages:\s+(\d+)/.exec(execFileSync('pdfinfo', [file]).toString())?.[1])
    expect(pages).toBeGreaterThan(2)
    expect(text).toContain(`${pages} of ${pages}`)
    for (const words of [
      'Gate bolt, "iron"',
      '=SUM(A1)',
      'Škoda door, Дверь',
      '01:00:01:00',
      'sync 01:00:00:02',
      'scene 12',
    ])
      expect(text).toContain(words)
    // A row taller than a page goes on under the repeated head, word for word.
    for (const what of ['word', 'note', 'who'])
      for (let index = 0; index < 180; index++) expect(text).toMatch(new RegExp(`\\b${what}${index}\\b`))
    expect(text.match(/What is heard/g)?.length).toBe(pages)
    expect([...text.matchAll(/FOL \d{3}/g)]).toHaveLength(60)
  })
})

describe('milestones', () => {
  it('bring back the sheet as it was', async () => {
    const before = await documentNow()
    const milestone = (
      await server.app.inject({
        method: 'POST',
        url: `/api/reels/${id}/milestones`,
        payload: { name: 'Spotting' },
      })
    ).json<Milestone>()
    await commit((doc) => editCells(doc, { cells: [{ id: 'q3', field: 'words', text: 'Rain, harder' }] }))
    const then = (await server.app.inject(`/api/reels/${id}/at/${milestone.seq}`)).json<ReelAt>()
    expect(documentOf(then.records)).toEqual(before)
    expect((await server.app.inject(`/api/reels/${id}/milestones`)).json<Milestone[]>()).toEqual([milestone])
    expect((await server.app.inject(`/api/reels/${id}/at/9999`)).statusCode).toBe(404)
    expect(
      (
        await server.app.inject({
          method: 'POST',
          url: `/api/reels/${id}/milestones`,
          payload: { name: ' ' },
        })
      ).statusCode,
    ).toBe(400)
  })
})

describe('watched stretches', () => {
  it('add up by person and category, also when they come at once', async () => {
    const watch = (from: number, to: number) =>
      server.app.inject({
        method: 'POST',
        url: `/api/reels/${id}/watched`,
        payload: { category: 'FX', from, to },
      })
    await Promise.all([watch(0, 100), watch(100, 200), watch(150, 300), watch(500, 600)])
    expect((await server.app.inject(`/api/reels/${id}/watched`)).json<Watched[]>()).toEqual([
      {
        person: 'Tester',
        category: 'FX',
        spans: [
          { from: 0, to: 300 },
          { from: 500, to: 600 },
        ],
      },
    ])
    expect((await watch(5, 5)).statusCode).toBe(400)
    expect(
      (
        await server.app.inject({
          method: 'POST',
          url: '/api/reels/nowhere/watched',
          payload: { category: 'FX', from: 0, to: 1 },
        })
      ).statusCode,
    ).toBe(404)
  })
})

describe('the analysis of a picture', () => {
  it('finds the 2-pop, the hits and the cuts of a movie that ffmpeg made', async () => {
    // Two shots of 3 s; a 1 kHz pop on frame 25, hits of noise at 4 s and 5 s.
    const movie = ffmpeg(
      path.join(server.root, 'shots.mp4'),
      ...[
        '-f',
        'lavfi',
        '-i',
        'color=navy:size=320x180:rate=25:duration=3',
        '-f',
        'lavfi',
        '-i',
        'color=orange:size=320x180:rate=25:duration=3',
      ],
      ...[
        '-f',
        'lavfi',
        '-i',
        "aevalsrc='if(between(t,1,1.04),0.1*sin(2*PI*1000*t),0)+if(gt(t,4),0.4*(random(0)-0.5)*exp(-30*mod(t,1)),0):s=48000:d=6'",
      ],
      ...[
        '-filter_complex',
        '[0][1]concat=n=2[v]',
        '-map',
        '[v]',
        '-map',
        '2:a',
        '-c:v',
        'libx264',
        '-preset',
        'ultrafast',
        '-c:a',
        'pcm_s16le',
        '-f',
        'mov',
      ],
    )
    const picture = (
      await server.app.inject({ method: 'POST', url: '/api/pictures/pick', payload: { path: movie } })
    ).json<Picture>()
    expect(await server.settled(picture.jobId ?? '')).toMatchObject({ state: 'done' } satisfies Partial<Job>)
    const analysis = (await server.app.inject(`/api/pictures/${picture.id}/analysis`)).json<Analysis>()
    expect(analysis.cuts).toEqual([75])
    expect(analysis.twoPop).toEqual({ frame: 25, frames: 1 })
    expect(analysis.movement).toHaveLength(150)
    const near = (seconds: number): boolean =>
      analysis.onsets.some((onset) => Math.abs(onset.at - seconds * 48_000) < 960)
    expect([near(1), near(4), near(5), analysis.onsets.length <= 4]).toEqual([true, true, true, true])
  })
})

import { randomUUID } from 'node:crypto'
import {
  apply,
  documentOf,
  expectOk,
  recordsOf,
  spotCue,
  type ReelDocument,
  type ReelState,
} from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { reelAnswer } from './reelAnswer.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const open = async (id: string, me = 'Ines'): Promise<ReelState> =>
  JSON.parse(await reelAnswer(server.services.db, id, me)) as ReelState

it('whoever opens a reel while it is worked on gets records and number that belong together', async () => {
  const id = await server.makeReel()
  let doc: ReelDocument = documentOf((await open(id)).records)
  const at = new Map([[1, recordsOf(doc)]])
  const opened: Promise<ReelState>[] = []
  for (let seq = 1; seq <= 25; seq++) {
    const change = expectOk(spotCue(doc, { id: `c${seq}`, category: 'FX', in: seq, out: seq + 1 }))
    const payload = { changeId: randomUUID(), base: seq, role: 'do', target: null, change }
    opened.push(open(id), open(id), open(id))
    expect(
      (await server.app.inject({ method: 'POST', url: `/api/reels/${id}/changes`, payload })).statusCode,
    ).toBe(200)
    doc = expectOk(apply(doc, change))
    at.set(seq + 1, recordsOf(doc))
    expect((await open(id)).seq).toBe(seq + 1)
  }
  for (const state of await Promise.all(opened)) {
    expect(state.log).toHaveLength(state.seq)
    expect(
      recordsOf(documentOf(state.records))
        .map((record) => record.id)
        .sort(),
    ).toEqual(
      at
        .get(state.seq)
        ?.map((record) => record.id)
        .sort(),
    )
  }
})

it('is the same answer for all but for their name, and forgets the reels that nobody opens', async () => {
  const ids = await Promise.all(Array.from({ length: 9 }, () => server.makeReel()))
  for (const id of [...ids, ...ids]) expect((await open(id)).records[0]).toMatchObject({ id })
  const [first = ''] = ids
  const [one, two] = await Promise.all([open(first, 'O’Hara "Jo"'), open(first, 'Idris')])
  expect([one.me, two.me]).toEqual(['O’Hara "Jo"', 'Idris'])
  expect({ ...one, me: '' }).toEqual({ ...two, me: '' })
  await expect(open('nowhere')).rejects.toMatchObject({ code: 'REEL_MISSING' })
})

import { randomUUID } from 'node:crypto'
import {
  documentOf,
  editCue,
  expectOk,
  spotCue,
  type Change,
  type Committed,
  type LoggedChange,
  type ReelDocument,
  type ReelState,
} from '@yodel/core'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let id: string
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())
beforeEach(async () => {
  const payload = {
    ...{ showId: null, showName: 'Show', name: 'Reel 1', rate: '24' },
    ...{ firstTimecode: '01:00:00:00', lengthSeconds: 600 },
  }
  id = (await server.app.inject({ method: 'POST', url: '/api/reels', payload })).json<{ id: string }>().id
})

const open = async (): Promise<{ doc: ReelDocument; seq: number }> => {
  const { records, seq } = (await server.app.inject(`/api/reels/${id}`)).json<ReelState>()
  return { doc: documentOf(records), seq }
}
const send = (change: Change, base: number, changeId = randomUUID()) =>
  server.app.inject({
    method: 'POST',
    url: `/api/reels/${id}/changes`,
    payload: { changeId, base, role: 'do', target: null, change } as never,
  })
const since = async (seq: number): Promise<LoggedChange[]> =>
  (await server.app.inject(`/api/reels/${id}/changes?since=${seq}`)).json<LoggedChange[]>()
const spot = (doc: ReelDocument, cueId: string): Change =>
  expectOk(spotCue(doc, { id: cueId, category: 'FX', in: 10, out: 20 }))

describe('a page that has missed something', () => {
  it('asks for the log after the number that it knows, in order, with every change', async () => {
    const { doc, seq } = await open()
    const ids = [randomUUID(), randomUUID()]
    await send(spot(doc, 'a'), seq, ids[0])
    await send(expectOk(spotCue((await open()).doc, { id: 'b', category: 'BG', in: 1, out: 2 })), 2, ids[1])
    expect((await since(1)).map(({ seq: number, changeId }) => [number, changeId])).toEqual([
      [2, ids[0]],
      [3, ids[1]],
    ])
    expect((await since(1))[0]?.change.added).toMatchObject([{ id: 'a' }])
    expect(await since(3)).toEqual([])
    expect(await since(0)).toHaveLength(3)
  })

  it('is told to fit its cue to what it missed, when the number is taken; not that the cue is wrong', async () => {
    const { doc, seq } = await open()
    await send(spot(doc, 'a'), seq)
    const late = await send(spot(doc, 'b'), seq)
    expect([late.statusCode, late.json<{ code: string }>().code]).toEqual([409, 'CHANGE_CONFLICT'])
    expect(late.json<{ details: { missed: unknown[] } }>().details.missed).toHaveLength(1)
    const { doc: now, seq: at } = await open()
    expect((await send(spot(now, 'b'), at)).statusCode).toBe(200)
  })

  it('is refused for good when it has missed nothing and breaks a rule all the same', async () => {
    const { doc, seq } = await open()
    await send(spot(doc, 'a'), seq)
    const answer = await send(spot(doc, 'b'), 2)
    expect([answer.statusCode, answer.json<{ code: string }>().code]).toEqual([422, 'CHANGE_REFUSED'])
  })

  it('learns from a second sending what the log made of the first', async () => {
    const { doc, seq } = await open()
    const changeId = randomUUID()
    await send(spot(doc, 'a'), seq, changeId)
    const other = { ...spot(doc, 'a'), label: 'Spot something else' }
    const again = (await send(other, seq, changeId)).json<Committed>()
    expect(again).toMatchObject({ seq: 2, missed: [{ seq: 2, changeId, change: { label: 'Spot FX 001' } }] })
    expect((await open()).seq).toBe(2)
  })

  it('can’t store what no database stores: a NUL, half a character', async () => {
    const { doc, seq } = await open()
    await send(spot(doc, 'a'), seq)
    for (const words of ['a\u0000b', 'a\ud83db']) {
      const { doc: now, seq: at } = await open()
      const answer = await send(expectOk(editCue(now, { id: 'a', fields: { words } })), at)
      expect(answer.statusCode).toBe(400)
      expect(answer.json<{ message: string }>().message).toMatch(/control characters/)
    }
    expect((await open()).seq).toBe(2)
  })

  it('finds no log of a reel that is gone', async () => {
    const answer = await server.app.inject('/api/reels/gone/changes?since=0')
    expect([answer.statusCode, answer.json<{ code: string }>().code]).toEqual([404, 'REEL_MISSING'])
    expect((await server.app.inject(`/api/reels/${id}/changes?since=-1`)).statusCode).toBe(400)
  })
})

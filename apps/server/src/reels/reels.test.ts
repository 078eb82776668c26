import { randomUUID } from 'node:crypto'
import {
  documentOf,
  expectOk,
  invert,
  spotCue,
  editCue,
  stacksFromLog,
  type Change,
  type Commit,
  type Committed,
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
  const made = await server.app.inject({
    method: 'POST',
    url: '/api/reels',
    payload: {
      showId: null,
      showName: 'Show',
      name: 'Reel 1',
      rate: '29.97d',
      firstTimecode: '01:00:00;00',
      lengthSeconds: 600,
    },
  })
  id = made.json<{ id: string }>().id
})

const open = async (): Promise<ReelState & { doc: ReelDocument }> => {
  const state = (await server.app.inject(`/api/reels/${id}`)).json<ReelState>()
  return { ...state, doc: documentOf(state.records) }
}
const send = (change: Change, base: number, extra: Partial<Commit> = {}) =>
  server.app.inject({
    method: 'POST',
    url: `/api/reels/${id}/changes`,
    payload: { changeId: randomUUID(), base, role: 'do', target: null, change, ...extra } as never,
  })
const cue = (doc: ReelDocument, cueId: string): Change =>
  expectOk(spotCue(doc, { id: cueId, category: 'FX', in: 10, out: 20, words: cueId }))

describe('a reel', () => {
  it('is made with its facts, refusing a start that does not exist', async () => {
    const { doc, seq } = await open()
    expect([...doc.reel.values()]).toMatchObject([
      { name: 'Reel 1', rate: '29.97d', firstFrame: 107_892, length: 17_982 },
    ])
    expect(seq).toBe(1)
    const bad = await server.app.inject({
      method: 'POST',
      url: '/api/reels',
      payload: {
        showId: null,
        showName: 'S',
        name: 'R',
        rate: '29.97d',
        firstTimecode: '01:01:00;00',
        lengthSeconds: 60,
      },
    })
    expect([bad.statusCode, bad.json()]).toEqual([
      400,
      {
        code: 'BAD_REQUEST',
        message:
          'Start timecode: 01:01:00:00 does not exist at 29.97 fps drop: that number is dropped; the minute begins at 01:01:00;02.',
      },
    ])
    expect((await server.app.inject('/api/reels/nowhere')).json()).toMatchObject({ code: 'REEL_MISSING' })
  })

  it('takes a change once, however often it is sent', async () => {
    const { doc, seq } = await open()
    const changeId = randomUUID()
    const first = await send(cue(doc, 'a'), seq, { changeId })
    const again = await send(cue(doc, 'a'), seq, { changeId })
    expect(first.json()).toEqual({ seq: 2, missed: [] })
    // The second answer brings the change as the log has it: the page may have fitted its own to something else meanwhile.
    expect(again.json()).toMatchObject({ seq: 2, missed: [{ seq: 2, changeId, change: cue(doc, 'a') }] })
    expect([...(await open()).doc.cue.keys()]).toEqual(['a'])
  })

  it('takes a change of a record that an earlier version wrote with a field more', async () => {
    const { doc, seq } = await open()
    await send(cue(doc, 'a'), seq)
    await server.services.db.query(
      `UPDATE record SET data = data || '{"folder": "old"}' WHERE reel_id = $1 AND id = 'a'`,
      [id],
    )
    // What is kept in memory is of another number now, so that the rows are read.
    await server.services.db.query(`UPDATE reel SET seq = seq + 1 WHERE id = $1`, [id])
    const now = await open()
    expect(
      (await send(expectOk(editCue(now.doc, { id: 'a', fields: { words: 'on' } })), now.seq)).statusCode,
    ).toBe(200)
  })

  it('numbers changes that come at once without losing one', async () => {
    const { doc, seq } = await open()
    const numbers = Array.from({ length: 20 }, (_, index) => index + 1)
    const answers = await Promise.all(
      numbers.map((number) =>
        send(
          { ...cue(doc, `c${number}`), added: [{ ...cue(doc, `c${number}`).added[0]!, number } as never] },
          seq,
        ),
      ),
    )
    expect(answers.map((answer) => answer.statusCode)).toEqual(numbers.map(() => 200))
    expect(answers.map((answer) => answer.json<Committed>().seq).sort((a, b) => a - b)).toEqual(
      numbers.map((number) => number + 1),
    )
    const after = await open()
    expect([...after.doc.cue.keys()]).toHaveLength(20)
    const last = answers.find((answer) => answer.json<Committed>().seq === 21)!.json<Committed>()
    expect(last.missed.map((entry) => entry.seq)).toEqual(Array.from({ length: 19 }, (_, index) => index + 2))
  })

  it('sends back a change that meets one by somebody else, and writes nothing of it', async () => {
    const { doc, seq } = await open()
    await send(cue(doc, 'a'), seq)
    const before = await open()
    const mine = expectOk(editCue(before.doc, { id: 'a', fields: { words: 'mine' } }))
    const theirs = expectOk(editCue(before.doc, { id: 'a', fields: { words: 'theirs' } }))
    expect((await send(theirs, before.seq)).statusCode).toBe(200)
    const conflict = await send({ ...mine, added: cue(before.doc, 'b').added }, before.seq)
    expect(conflict.statusCode).toBe(409)
    expect(conflict.json()).toMatchObject({
      code: 'CHANGE_CONFLICT',
      details: { seq: 3, missed: [{ seq: 3 }] },
    })
    const after = await open()
    expect([...after.doc.cue.values()]).toMatchObject([{ id: 'a', words: 'theirs' }])
    expect([...after.doc.cue.keys()]).toEqual(['a'])
  })

  it('refuses what breaks a rule or is no record', async () => {
    const { doc, seq } = await open()
    const broken = cue(doc, 'a')
    const upside = await send({ ...broken, added: [{ ...broken.added[0]!, in: 30 } as never] }, seq)
    expect([upside.statusCode, upside.json<{ message: string }>().message]).toEqual([
      422,
      'cue FX 1: the end must lie after the beginning (in 30, out 20).',
    ])
    const odd = await send({ ...broken, added: [{ ...broken.added[0]!, category: 'ZZ' } as never] }, seq)
    expect(odd.statusCode).toBe(400)
    expect((await open()).seq).toBe(seq)
  })

  it('can be undone after a reload, from its log alone', async () => {
    const { doc, seq } = await open()
    await send(cue(doc, 'a'), seq)
    const loaded = await open()
    const target = stacksFromLog(loaded.log, loaded.me).undo.at(-1)!
    const change = (await server.app.inject(`/api/reels/${id}/changes/${target}`)).json<Change>()
    await send(invert(change), loaded.seq, { role: 'undo', target })
    const undone = await open()
    expect(undone.doc.cue.size).toBe(0)
    expect(stacksFromLog(undone.log, undone.me)).toEqual({ undo: [], redo: [2] })
  })

  it('refuses writes from another site', async () => {
    const answer = await server.app.inject({
      method: 'POST',
      url: '/api/reels',
      headers: { origin: 'http://elsewhere.example' },
      payload: {},
    })
    expect([answer.statusCode, answer.json<{ code: string }>().code]).toEqual([403, 'WRONG_ORIGIN'])
  })

  it('is described at /api/docs/json', async () => {
    const docs = (await server.app.inject('/api/docs/json')).json<{ paths: object }>()
    expect(Object.keys(docs.paths)).toEqual(
      expect.arrayContaining(['/api/reels/{id}/changes', '/api/sounds', '/api/pictures']),
    )
  })
})

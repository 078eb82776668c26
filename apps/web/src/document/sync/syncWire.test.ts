import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Task } from './syncState.js'
import { catchUp, fetchReel, readAnswer, sendChange } from './syncWire.js'

const missed = [{ seq: 2 }]

describe('an answer to a sent change', () => {
  it.each([
    ['written', 200, { seq: 3, missed: [] }, { kind: 'committed', seq: 3, missed: [] }],
    ['written, but cut short on its way', 200, null, { kind: 'away' }],
    ['a gateway that reaches nobody', 502, { message: 'x' }, { kind: 'away' }],
    ['a database that is away', 503, { code: 'DATABASE_AWAY' }, { kind: 'away' }],
    ['a gateway that gave up', 504, null, { kind: 'away' }],
    ['a full disk', 507, { code: 'DISK_FULL' }, { kind: 'full' }],
    [
      'a conflict',
      409,
      { message: 'Taken.', details: { missed } },
      { kind: 'conflict', missed, why: 'Taken.' },
    ],
    [
      'a conflict of an older server',
      409,
      { message: 'Taken.' },
      { kind: 'conflict', missed: [], why: 'Taken.' },
    ],
    ['a reel that is gone', 404, { code: 'REEL_MISSING' }, { kind: 'missing' }],
    [
      'another thing that is gone',
      404,
      { code: 'NOT_FOUND', message: 'No.' },
      { kind: 'refused', why: 'No.' },
    ],
    ['a broken rule', 422, { message: 'Overlap.' }, { kind: 'refused', why: 'Overlap.' }],
    ['something too large', 413, { message: 'Too large.' }, { kind: 'refused', why: 'Too large.' }],
    ['an error of the server’s own', 500, { message: 'An error.' }, { kind: 'refused', why: 'An error.' }],
    ['an error page', 500, null, { kind: 'refused', why: 'The server answered 500.' }],
  ])('that is %s', (_, status, body, means) => {
    expect(readAnswer(status, body)).toMatchObject(means)
  })
})

describe('a server that is really there', () => {
  const { fetch } = globalThis
  const never = new AbortController().signal
  let server: Server

  beforeAll(async () => {
    server = createServer((request, response) => {
      const url = request.url ?? ''
      // A server that takes what it is sent and then says nothing.
      if (request.method === 'POST') return void request.resume()
      if (url.includes('/silent')) return void request.socket.destroy()
      const [status, body] = url.includes('/gone')
        ? [404, { code: 'REEL_MISSING', message: 'There is no reel gone.' }]
        : [500, { code: 'INTERNAL', message: 'An error of its own.' }]
      response.writeHead(status as number, { 'content-type': 'application/json' }).end(JSON.stringify(body))
    })
    await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening))
    const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
    globalThis.fetch = (url, init) => fetch(`${origin}${String(url)}`, init)
  })
  afterAll(() => {
    globalThis.fetch = fetch
    server.closeAllConnections()
    server.close()
  })

  it('is away when it takes a change and never answers', async () => {
    const task = { item: { changeId: 'a' }, base: 1, target: null } as unknown as Extract<
      Task,
      { kind: 'send' }
    >
    expect(await sendChange('r', task, never, 50)).toEqual({ kind: 'away' })
  })

  it.each([
    ['gone', 'missing', 'There is no reel gone.'],
    ['broken', 'failed', 'An error of its own.'],
    ['silent', 'away', 'This page tries again by itself'],
  ])('that is %s is not taken for something else', async (reel, kind, words) => {
    const failed = await fetchReel(reel, never).catch((error: unknown) => error)
    expect(failed).toMatchObject({ kind, message: expect.stringContaining(words) as string })
    // Only a reel that is gone is called gone; everything else is tried again.
    expect(await catchUp(reel, 0, never)).toEqual({ kind: kind === 'missing' ? 'missing' : 'away' })
  })
})

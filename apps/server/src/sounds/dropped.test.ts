import { existsSync, readdirSync } from 'node:fs'
import path from 'node:path'
import type { Shelf, SoundPage } from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { noise } from '../test/placedReel.js'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

async function drop(name: string, bytes: Buffer): Promise<{ statusCode: number; body: string }> {
  const form = new FormData()
  form.append('recording', new Blob([Uint8Array.from(bytes)]), path.basename(name))
  const request = new Request('http://x', { method: 'POST', body: form })
  return server.app.inject({
    ...{ method: 'POST', url: `/api/shelves/dropped?path=${encodeURIComponent(name)}` },
    payload: Buffer.from(await request.arrayBuffer()),
    headers: { 'content-type': request.headers.get('content-type') ?? '' },
  })
}
const isThere = async (name: string, size: number): Promise<boolean> =>
  (await server.app.inject(`/api/shelves/dropped?path=${encodeURIComponent(name)}&size=${size}`)).json<{
    there: boolean
  }>().there

it('recordings that are dropped are kept with their folders on a shelf of their own, and found', async () => {
  const sound = noise(1, 3)
  expect(await isThere('quay/gulls.wav', sound.length)).toBe(false)
  expect((await drop('quay/gulls.wav', sound)).statusCode).toBe(204)
  expect((await drop('kettle.wav', noise(2, 5))).statusCode).toBe(204)
  // What is there as large as it is to be sent need not be sent again.
  expect([await isThere('quay/gulls.wav', sound.length), await isThere('quay/gulls.wav', 7)]).toEqual([
    true,
    false,
  ])
  const index = async (): Promise<void> => {
    const { jobId } = (await server.app.inject({ method: 'POST', url: '/api/shelves/dropped/index' })).json<{
      jobId: string
    }>()
    await server.settled(jobId)
  }
  await index()
  await index()
  const shelves = (await server.app.inject('/api/shelves')).json<Shelf[]>()
  expect(shelves.map(({ name, problems }) => [name, problems])).toEqual([['Dropped here', []]])
  const { sounds } = (await server.app.inject('/api/sounds')).json<SoundPage>()
  expect(sounds.map((one) => one.path).sort()).toEqual(['kettle.wav', 'quay/gulls.wav'])
})

it.each(['../out.wav', 'a/../../out.wav', '/etc/out.wav', '.hidden/x.wav', 'a//b.wav', 'a\\b.wav', 'a/'])(
  'a path like “%s” is refused, and nothing is written',
  async (name) => {
    const answer = await drop(name, noise(1, 3))
    expect([answer.statusCode, answer.body]).toEqual([
      400,
      expect.stringMatching(/can’t be the name of a recording/),
    ])
    expect(existsSync(path.join(server.dataDir, 'out.wav'))).toBe(false)
  },
)

it('an empty file is refused, and nothing half-made stays', async () => {
  const answer = await drop('empty.wav', Buffer.alloc(0))
  expect([answer.statusCode, answer.body]).toEqual([422, expect.stringMatching(/empty.wav is empty/)])
  expect(readdirSync(path.join(server.dataDir, 'incoming'))).toEqual([])
  expect(await isThere('empty.wav', 0)).toBe(false)
})

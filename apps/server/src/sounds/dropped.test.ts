import { existsSync, readdirSync, readFileSync } from 'node:fs'
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

const MODIFIED = Date.UTC(2031, 4, 9)

async function drop(
  name: string,
  bytes: Buffer,
  modified = MODIFIED,
): Promise<{ statusCode: number; body: string }> {
  const form = new FormData()
  form.append('recording', new Blob([Uint8Array.from(bytes)]), path.basename(name))
  const request = new Request('http://x', { method: 'POST', body: form })
  return server.app.inject({
    ...{ method: 'POST', url: `/api/shelves/dropped?path=${encodeURIComponent(name)}&modified=${modified}` },
    payload: Buffer.from(await request.arrayBuffer()),
    headers: { 'content-type': request.headers.get('content-type') ?? '' },
  })
}
const isThere = async (name: string, size: number, modified = MODIFIED): Promise<boolean> =>
  (
    await server.app.inject(
      `/api/shelves/dropped?path=${encodeURIComponent(name)}&modified=${modified}&size=${size}`,
    )
  ).json<{
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

it('what bears a name that is there already is kept beside it, never over it; the same is not kept twice', async () => {
  const [first, second] = [noise(1, 11), noise(1, 13)]
  const later = MODIFIED + 60_000
  expect((await drop('T001.wav', first)).statusCode).toBe(204)
  expect(await isThere('T001.wav', second.length, later)).toBe(false)
  // Two tabs at once, and each of them twice.
  const answers = await Promise.all([
    ...[drop('T001.wav', second, later), drop('T001.wav', second, later)],
    ...[drop('T001.wav', noise(1, 17), later + 60_000), drop('T001.wav', first)],
  ])
  expect(answers.map(({ statusCode }) => statusCode)).toEqual([204, 204, 204, 204])
  const folder = path.join(server.dataDir, 'dropped')
  const kept = readdirSync(folder).filter((name) => name.startsWith('T001'))
  expect(kept.sort()).toEqual(['T001 2.wav', 'T001 3.wav', 'T001.wav'])
  expect(readFileSync(path.join(folder, 'T001.wav')).equals(first)).toBe(true)
  expect(await isThere('T001.wav', second.length, later)).toBe(true)
  expect(readdirSync(path.join(server.dataDir, 'incoming'))).toEqual([])
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

it('a name longer than disks take is refused, and nothing is written', async () => {
  const answer = await drop(`${'雨'.repeat(85)}.wav`, noise(1, 3))
  expect([answer.statusCode, answer.body]).toEqual([400, expect.stringMatching(/is too long for the name/)])
})

it('an empty file is refused, and nothing half-made stays', async () => {
  const answer = await drop('empty.wav', Buffer.alloc(0))
  expect([answer.statusCode, answer.body]).toEqual([422, expect.stringMatching(/empty.wav is empty/)])
  expect(readdirSync(path.join(server.dataDir, 'incoming'))).toEqual([])
  expect(await isThere('empty.wav', 0)).toBe(false)
})

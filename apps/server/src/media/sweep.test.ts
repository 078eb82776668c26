import { existsSync, mkdirSync, utimesSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { sweep } from './sweep.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

it('takes away what was never whole, and nothing that is, whether the database knows it or not', async () => {
  const inData = (...parts: string[]): string => path.join(server.dataDir, ...parts)
  const put = (...parts: string[]): string => {
    mkdirSync(path.dirname(inData(...parts)), { recursive: true })
    writeFileSync(inData(...parts), 'x')
    return path.join(...parts)
  }
  const ago = new Date(Date.now() - 8 * 24 * 3600 * 1000)
  const sent = (name: string): string => {
    const file = put('incoming', name)
    utimesSync(inData(file), ago, ago)
    return file
  }
  const unfinished = [
    ...[put('pcm', 'a.f32.77.new'), put('peaks', 'a.0.7.new'), put('pictures', 'known', 'frames.h264.new')],
    ...[put('pictures', 'broken off', 'movie.part'), sent('old.zip')],
  ]
  put('turnovers', 'broken.new', 'audio', 'mix.wav')
  // A database that knows nothing of them may be the wrong one.
  const kept = [
    ...[put('pcm', 'b.f32'), put('pictures', 'known', 'movie'), put('pictures', 'unknown', 'movie')],
    ...[put('turnovers', 'unknown', 'audio', 'mix.wav'), put('incoming', 'fresh.zip'), sent('waits.zip')],
  ]
  const { db } = server.services
  await server.services.jobs.stop()
  await db.query(
    `INSERT INTO job (id, kind, title, payload, state, created_at)
     VALUES ('w', 'open', 'x', $1, 'paused', now())`,
    [JSON.stringify({ file: inData('incoming', 'waits.zip'), name: 'x', by: '' })],
  )
  expect((await sweep(server.services, new Date())).sort()).toEqual(
    [...unfinished, path.join('turnovers', 'broken.new')].sort(),
  )
  for (const gone of [...unfinished, path.join('pictures', 'broken off')])
    expect(existsSync(inData(gone)), gone).toBe(false)
  for (const name of kept) expect(existsSync(inData(name)), name).toBe(true)
  expect(await sweep(server.services, new Date())).toEqual([])
})

import { existsSync, mkdirSync, utimesSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import type { Picture } from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'
import { sweep } from './sweep.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

it('takes away what was never whole and what nothing knows of, and nothing else', async () => {
  const file = ffmpeg(
    path.join(server.root, 'a.mp4'),
    '-f',
    'lavfi',
    '-i',
    'testsrc=size=320x180:rate=24:duration=1',
  )
  const answer = await server.app.inject({
    method: 'POST',
    url: '/api/pictures/pick',
    payload: { path: file },
  })
  const picture = answer.json<Picture>()
  await server.settled(picture.jobId!)
  const inData = (...parts: string[]): string => path.join(server.dataDir, ...parts)
  const put = (...parts: string[]): string => {
    mkdirSync(path.dirname(inData(...parts)), { recursive: true })
    writeFileSync(inData(...parts), 'x')
    return path.join(...parts)
  }
  const old = put('incoming', 'old.zip')
  const ago = new Date(Date.now() - 8 * 24 * 3600 * 1000)
  utimesSync(inData(old), ago, ago)
  const part = put('pcm', 'a.f32.77.new')
  const half = put('pictures', picture.id, 'frames.h264.new')
  const orphan = put('pictures', 'gone', 'movie.part')
  const turnover = put('turnovers', 'broken.new', 'audio', 'mix.wav')
  const kept = [
    put('pcm', 'b.f32'),
    put('incoming', 'fresh.zip'),
    path.join('pictures', picture.id, 'frames.h264'),
  ]
  const swept = await sweep(server.services, new Date())
  expect(swept.sort()).toEqual(
    [old, part, half, path.dirname(orphan), path.join('turnovers', 'broken.new')].sort(),
  )
  for (const gone of [old, part, half, orphan, turnover]) expect(existsSync(inData(gone)), gone).toBe(false)
  for (const name of kept) expect(existsSync(inData(name)), name).toBe(true)
  expect(await sweep(server.services, new Date())).toEqual([])
})

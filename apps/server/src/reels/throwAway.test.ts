import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  blankCue,
  type LogLine,
  type ReelProgress,
  type ReelState,
  type Show,
  type ThrownReel,
} from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { addRecords } from '../test/placedReel.js'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'
import { emptyBin } from './throwAway.js'

const DAY_MS = 24 * 3600 * 1000
let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const get = async <T>(url: string): Promise<T> => (await server.app.inject(url)).json<T>()
const send = (method: 'POST' | 'PATCH' | 'DELETE', url: string, payload?: object) =>
  server.app.inject({ method, url, ...(payload ? { payload } : {}) })
const cue = (words: string): object => ({
  ...blankCue({ category: 'FX', number: 1, in: 24, out: 48, sync: 24 }),
  ...{ id: 'q', words },
})
const names = async (): Promise<string[]> =>
  (await get<Show[]>('/api/shows')).flatMap(({ reels }) => reels.map(({ reel }) => reel.name))

it('a reel is thrown away, refuses to open with the way back, and comes back as it was', async () => {
  const id = await server.makeReel({ name: 'Reel 1' })
  await addRecords(server, id, [cue('door')])
  expect((await send('DELETE', `/api/reels/${id}`)).statusCode).toBe(204)
  expect(await names()).not.toContain('Reel 1')
  const [thrown] = await get<ThrownReel[]>('/api/thrown')
  expect(thrown).toMatchObject({ id, name: 'Reel 1' })
  expect(Date.parse(thrown!.until) - Date.parse(thrown!.at)).toBe(30 * DAY_MS)
  const opened = await server.app.inject(`/api/reels/${id}`)
  expect([opened.statusCode, opened.json<{ message: string }>().message]).toEqual([
    404,
    expect.stringMatching(/thrown away by .+ Bring it back under “Thrown away”/),
  ])
  // Who still has it open goes on, and nothing of that is lost.
  const commit = await send('POST', `/api/reels/${id}/milestones`, { name: 'after' })
  expect(commit.statusCode).toBe(201)
  expect((await send('POST', `/api/reels/${id}/back`)).statusCode).toBe(204)
  expect(await names()).toContain('Reel 1')
  const { records } = await get<ReelState>(`/api/reels/${id}`)
  expect(records.find((record) => record.id === 'q')).toMatchObject({ words: 'door' })
  expect(await get('/api/thrown')).toEqual([])
  expect((await send('DELETE', '/api/reels/nobody')).statusCode).toBe(404)
  expect((await send('POST', '/api/reels/nobody/back')).statusCode).toBe(404)
})

it('after thirty days it is gone for good, with its takes, and its movie where no other reel shows that', async () => {
  const [old, other] = [
    await server.makeReel({ showName: 'Old show', name: 'A' }),
    await server.makeReel({ showName: 'Other show', name: 'B' }),
  ]
  const picture = (name: string): string => {
    const folder = path.join(server.dataDir, 'pictures', name)
    mkdirSync(folder, { recursive: true })
    writeFileSync(path.join(folder, 'frames.h264'), '')
    return folder
  }
  const [alone, shared] = [picture('alone'), picture('shared')]
  const cut = (id: string, pictureId: string): object => ({ kind: 'cut', id, pictureId, name: id, offset: 0 })
  await addRecords(server, old, [cut('c1', 'alone'), cut('c2', 'shared')])
  await addRecords(server, other, [cut('c2', 'shared')])
  const about = (reelId: string): object => ({
    ...{ id: randomUUID(), reelId, cueId: null, name: 'Take', number: 1, channels: 1, start: 0, in: 0 },
    ...{ out: 100, sync: 0, reelAt: 0, device: 'Desk', roundTrip: 0, measured: false },
  })
  for (const reelId of [old, other])
    expect((await send('POST', '/api/takes', about(reelId))).statusCode).toBe(204)
  const takes = (): number => readdirSync(path.join(server.dataDir, 'takes')).length
  expect(takes()).toBe(2)
  await send('DELETE', `/api/reels/${old}`)
  const now = Date.now()
  expect(await emptyBin(server.services, new Date(now + 29 * DAY_MS))).toEqual([])
  expect(await emptyBin(server.services, new Date(now + 31 * DAY_MS))).toEqual([old])
  expect([existsSync(alone), existsSync(shared), takes()]).toEqual([false, true, 1])
  expect(await get('/api/thrown')).toEqual([])
  expect((await get<Show[]>('/api/shows')).map(({ name }) => name)).not.toContain('Old show')
  expect((await send('POST', `/api/reels/${old}/back`)).statusCode).toBe(404)
  expect((await server.app.inject(`/api/reels/${other}`)).statusCode).toBe(200)
})

it('reels and shows are renamed as changes of their logs; two reels of a show never bear one name', async () => {
  const first = await server.makeReel({ showName: 'Lamp', name: 'One' })
  const show = (await get<Show[]>('/api/shows')).find(({ name }) => name === 'Lamp')!
  const second = await server.makeReel({ showId: show.id, showName: 'Lamp', name: 'Reel 10' })
  await server.makeReel({ showId: show.id, showName: 'Lamp', name: 'Reel 2' })
  const twice = await send('POST', '/api/reels', {
    ...{ showId: show.id, showName: 'Lamp', name: 'reel 2', rate: '24' },
    ...{ firstTimecode: '01:00:00:00', lengthSeconds: 60 },
  })
  expect([twice.statusCode, twice.json<{ message: string }>().message]).toEqual([
    400,
    'Lamp has a reel called reel 2 already. Give this one another name.',
  ])
  expect((await send('PATCH', `/api/reels/${first}`, { name: 'Reel 1' })).statusCode).toBe(204)
  expect((await send('PATCH', `/api/reels/${first}`, { name: ' ' })).statusCode).toBe(400)
  expect((await send('PATCH', `/api/reels/${first}`, { name: 'REEL 2' })).statusCode).toBe(400)
  expect((await send('PATCH', `/api/reels/${first}`, { name: 'reel 1' })).statusCode).toBe(204)
  expect((await send('PATCH', `/api/reels/${first}`, { name: 'Reel 1' })).statusCode).toBe(204)
  expect(
    (await send('PATCH', `/api/shows/${show.id}`, { name: 'Last Lamp', company: 'Quill' })).statusCode,
  ).toBe(204)
  const renamed = (await get<Show[]>('/api/shows')).find(({ id }) => id === show.id)!
  // In the order that people count in.
  expect(renamed.reels.map(({ reel }) => [reel.show, reel.company, reel.name])).toEqual(
    ['Reel 1', 'Reel 2', 'Reel 10'].map((name) => ['Last Lamp', 'Quill', name]),
  )
  expect((await get<LogLine[]>(`/api/reels/${second}/log`)).at(-1)?.label).toBe('Rename the show Last Lamp')
  expect((await send('PATCH', '/api/shows/nobody', { name: 'x', company: '' })).statusCode).toBe(404)
})

it('its progress follows its changes; its picture has a poster', async () => {
  const id = await server.makeReel({ name: 'Progress' })
  expect(await get<ReelProgress>(`/api/reels/${id}/progress`)).toMatchObject({ cues: [], picture: null })
  await addRecords(server, id, [cue('')])
  expect((await get<ReelProgress>(`/api/reels/${id}/progress`)).cues).toHaveLength(1)
  const file = ffmpeg(
    path.join(server.root, 'm.mp4'),
    '-f',
    'lavfi',
    '-i',
    'testsrc=size=320x180:rate=24:duration=1',
  )
  const picked = (await send('POST', '/api/pictures/pick', { path: file })).json<{
    id: string
    jobId: string
  }>()
  await server.settled(picked.jobId)
  const poster = await server.app.inject(`/api/pictures/${picked.id}/poster`)
  expect([poster.statusCode, poster.headers['content-type']]).toEqual([200, 'image/jpeg'])
  // JPEG begins and ends with its marks (ITU-T T.81, B.1.1.3).
  expect([
    poster.rawPayload.subarray(0, 2).toString('hex'),
    poster.rawPayload.subarray(-2).toString('hex'),
  ]).toEqual([...['ffd8', 'ffd9']])
  expect((await server.app.inject('/api/pictures/nobody/poster')).statusCode).toBe(404)
})

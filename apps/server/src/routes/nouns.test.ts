import { randomUUID } from 'node:crypto'
import path from 'node:path'
import type {
  Kit,
  Milestone,
  PastSearch,
  Preparation,
  ReelAt,
  Shelf,
  Show,
  SoundPage,
  Watched,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reel: string
beforeAll(async () => {
  server = await startTestServer()
  const payload = {
    ...{ showId: null, showName: 'Show', name: 'Reel 1', rate: '24' },
    ...{ firstTimecode: '01:00:00:00', lengthSeconds: 600 },
  }
  reel = (await server.app.inject({ method: 'POST', url: '/api/reels', payload })).json<{ id: string }>().id
})
afterAll(() => server.close())

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'
const ask = (method: Method, url: string, payload?: object) =>
  server.app.inject({ method, url, ...(payload ? { payload } : {}) })
const get = async <T>(url: string): Promise<T> => (await ask('GET', url)).json<T>()

describe('kits', () => {
  it('are made, renamed, nested, filled, emptied and thrown away', async () => {
    const made = await ask('POST', '/api/kits', { name: ' Doors ' })
    expect([made.statusCode, made.json<Kit>()]).toEqual([
      201,
      {
        id: expect.any(String) as string,
        name: 'Doors',
        owner: 'Tester',
        shared: false,
        parentId: null,
        sounds: 0,
      },
    ])
    const { id } = made.json<Kit>()
    const inner = (await ask('POST', '/api/kits', { name: 'Heavy', parentId: id })).json<Kit>()
    expect((await ask('PATCH', `/api/kits/${id}`, { shared: true, name: 'All doors' })).statusCode).toBe(204)
    expect(await get('/api/kits')).toMatchObject([{ name: 'All doors', shared: true }, { parentId: id }])
    const circle = await ask('PATCH', `/api/kits/${id}`, { parentId: inner.id })
    expect(circle.json()).toMatchObject({ code: 'KIT_IN_ITSELF' })
    expect((await ask('POST', `/api/kits/${id}/sounds`, { ids: [], put: true })).statusCode).toBe(204)
    expect((await ask('DELETE', `/api/kits/${id}`)).statusCode).toBe(204)
    expect(await get('/api/kits')).toEqual([])
  })

  it('of others, and those that are not there, can’t be changed', async () => {
    const other = randomUUID()
    await server.services.db.query(`INSERT INTO kit (id, name, owner) VALUES ($1, 'Theirs', 'Idris')`, [
      other,
    ])
    for (const id of [other, randomUUID()]) {
      expect((await ask('PATCH', `/api/kits/${id}`, { name: 'Mine' })).statusCode).toBe(404)
      expect((await ask('DELETE', `/api/kits/${id}`)).statusCode).toBe(404)
      expect((await ask('POST', `/api/kits/${id}/sounds`, { ids: [], put: true })).statusCode).toBe(404)
    }
    expect(await get('/api/kits')).toEqual([])
  })

  it.each([
    {},
    { name: '' },
    { name: '  ' },
    { name: 'a\u0000b' },
    { name: 'x'.repeat(201) },
    { name: 'x', parentId: 'y' },
  ])('are not made of %j', async (body) => {
    expect((await ask('POST', '/api/kits', body)).json()).toMatchObject({ code: 'BAD_REQUEST' })
  })
})

describe('past searches', () => {
  it('come back, those of the cue first, each once', async () => {
    for (const [query, cueId] of [
      ['rain', ''],
      ['door', 'q'],
      ['rain', ''],
    ]) {
      expect((await ask('POST', '/api/searches', { reelId: reel, cueId, query })).statusCode).toBe(204)
    }
    expect(await get<PastSearch[]>(`/api/searches?reelId=${reel}&cueId=q`)).toEqual([
      { query: 'door', ofCue: true },
      { query: 'rain', ofCue: false },
    ])
    expect((await ask('POST', '/api/searches', { query: ' ' })).statusCode).toBe(400)
  })
})

describe('milestones', () => {
  it('name the present number, and show the reel as it was', async () => {
    const made = await ask('POST', `/api/reels/${reel}/milestones`, { name: 'First pass' })
    expect([made.statusCode, made.json<Milestone>()]).toMatchObject([
      201,
      { name: 'First pass', seq: 1, author: 'Tester' },
    ])
    expect(await get<Milestone[]>(`/api/reels/${reel}/milestones`)).toHaveLength(1)
    const then = await get<ReelAt>(`/api/reels/${reel}/at/1`)
    expect([then.seq, then.records.length]).toEqual([1, 1])
  })

  it('are refused without a name, without a reel, and for a number that never was', async () => {
    expect((await ask('POST', `/api/reels/${reel}/milestones`, { name: '' })).statusCode).toBe(400)
    expect((await ask('POST', '/api/reels/nowhere/milestones', { name: 'x' })).statusCode).toBe(404)
    expect((await ask('GET', `/api/reels/${reel}/at/99`)).statusCode).toBe(404)
    expect((await ask('GET', `/api/reels/${reel}/at/0`)).statusCode).toBe(400)
  })
})

describe('watched stretches', () => {
  it('are joined where they meet, by person and category', async () => {
    const watch = (from: number, to: number) =>
      ask('POST', `/api/reels/${reel}/watched`, { category: 'FX', from, to })
    await watch(0, 100)
    await watch(300, 400)
    const answer = (await watch(100, 200)).json<Watched[]>()
    expect(answer).toEqual([
      {
        person: 'Tester',
        category: 'FX',
        spans: [
          { from: 0, to: 200 },
          { from: 300, to: 400 },
        ],
      },
    ])
    expect(await get<Watched[]>(`/api/reels/${reel}/watched`)).toEqual(answer)
    expect((await watch(50, 50)).json()).toMatchObject({ code: 'BAD_REQUEST' })
    const nowhere = await ask('POST', '/api/reels/nowhere/watched', { category: 'FX', from: 0, to: 1 })
    expect(nowhere.json()).toMatchObject({ code: 'REEL_MISSING' })
  })
})

describe('preparations of sounds', () => {
  it('are kept by person, and forgotten', async () => {
    const prepared: Preparation = {
      ...{ in: 10, out: 20, sync: 12, fadeIn: null, fadeOut: null, gain: -3 },
      ...{ speed: 1, keepPitch: false, reverse: false, sides: 'kept', channels: '3+4' },
    }
    ffmpeg(path.join(server.root, 'tone.wav'), '-f', 'lavfi', '-i', 'sine=d=1')
    await ask('POST', '/api/shelves', { path: server.root })
    await server.settled((await get<Shelf[]>('/api/shelves'))[0]?.jobId ?? '')
    const [sound] = (await get<SoundPage>('/api/sounds')).sounds
    const url = `/api/sounds/${sound?.id}/prepared`
    expect((await ask('PUT', url, prepared)).statusCode).toBe(204)
    expect(await get(url)).toEqual(prepared)
    expect((await ask('PUT', url, { ...prepared, speed: 9 })).statusCode).toBe(400)
    const headers = { 'content-type': 'application/json' }
    await server.app.inject({ method: 'PUT', url, headers, payload: 'null' })
    expect(await get(url)).toBeNull()
    expect((await ask('PUT', '/api/sounds/none/prepared', prepared)).statusCode).toBe(404)
  })
})

describe('shows', () => {
  it('list their reels with what is on them', async () => {
    expect(await get<Show[]>('/api/shows')).toMatchObject([
      { name: 'Show', reels: [{ id: reel, cues: 0, clips: 0, seq: 1, reel: { name: 'Reel 1' } }] },
    ])
  })

  it.each([
    ['no length', { lengthSeconds: 0 }],
    ['no name', { name: '' }],
    ['an odd rate', { rate: '26' }],
    ['a NUL in its name', { name: 'a\u0000' }],
    ['a start that is no time', { firstTimecode: 'noon' }],
  ])('take no reel with %s, and keep nothing of it', async (_, odd) => {
    const good = {
      showId: null,
      showName: 'S',
      name: 'R',
      rate: '24',
      firstTimecode: '01:00:00:00',
      lengthSeconds: 60,
    }
    const before = await get('/api/shows')
    expect((await ask('POST', '/api/reels', { ...good, ...odd })).statusCode).toBe(400)
    expect(await get('/api/shows')).toEqual(before)
  })
})

describe('what is not there', () => {
  it.each([
    ['GET', '/api/jobs/none'],
    ['GET', '/api/sounds/none'],
    ['GET', '/api/pictures/none'],
    ['GET', '/api/bounces/00000000-0000-4000-8000-000000000000'],
    ['GET', '/api/reels/none/cues.csv'],
    ['GET', '/api/reels/none/cues.xlsx'],
    ['GET', '/api/reels/none/cues.pdf'],
    ['GET', '/api/reels/none/clips.edl'],
    ['GET', '/api/reels/none/changes?since=0'],
    ['POST', '/api/reels/none/bounce'],
    ['POST', '/api/shelves/none/index'],
    ['GET', '/api/media/none/pcm/0'],
    ['GET', '/api/nothing'],
  ] as const)('%s %s answers 404 in words', async (method, url) => {
    const answer = await ask(method, url)
    expect(answer.statusCode).toBe(404)
    expect(answer.json<{ message: string }>().message).toMatch(/\w/)
  })

  it.each(['/api/jobs/a%00b', '/api/reels/a%00b', '/api/sounds/a%00b', '/api/media/a%00b/pcm/0'])(
    '%s is refused before the database sees it',
    async (url) => {
      expect((await ask('GET', url)).statusCode).toBe(400)
    },
  )
})

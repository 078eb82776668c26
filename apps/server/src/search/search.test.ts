import { execFileSync } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import type { Kit, SoundFacets, SoundPage } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { relatedWords } from './relatedWords.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
  // Name, description, channels, length in seconds, frequency, gain in dB.
  const files = [
    ['Iron gate bolt', 'Dry and close', 1, 1, 900, 0],
    ['Wooden door creak', 'Old iron hinge', 1, 2, 300, -6],
    ['Automobile passes', 'Slow, left to right', 2, 12, 90, 0],
    ['Rain on slate', 'Steady; wooden gutter', 2, 4, 5000, -20],
    ['Footsteps on gravel', 'Boots', 1, 0.5, 2000, -3],
    ['Škoda öffnet Tür', '', 2, 2, 500, 0],
    ['Ключ в замке', 'другой шрифт', 1, 1, 700, 0],
  ] as const
  const shelf = path.join(server.root, 'Mixed')
  mkdirSync(path.join(shelf, 'Cellar'), { recursive: true })
  for (const [name, comment, channels, time, frequency, gain] of files)
    execFileSync('ffmpeg', [
      ...[
        '-v',
        'error',
        '-f',
        'lavfi',
        '-i',
        `sine=frequency=${frequency}:sample_rate=48000:duration=${time}`,
        '-af',
        `volume=${gain}dB`,
      ],
      ...[
        '-ac',
        String(channels),
        '-metadata',
        `title=${name}`,
        '-metadata',
        `comment=${comment}`,
        path.join(shelf, 'Cellar', `${name}.flac`),
      ],
    ])
  const { id } = (
    await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: shelf } })
  ).json<{ id: string }>()
  const [{ job_id: jobId }] = (await server.services.db.query('SELECT job_id FROM shelf WHERE id = $1', [
    id,
  ])) as [{ job_id: string }]
  expect(await server.settled(jobId)).toMatchObject({ state: 'done', result: { fresh: 7, problems: 0 } })
})
afterAll(() => server.close())

const search = async (q: string, more: Record<string, string> = {}): Promise<SoundPage> =>
  (await server.app.inject({ url: '/api/sounds', query: { q, ...more } })).json()
const names = async (q: string, more?: Record<string, string>): Promise<string[]> =>
  (await search(q, more)).sounds.map((sound) => sound.name)

describe('search by words', () => {
  it('finds by beginnings, in any order, accents or not, in any script, by folder', async () => {
    expect(await names('bol iro')).toEqual(['Iron gate bolt'])
    expect(await names('skoda')).toEqual(['Škoda öffnet Tür'])
    expect(await names('ключ')).toEqual(['Ключ в замке'])
    expect(await names('cellar')).toHaveLength(7)
  })
  it('ranks the name over the description, and says which word was met where', async () => {
    const { sounds } = await search('iron')
    expect(sounds.map((sound) => sound.name)).toEqual(['Iron gate bolt', 'Wooden door creak'])
    expect(sounds[1]!.why).toEqual([{ typed: 'iron', found: 'iron', field: 'description', how: 'typed' }])
  })
  it('finds by phrase, and without a word', async () => {
    expect(await names('"wooden door"')).toEqual(['Wooden door creak'])
    expect(await names('"door wooden"')).toEqual([])
    expect(await names('"iron gate bolt"')).toEqual(['Iron gate bolt'])
    expect(await names('"slate steady wooden"')).toEqual([])
    expect(await names('wooden -"wooden door"')).toEqual(['Rain on slate'])
    expect(await names('wooden -creak')).toEqual(['Rain on slate'])
    expect(await names('-wooden')).toHaveLength(5)
  })
  it('finds what is called by another word, in another language, or misspelt', async () => {
    expect((await search('car')).sounds[0]).toMatchObject({
      name: 'Automobile passes',
      why: [{ typed: 'car', found: 'automobile', how: 'related' }],
    })
    expect((await search('lluvia')).sounds[0]).toMatchObject({
      name: 'Rain on slate',
      why: [{ how: 'translated' }],
    })
    expect(await names('schritte')).toEqual(['Footsteps on gravel'])
    const wrong = await search('autmobile')
    expect([wrong.respelt, wrong.sounds[0]?.name]).toEqual([
      [{ typed: 'autmobile', words: ['automobile'] }],
      'Automobile passes',
    ])
    // What is on no shelf at all is said, since the other words of a cue find something without it.
    expect((await search('zzzzqqq')).respelt).toEqual([{ typed: 'zzzzqqq', words: [] }])
  })
  it('says what would find something when all words together find nothing', async () => {
    expect((await search('iron slate gate')).instead).toEqual([{ query: 'iron gate', total: 1 }])
    expect((await search('gate channels:2')).instead).toEqual([{ query: 'gate', total: 1 }])
    expect((await search('zzzzqqq')).sounds).toEqual([])
  })
  it('survives any typing', async () => {
    for (const odd of [
      "'; DROP TABLE sound",
      ':* & | !',
      '\\',
      '%_',
      'a'.repeat(400),
      '-',
      '"',
      "o'",
      'length:x',
    ])
      expect((await server.app.inject({ url: '/api/sounds', query: { q: odd } })).statusCode).toBe(200)
    expect((await search('length:x')).problems[0]).toContain('length<2')
  })
})

describe('search by what was measured', () => {
  it('narrows by facets and counts them', async () => {
    expect(await names('channels:stereo length>3')).toEqual(['Automobile passes', 'Rain on slate'])
    const facets = (await server.app.inject('/api/sounds/facets?q=channels:mono')).json<SoundFacets>()
    expect([facets.total, facets.about, facets.fields.channels, facets.fields.length]).toEqual([
      4,
      false,
      { '1': 4 },
      { '0': 1, '1': 3 },
    ])
  })
  it('orders by a quality, and steers away from a sound by it', async () => {
    expect((await names('', { sort: 'weight', down: '1' }))[0]).toBe('Automobile passes')
    expect(await names('', { sort: 'length', beyond: String(2 * 48_000) })).toEqual([
      'Rain on slate',
      'Automobile passes',
    ])
    expect((await names('', { sort: 'length', down: '1', beyond: '48000' }))[0]).toBe('Footsteps on gravel')
  })
  it('finds what sounds like another, by ear', async () => {
    const [bolt] = (await search('bolt')).sounds
    const like = await names('', { like: bolt!.id })
    // 900 Hz, one second: the other mono tone of a second at 700 Hz is nearest; the long low one is not.
    expect([like[0], like.length]).toEqual(['Ключ в замке', 6])
    expect(await names('rain', { like: bolt!.id })).toEqual(['Rain on slate'])
  })
})

describe('what people say of sounds', () => {
  it('is found by search at once, and stays when the shelf is indexed again', async () => {
    const [rain] = (await search('slate')).sounds
    const edit = { rating: 4, tags: 'gloomy, act two', licence: 'CC0 1.0', note: 'use for the yard' }
    expect(
      (
        await server.app.inject({ method: 'PATCH', url: '/api/sounds', payload: { ids: [rain!.id], edit } })
      ).json(),
    ).toEqual({ edited: 1 })
    for (const q of ['gloomy', 'rating>=4', 'licence:cc0', 'tag:act-two', 'yard'])
      expect([q, await names(q)]).toEqual([q, ['Rain on slate']])
    await server.services.db.query(`UPDATE sound SET fingerprint = ''`)
    const [{ id }] = (await server.services.db.query('SELECT id FROM shelf')) as [{ id: string }]
    const { jobId } = (await server.app.inject({ method: 'POST', url: `/api/shelves/${id}/index` })).json<{
      jobId: string
    }>()
    await server.settled(jobId)
    expect((await search('slate')).sounds[0]).toMatchObject(edit)
  })
  it('may be said for a whole shelf, where neither file nor person says', async () => {
    const [{ id }] = (await server.services.db.query('SELECT id FROM shelf')) as [{ id: string }]
    await server.app.inject({
      method: 'PATCH',
      url: `/api/shelves/${id}`,
      payload: { licence: 'House', name: 'Old disk' },
    })
    expect((await search('shelf:old licence:house')).total).toBe(6)
  })
  it('is gathered in kits that may lie in each other but not in themselves', async () => {
    const post = async (payload: object): Promise<Kit> =>
      (await server.app.inject({ method: 'POST', url: '/api/kits', payload })).json()
    const doors = await post({ name: 'Doors' })
    const old = await post({ name: 'Old ones', parentId: doors.id })
    const ids = (await search('iron')).sounds.map((sound) => sound.id)
    for (let i = 0; i < 2; i++)
      await server.app.inject({
        method: 'POST',
        url: `/api/kits/${old.id}/sounds`,
        payload: { ids, put: true },
      })
    expect(await names('', { kit: old.id })).toEqual(['Iron gate bolt', 'Wooden door creak'])
    const move = await server.app.inject({
      method: 'PATCH',
      url: `/api/kits/${doors.id}`,
      payload: { parentId: old.id },
    })
    expect([move.statusCode, move.json<{ code: string }>().code]).toEqual([422, 'KIT_IN_ITSELF'])
    expect((await server.app.inject('/api/kits')).json()).toMatchObject([
      { name: 'Doors' },
      { name: 'Old ones', sounds: 2, parentId: doors.id },
    ])
    await server.app.inject({ method: 'DELETE', url: `/api/kits/${doors.id}` })
    expect((await server.app.inject('/api/kits')).json()).toEqual([])
  })
  it('remembers past searches, those of the cue first', async () => {
    for (const search of [
      { query: 'old door' },
      { query: 'rain', reelId: 'r', cueId: 'q' },
      { query: 'steps' },
    ])
      await server.app.inject({ method: 'POST', url: '/api/searches', payload: search })
    expect((await server.app.inject('/api/searches?reelId=r&cueId=q')).json()).toEqual([
      { query: 'rain', ofCue: true },
      { query: 'steps', ofCue: false },
      { query: 'old door', ofCue: false },
    ])
  })
})

describe('related words', () => {
  it('come from the lexical database, for roots and forms alike', () => {
    expect(relatedWords('car')).toEqual(expect.arrayContaining(['automobile', 'motorcar']))
    expect(relatedWords('screams')).toContain('shriek')
    expect(relatedWords('xyzzy')).toEqual([])
  })
})

import { execFileSync } from 'node:child_process'
import {
  copyFileSync,
  mkdirSync,
  renameSync,
  rmSync,
  symlinkSync,
  truncateSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import path from 'node:path'
import { PCM_CHUNK, wavHeader, type Job, type Shelf, type SoundPage } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'
import { indexShelf } from './indexShelf.js'

let server: TestServer
let shelf: string
let shelfId: string
beforeAll(async () => {
  server = await startTestServer()
  shelf = path.join(server.root, 'Irons')
  mkdirSync(path.join(shelf, 'deep'), { recursive: true })
  const tone = ['-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=44100:duration=2']
  ffmpeg(
    path.join(shelf, 'LEVR_GroundFrame_01.wav'),
    ...tone,
    '-metadata',
    'description=Heavy iron lever',
    '-metadata',
    'originator=House',
    '-write_bext',
    '1',
    '-c:a',
    'pcm_s24le',
  )
  ffmpeg(
    path.join(shelf, 'deep/gate.flac'),
    ...tone,
    '-metadata',
    'title=Gate bolt, cast iron',
    '-metadata',
    'comment=Dry',
    '-metadata',
    'copyright=CC0',
  )
  ffmpeg(path.join(shelf, 'deep/Škoda door öffnet.ogg'), ...tone, '-ac', '2')
  ffmpeg(
    path.join(shelf, 'hiss.mp3'),
    '-f',
    'lavfi',
    '-i',
    'anoisesrc=duration=1',
    '-metadata',
    'title=Steam hiss',
  )
  ffmpeg(path.join(shelf, 'plain.aiff'), ...tone)
  writeFileSync(path.join(shelf, 'empty.wav'), '')
  writeFileSync(path.join(shelf, 'letter.wav'), 'Dear Sir, this is no sound at all.')
  writeFileSync(
    path.join(shelf, 'headonly.wav'),
    wavHeader({ channels: 2, sampleRate: 48_000, bits: 24, length: 48_000 }),
  )
  writeFileSync(path.join(shelf, 'notes.txt'), 'not looked at')
  symlinkSync('/etc', path.join(shelf, 'way-out'))
  const made = await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: shelf } })
  shelfId = made.json<{ id: string }>().id
  await indexed()
})
afterAll(() => server.close())

const shelves = async (): Promise<Shelf[]> => (await server.app.inject('/api/shelves')).json()
const indexed = async (): Promise<Job['result']> =>
  (await server.settled((await shelves())[0]!.jobId!)).result
const search = async (q: string): Promise<SoundPage> =>
  (await server.app.inject({ url: '/api/sounds', query: { q } })).json()
const names = async (q: string): Promise<string[]> => (await search(q)).sounds.map((sound) => sound.name)

describe('indexing', () => {
  it('reads tags, names and facts of every kind of file, in whatever script', async () => {
    const { sounds, total } = await search('')
    expect(total).toBe(5)
    expect(sounds.map((sound) => [sound.name, sound.description, sound.channels, sound.sampleRate])).toEqual(
      expect.arrayContaining([
        ['LEVR Ground Frame 01', 'Heavy iron lever', 1, 44_100],
        ['Gate bolt, cast iron', 'Dry', 1, 44_100],
        ['Škoda door öffnet', '', 2, 44_100],
      ]),
    )
    // 2 s, at the reel's 48 kHz whatever the file's rate; MP3 is left out, its encoder pads.
    expect(
      sounds
        .filter((sound) => sound.name !== 'Steam hiss')
        .every((sound) => Math.abs(sound.length - 96_000) < 700),
    ).toBe(true)
    expect(sounds.find((sound) => sound.name.startsWith('LEVR'))).toMatchObject({
      length: 96_000,
      source: 'House',
      peak: expect.closeTo(-18.06, 1) as number,
    })
  })
  it('lists what can’t be read with the reason and goes on, outside of links', async () => {
    const [found] = await shelves()
    expect(found!.problems.map((problem) => problem.path)).toEqual([
      'empty.wav',
      'headonly.wav',
      'letter.wav',
    ])
    expect(found!.problems.every((problem) => problem.reason.length > 5)).toBe(true)
  })
  it('finds what is new, changed and gone, and leaves the rest alone', async () => {
    copyFileSync(path.join(shelf, 'hiss.mp3'), path.join(shelf, 'hiss two.mp3'))
    renameSync(path.join(shelf, 'plain.aiff'), path.join(server.root, 'plain.aiff'))
    utimesSync(path.join(shelf, 'deep/gate.flac'), new Date(), new Date(1_700_000_000_000))
    await server.app.inject({ method: 'POST', url: `/api/shelves/${shelfId}/index` })
    const found = { 'fresh': 1, 'changed': 1, 'moved': 0, 'same': 3, 'gone': 1, 'problems': 3, '.txt': 1 }
    expect(await indexed()).toEqual(found)
    expect((await search('plain')).sounds).toEqual([])
    renameSync(path.join(server.root, 'plain.aiff'), path.join(shelf, 'plain.aiff'))
    await server.app.inject({ method: 'POST', url: `/api/shelves/${shelfId}/index` })
    expect(await indexed()).toMatchObject({ changed: 1, gone: 0, same: 5 })
    expect(await names('plain')).toEqual(['plain'])
  })
  it('knows a moved file by its content: what was placed stays, and another may stand in its place', async () => {
    const [before] = (await search('cast iron')).sounds
    renameSync(path.join(shelf, 'deep/gate.flac'), path.join(shelf, 'moved gate.flac'))
    await server.app.inject({ method: 'POST', url: `/api/shelves/${shelfId}/index` })
    expect(await indexed()).toMatchObject({ moved: 1, fresh: 0, gone: 0 })
    expect((await search('cast iron')).sounds).toMatchObject([{ id: before!.id, path: 'moved gate.flac' }])
    copyFileSync(path.join(shelf, 'hiss.mp3'), path.join(shelf, 'deep/gate.flac'))
    await server.app.inject({ method: 'POST', url: `/api/shelves/${shelfId}/index` })
    expect(await indexed()).toMatchObject({ moved: 0, fresh: 1, gone: 0 })
    rmSync(path.join(shelf, 'deep/gate.flac'))
    renameSync(path.join(shelf, 'moved gate.flac'), path.join(shelf, 'deep/gate.flac'))
    await server.app.inject({ method: 'POST', url: `/api/shelves/${shelfId}/index` })
    await indexed()
  })
  it('keeps what it knows when the disk is away, and says so', async () => {
    renameSync(shelf, `${shelf} away`)
    const { jobId } = (
      await server.app.inject({ method: 'POST', url: `/api/shelves/${shelfId}/index` })
    ).json<{ jobId: string }>()
    expect(await server.settled(jobId)).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('connect the disk') as string,
    })
    expect((await shelves())[0]).toMatchObject({ away: true, sounds: 6 })
    expect(await names('hiss')).toHaveLength(2)
    renameSync(`${shelf} away`, shelf)
    await server.app.inject({ method: 'POST', url: `/api/shelves/${shelfId}/index` })
    expect(await indexed()).toMatchObject({ same: 6, gone: 0 })
  })
  it('is not disturbed by a second run at the same time', async () => {
    utimesSync(path.join(shelf, 'deep/gate.flac'), new Date(), new Date(1_700_000_900_000))
    const context = { id: 'twice', signal: new AbortController().signal, progress: () => undefined }
    const runs = await Promise.all([
      indexShelf(server.services, shelfId, context),
      indexShelf(server.services, shelfId, context),
    ])
    expect(runs.map((run) => run.problems)).toEqual([3, 3])
  })
  it('looks through a shelf once more that something has come onto behind its back', async () => {
    const length = 60 * 48_000
    const head = wavHeader({ channels: 1, sampleRate: 48_000, bits: 16, length })
    writeFileSync(path.join(shelf, 'long.wav'), Buffer.concat([head, Buffer.alloc(length * 2, 3)]))
    const url = `/api/shelves/${shelfId}/index`
    const { jobId } = (await server.app.inject({ method: 'POST', url })).json<{ jobId: string }>()
    // The folder has been listed once it listens.
    await expect
      .poll(async () => (await server.services.jobs.find(jobId))!.progress, { interval: 5 })
      .toBeGreaterThan(0.29)
    copyFileSync(path.join(shelf, 'hiss.mp3'), path.join(shelf, 'late.mp3'))
    expect((await server.app.inject({ method: 'POST', url })).json()).toMatchObject({ jobId })
    expect(await indexed()).toMatchObject({ fresh: 2, same: 6, gone: 0, problems: 3 })
    for (const name of ['long.wav', 'late.mp3']) rmSync(path.join(shelf, name))
    await server.app.inject({ method: 'POST', url })
    await indexed()
  })
  it('refuses folders outside the roots, also through a link, and what is not there', async () => {
    const add = async (wanted: string) =>
      (await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: wanted } })).json<{
        code: string
      }>().code
    expect(await add('/etc')).toBe('PATH_OUTSIDE_ROOTS')
    expect(await add(path.join(shelf, 'way-out'))).toBe('PATH_OUTSIDE_ROOTS')
    expect(await add(path.join(shelf, '../../../etc'))).toMatch(/PATH_OUTSIDE_ROOTS|PATH_MISSING/)
    expect(await add(`${shelf}x`)).toBe('PATH_MISSING')
    expect(await add(path.join(shelf, 'hiss.mp3'))).toBe('PATH_MISSING')
  })
})

describe('decoded sound', () => {
  it('is served in chunks, sample for sample what ffmpeg decodes', async () => {
    const [sound] = (await search('LEVR')).sounds
    const expected = execFileSync('ffmpeg', [
      '-v',
      'error',
      '-i',
      path.join(shelf, 'LEVR_GroundFrame_01.wav'),
      '-ac',
      '1',
      '-ar',
      '48000',
      '-f',
      'f32le',
      '-',
    ])
    const chunks = await Promise.all(
      [0, 1, 2].map((index) => server.app.inject(`/api/media/${sound!.id}/pcm/${index}`)),
    )
    expect(chunks[0]!.headers['x-channels']).toBe('1')
    expect(chunks.map((chunk) => chunk.rawPayload.length)).toEqual([
      PCM_CHUNK * 4,
      (96_000 - PCM_CHUNK) * 4,
      0,
    ])
    expect(Buffer.concat(chunks.map((chunk) => chunk.rawPayload)).equals(expected)).toBe(true)
    const peaks = await server.app.inject(`/api/media/${sound!.id}/peaks/0`)
    expect(peaks.rawPayload).toHaveLength(2 * Math.ceil(96_000 / 256))
  })
  it('says so when the disk is full, and leaves nothing half-written', async () => {
    const [sound] = (await search('gate')).sounds
    const [row] = (await server.services.db.query('SELECT fingerprint FROM sound WHERE id = $1', [
      sound!.id,
    ])) as { fingerprint: string }[]
    const pcm = await server.services.media.folder('pcm')
    // The kernel's own full disk stands where the file would be written.
    symlinkSync('/dev/full', path.join(pcm, `${sound!.id}-${row!.fingerprint}.f32.${process.pid}.new`))
    const full = await server.app.inject(`/api/media/${sound!.id}/pcm/0`)
    expect([full.statusCode, full.json<{ code: string; message: string }>()]).toEqual([
      507,
      { code: 'DISK_FULL', message: expect.stringContaining('The disk is full') as string },
    ])
    expect((await server.app.inject(`/api/media/${sound!.id}/pcm/0`)).statusCode).toBe(200)
  })
  it('says what to do when the file has become unreadable', async () => {
    const [sound] = (await search('two')).sounds
    truncateSync(path.join(shelf, 'hiss two.mp3'), 10)
    const answer = await server.app.inject(`/api/media/${sound!.id}/pcm/0`)
    expect([answer.statusCode, answer.json<{ code: string; message: string }>().code]).toEqual([
      422,
      'SOUND_UNREADABLE',
    ])
    expect((await server.app.inject('/api/media/nothing/pcm/0')).statusCode).toBe(404)
  })
})

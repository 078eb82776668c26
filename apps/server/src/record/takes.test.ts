import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { appendFileSync, existsSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import type { OpenTake, Shelf, Sound, SoundPage, TakeAbout } from '@yodel/core'
import type { LightMyRequestResponse } from 'fastify'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reelId: string
beforeAll(async () => {
  server = await startTestServer()
  reelId = await server.makeReel()
})
afterAll(() => server.close())

/** An hour and ten seconds after midnight at 48 kHz. */
const REEL_AT = 3600 * 48_000
const aboutOf = (fields: Partial<TakeAbout> = {}): TakeAbout => ({
  ...{ id: randomUUID(), reelId, cueId: 'q', name: 'FX 004 take 2', number: 2, channels: 1 },
  ...{ start: 480_000 - 2400, in: 480_000, out: 528_000, sync: 490_000, reelAt: REEL_AT },
  ...{ device: 'Desk, input 3', roundTrip: 2400, measured: true },
  ...fields,
})
/** Noise beyond what 24 bits hold, some of it over full scale. */
const noise = (length: number): Float32Array => {
  let seed = 9
  return Float32Array.from({ length }, () => {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0
    return (seed / 2 ** 31 - 1) * 1.1
  })
}
const bytesOf = (samples: Float32Array): Buffer =>
  Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)
const post = (url: string, payload: object): Promise<LightMyRequestResponse> =>
  server.app.inject({ method: 'POST', url, payload })
const begin = async (about: TakeAbout): Promise<TakeAbout> => {
  expect((await post('/api/takes', about)).statusCode).toBe(204)
  return about
}
const send = (id: string, from: number, payload: Buffer): Promise<LightMyRequestResponse> => {
  const headers = { 'content-type': 'application/octet-stream' }
  return server.app.inject({ method: 'POST', url: `/api/takes/${id}/samples?from=${from}`, headers, payload })
}
const end = (id: string, length: number | null, note = '', later = 0): Promise<LightMyRequestResponse> =>
  post(`/api/takes/${id}/end`, { length, note, later })
const openTakes = async (): Promise<OpenTake[]> =>
  (await server.app.inject(`/api/reels/${reelId}/takes`)).json()
const samplesFile = (id: string): string => path.join(server.dataDir, 'takes', `${id}.f32`)

/** The file of a recording that was made here. */
async function fileOf({ id }: Sound): Promise<string> {
  const { path: below } = (await server.app.inject(`/api/sounds/${id}/file`)).json<{ path: string }>()
  const made = path.join(server.dataDir, 'made')
  return path.join(made, readdirSync(made)[0]!, below)
}

describe('a take', () => {
  it('becomes a recording with the very samples that were sent, also those that came twice or in another order', async () => {
    const { id } = await begin(aboutOf())
    const samples = noise(12_000)
    const part = (from: number, to: number): Buffer => bytesOf(samples.subarray(from, to))
    expect((await send(id, 0, part(0, 2400))).json()).toEqual({ length: 2400 })
    const gap = await send(id, 4800, part(4800, 7200))
    expect([gap.statusCode, gap.json()]).toMatchObject([409, { code: 'TAKE_GAP', details: { length: 2400 } }])
    expect((await send(id, 0, part(0, 2400))).json()).toEqual({ length: 2400 })
    expect((await send(id, 1200, part(1200, 7200))).json()).toEqual({ length: 7200 })
    expect((await send(id, 7200, part(7200, 7201).subarray(0, 3))).statusCode).toBe(400)
    // A server that was killed while it wrote leaves a part of a sample.
    appendFileSync(samplesFile(id), Buffer.from([1, 2, 3]))
    expect((await end(id, 12_000)).json()).toMatchObject({ code: 'TAKE_GAP' })
    expect((await send(id, 7200, part(7200, 12_000))).json()).toEqual({ length: 12_000 })

    const sound = (await end(id, 12_000, '2 overs')).json<Sound>()
    expect(sound).toMatchObject({ name: 'FX 004 take 2', length: 12_000, channels: 1 })
    const file = await fileOf(sound)
    const probed = execFileSync('ffprobe', [
      ...['-v', 'error', '-show_entries', 'stream=codec_name,sample_rate:format_tags', '-of', 'json', file],
    ])
    const { streams, format } = JSON.parse(probed.toString()) as {
      streams: object[]
      format: { tags: Record<string, string> }
    }
    expect(streams).toMatchObject([{ codec_name: 'pcm_f32le', sample_rate: '48000' }])
    // Placed a round trip before the in: its timecode says so.
    expect(format.tags['time_reference']).toBe(String(REEL_AT + 480_000 - 2400))
    expect(format.tags['comment']).toContain('Desk, input 3')
    expect(format.tags['comment']).toContain('50.0 ms earlier (measured)')
    const decoded = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'f32le', '-'])
    expect(decoded.equals(bytesOf(samples))).toBe(true)

    // It is found like every other, and ending it once more gives the same one.
    const found = (await server.app.inject('/api/sounds?q=take')).json<SoundPage>()
    expect(found.sounds.map((one) => one.id)).toContain(sound.id)
    const shelves = (await server.app.inject('/api/shelves')).json<Shelf[]>()
    expect(shelves.find((shelf) => shelf.id === sound.shelfId)?.sounds).toBe(1)
    expect((await end(id, 12_000)).json<Sound>().id).toBe(sound.id)
    await server.app.inject({ method: 'DELETE', url: `/api/takes/${id}` })
    expect([existsSync(samplesFile(id)), (await end(id, 12_000)).statusCode]).toEqual([false, 404])
  })

  it('lies where its end says, in its timecode and for whoever brings it in from elsewhere', async () => {
    const { id, start } = await begin(aboutOf({ name: 'FX 004 take 3' }))
    await send(id, 0, bytesOf(noise(2400)))
    const sound = (await end(id, 2400, '', -960)).json<Sound>()
    const args = ['-v', 'error', '-show_entries', 'format_tags=time_reference', '-of', 'csv=p=0']
    const timecode = execFileSync('ffprobe', [...args, await fileOf(sound)]).toString()
    expect(Number(timecode)).toBe(REEL_AT + start - 960)
    const open = (await openTakes()).find(({ about }) => about.id === id)
    expect(open?.about.start).toBe(start - 960)
    await server.app.inject({ method: 'DELETE', url: `/api/takes/${id}` })
  })

  it('of two channels keeps both; a second one of its name does not take its place', async () => {
    const samples = noise(9600)
    const ids: string[] = []
    for (const level of [1, 0.5]) {
      const { id } = await begin(aboutOf({ channels: 2, name: 'FX 005 take 1' }))
      await send(id, 0, bytesOf(samples.map((value) => value * level)))
      const sound = (await end(id, 4800)).json<Sound>()
      expect(sound).toMatchObject({ channels: 2, length: 4800 })
      ids.push(sound.id)
    }
    expect(ids[0]).not.toBe(ids[1])
  })

  it('that was left stands in a list of its reel until it has come onto its cue, and can be ended as it is', async () => {
    const before = await openTakes()
    const about = await begin(aboutOf({ name: 'FX 006 take 1' }))
    await send(about.id, 0, bytesOf(noise(4800)))
    // A power cut can leave a note that says nothing; it must not hide the others.
    writeFileSync(path.join(server.dataDir, 'takes', `${randomUUID()}.json`), '{"about": {"id"')
    const left = (await openTakes()).find((one) => one.about.id === about.id)!
    expect(left).toMatchObject({ about, length: 4800 })
    expect(left.silent).toBeLessThan(30)
    expect((await end(about.id, null, 'Broken off')).json()).toMatchObject({ length: 4800 })
    // Whoever recorded it was only away: the take goes on, and ends anew with all of it.
    expect((await send(about.id, 4800, bytesOf(noise(2400)))).json()).toEqual({ length: 7200 })
    expect((await end(about.id, 7200)).json()).toMatchObject({ length: 7200 })
    await server.app.inject({ method: 'DELETE', url: `/api/takes/${about.id}` })
    expect((await openTakes()).map((one) => one.about.id)).toEqual(before.map((one) => one.about.id))
  })

  it('is refused with a reason: no such reel or take, nothing in it, a disk that is full', async () => {
    expect((await post('/api/takes', aboutOf({ reelId: 'none' }))).json()).toMatchObject({
      code: 'REEL_MISSING',
    })
    expect((await send(randomUUID(), 0, Buffer.alloc(4))).json()).toMatchObject({ code: 'NOT_FOUND' })
    expect((await send('../../etc', 0, Buffer.alloc(4))).statusCode).toBeGreaterThanOrEqual(400)
    const empty = await begin(aboutOf())
    expect((await end(empty.id, 0)).json()).toMatchObject({ code: 'TAKE_EMPTY' })
    const text = await post(`/api/takes/${empty.id}/samples?from=0`, { samples: [1] })
    expect(text.json()).toMatchObject({ code: 'BAD_REQUEST' })
    // Linux has a disk that is always full.
    const full = await begin(aboutOf())
    symlinkSync('/dev/full', samplesFile(full.id))
    const answer = await send(full.id, 0, bytesOf(noise(100)))
    expect([answer.statusCode, answer.json()]).toMatchObject([507, { code: 'DISK_FULL' }])
    expect(answer.json<{ message: string }>().message).toContain('FX 004 take 2')
  })
})

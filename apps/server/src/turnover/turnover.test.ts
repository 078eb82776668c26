import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  apply,
  documentOf,
  expectOk,
  packStereo24,
  placeSound,
  squash,
  spotCue,
  wavHeader,
  type ReelState,
  type SoundPage,
  type Shelf,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let id: string
const CLICK_AT = 7200

beforeAll(async () => {
  server = await startTestServer()
  const click = new Float32Array(24_000)
  click[CLICK_AT] = 0.5
  writeFileSync(
    path.join(server.root, 'click.wav'),
    Buffer.concat([
      wavHeader({ channels: 2, sampleRate: 48_000, bits: 24, length: 24_000 }),
      packStereo24(click, click, 24_000).bytes,
    ]),
  )
  await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: server.root } })
  await server.settled((await server.app.inject('/api/shelves')).json<Shelf[]>()[0]!.jobId!)
  const [sound] = (await server.app.inject('/api/sounds')).json<SoundPage>().sounds
  const made = await server.app.inject({
    method: 'POST',
    url: '/api/reels',
    payload: {
      showId: null,
      showName: 'Show',
      name: 'Reel 2',
      rate: '29.97d',
      firstTimecode: '02:00:00;00',
      lengthSeconds: 75,
    },
  })
  id = made.json<{ id: string }>().id
  const state = (await server.app.inject(`/api/reels/${id}`)).json<ReelState>()
  const doc = documentOf(state.records)
  const cue = expectOk(spotCue(doc, { id: 'q', category: 'FX', in: 1798, out: 1900, words: 'Click' }))
  const withCue = expectOk(apply(doc, cue))
  const place = expectOk(
    placeSound(withCue, {
      id: 'c',
      newTrackId: 't',
      category: 'FX',
      cueId: 'q',
      frame: 1799,
      sound: { id: sound!.id, name: 'click', recorded: sound!.length, sync: CLICK_AT },
    }),
  )
  await server.app.inject({
    method: 'POST',
    url: `/api/reels/${id}/changes`,
    payload: {
      changeId: randomUUID(),
      base: 1,
      role: 'do',
      target: null,
      change: squash(cue, place, 'Both'),
    } as never,
  })
})
afterAll(() => server.close())

const bounce = async (): Promise<string> =>
  (await server.app.inject({ method: 'POST', url: `/api/reels/${id}/bounce` })).json<{ jobId: string }>()
    .jobId

describe('turnover', () => {
  it('bounces the mix as Broadcast WAV with the time of the reel’s first frame, the sound at its sample (read by ffprobe and ffmpeg)', async () => {
    const jobId = await bounce()
    expect(await server.settled(jobId)).toMatchObject({
      state: 'done',
      result: {
        overs: 0,
        misses: 0,
        name: expect.stringMatching(/^Show_Reel-2_\d{4}-\d\d-\d\d_mix\.wav$/) as string,
        peak: expect.closeTo(-6.02, 1) as number,
      },
    })
    const file = path.join(server.dataDir, 'bounces', `${jobId}.wav`)
    const probe = JSON.parse(
      execFileSync('ffprobe', [
        '-v',
        'error',
        '-show_streams',
        '-show_format',
        '-of',
        'json',
        file,
      ]).toString(),
    ) as {
      streams: Record<string, unknown>[]
      format: { tags: Record<string, string> }
    }
    expect(probe.streams[0]).toMatchObject({ codec_name: 'pcm_s24le', sample_rate: '48000', channels: 2 })
    // 02:00:00;00 drop-frame is 215,784 frames of 1601.6 samples: 345,599,654.4.
    expect(probe.format.tags).toMatchObject({ time_reference: '345599654', encoded_by: 'Yodel' })
    const samples = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 's32le', '-'], {
      maxBuffer: 1 << 28,
    })
    const at = Math.round(1799 * 1601.6)
    expect(samples.readInt32LE(at * 8) / 2 ** 31).toBeCloseTo(0.5, 6)
    expect(samples.readInt32LE((at - 1) * 8)).toBe(0)
    expect(samples.length / 8).toBe(Math.round(2248 * 1601.6))
  })
  it('gives lists, and the mix under a readable name', async () => {
    const csv = await server.app.inject(`/api/reels/${id}/cues.csv`)
    expect(csv.headers['content-disposition']).toMatch(/Show_Reel-2_\d{4}-\d\d-\d\d_cues\.csv$/)
    expect(csv.body).toContain('FX 001,FX,02:00:59;28,02:01:03;12')
    expect((await server.app.inject(`/api/reels/${id}/clips.edl`)).body).toMatch(
      /FCM: DROP FRAME[\s\S]*FROM CLIP NAME: click\.wav/,
    )
    expect((await server.app.inject(`/api/bounces/${randomUUID()}`)).statusCode).toBe(404)
  })
  it('can be cancelled while it mixes, and leaves nothing half-done', async () => {
    // An hour of reel lasts long enough to be broken off in the middle.
    const { db } = server.services
    await db.query(
      `UPDATE record SET data = data || '{"length": 108000}' WHERE reel_id = $1 AND kind = 'reel'`,
      [id],
    )
    const files = (): string[] => readdirSync(path.join(server.dataDir, 'bounces'))
    const before = files()
    const jobId = await bounce()
    await expect
      .poll(() => files().filter((name) => name.endsWith('.new')), { timeout: 10_000 })
      .toHaveLength(1)
    await server.app.inject({ method: 'POST', url: `/api/jobs/${jobId}/cancel` })
    expect(await server.settled(jobId)).toMatchObject({ state: 'cancelled', message: 'Cancelled.' })
    await expect.poll(files, { timeout: 10_000 }).toEqual(before)
    await db.query(
      `UPDATE record SET data = data || '{"length": 2248}' WHERE reel_id = $1 AND kind = 'reel'`,
      [id],
    )
  })
  it('takes up a job whose server was killed', async () => {
    const jobId = randomUUID()
    await server.services.db.query(
      `INSERT INTO job (id, kind, title, payload, state, beat_at, created_at, attempts) VALUES ($1, 'bounce', 'left behind', $2, 'running', now() - interval '1 minute', now(), 1)`,
      [jobId, { reelId: id }],
    )
    expect(await server.settled(jobId)).toMatchObject({ state: 'done' })
  })
})

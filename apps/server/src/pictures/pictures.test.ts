import { readdirSync, readFileSync, renameSync, truncateSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { FRAME_RATES, type FrameRateId, type Picture } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const pick = (file: string) =>
  server.app.inject({ method: 'POST', url: '/api/pictures/pick', payload: { path: file } })
const upload = (name: string, content: Buffer) => {
  const boundary = 'yodel-test'
  const payload = Buffer.concat([
    Buffer.from(
      `--${boundary}\r\nContent-Disposition: form-data; name="movie"; filename="${name}"\r\nContent-Type: video/mp4\r\n\r\n`,
    ),
    content,
    Buffer.from(`\r\n--${boundary}--\r\n`),
  ])
  return server.app.inject({
    method: 'POST',
    url: '/api/pictures',
    headers: { 'content-type': `multipart/form-data; boundary=${boundary}` },
    payload,
  })
}
const source = (rate: FrameRateId, frames: number): string[] => [
  '-f',
  'lavfi',
  '-i',
  `testsrc=size=320x180:rate=${FRAME_RATES[rate].num}/${FRAME_RATES[rate].den}`,
  '-frames:v',
  String(frames),
]
const finished = async (picture: Picture): Promise<Picture> => {
  await server.settled(picture.jobId!)
  return (await server.app.inject(`/api/pictures/${picture.id}`)).json()
}

describe('a movie', () => {
  it.each(['23.976', '24', '25', '29.97', '30', '47.952', '48', '50', '59.94', '60'] as const)(
    'of %s fps (ffmpeg’s test source) gets its rate, and one proxy frame for each of its own',
    async (rate) => {
      const file = ffmpeg(path.join(server.root, `${rate}.mp4`), ...source(rate, 61))
      const made = await pick(file)
      expect(made.json()).toMatchObject({
        rate,
        frames: 61,
        width: 320,
        height: 180,
        codec: 'h264',
        state: 'waiting',
      })
      const picture = await finished(made.json())
      expect(picture).toMatchObject({ state: 'ready', frames: 61, tracks: [] })
      const index = (await server.app.inject(`/api/pictures/${picture.id}/index`)).rawPayload
      const offsets = new Float64Array(
        index.buffer.slice(index.byteOffset, index.byteOffset + index.byteLength),
      )
      expect(offsets).toHaveLength(62)
      const last = await server.app.inject({
        url: `/api/pictures/${picture.id}/frames`,
        headers: { range: `bytes=${offsets[60]}-${offsets[61]! - 1}` },
      })
      expect([
        last.statusCode,
        last.rawPayload.length,
        last.rawPayload.readUInt32BE(0),
        last.rawPayload[4]! & 31,
      ]).toEqual([206, offsets[61]! - offsets[60]!, 1, 9])
      expect(
        (await server.app.inject(`/api/pictures/${picture.id}/sheets/strip/1`)).headers['content-type'],
      ).toBe('image/jpeg')
    },
  )

  it('gives its sound as the guide, and is uploaded as well as picked', async () => {
    const file = ffmpeg(
      path.join(server.root, 'sound.mov'),
      '-f',
      'lavfi',
      '-i',
      'sine=duration=2',
      '-f',
      'lavfi',
      '-i',
      'testsrc=size=320x180:rate=25:duration=2',
      '-c:a',
      'pcm_s16le',
    )
    const answer = await upload('sound.mov', readFileSync(file))
    expect(answer.statusCode).toBe(201)
    const picture = await finished(answer.json())
    expect(picture).toMatchObject({
      state: 'ready',
      name: 'sound.mov',
      tracks: [{ channels: 1, length: expect.closeTo(96_000, -3) as number, silent: false, problem: '' }],
      heard: [0],
    })
    expect((await server.app.inject(`/api/media/guide-${picture.id}/pcm/0`)).headers['x-channels']).toBe('1')
  })

  it('with frames of uneven length is shown at an even rate, and says so', async () => {
    const file = ffmpeg(
      path.join(server.root, 'uneven.mkv'),
      '-f',
      'lavfi',
      '-i',
      'testsrc=size=320x180:rate=50',
      '-vf',
      "select='not(mod(n,2))+not(mod(n,10)-1)'",
      '-fps_mode',
      'vfr',
      '-frames:v',
      '50',
    )
    const answer = await pick(file)
    expect(answer.json()).toMatchObject({
      rate: '25',
      message:
        'uneven.mkv does not run evenly at 25 fps: each moment is shown where it belongs; 8 frames are left out.',
    })
    expect((await finished(answer.json())).state).toBe('ready')
  })
})

describe('a movie whose preparing breaks off', () => {
  it('says why, and is prepared when it is tried again', async () => {
    // It waits behind another movie, and is gone when its turn comes: its disk was taken out.
    const first = (
      await pick(ffmpeg(path.join(server.root, 'first.mp4'), ...source('24', 240)))
    ).json<Picture>()
    const file = ffmpeg(path.join(server.root, 'second.mp4'), ...source('24', 48))
    const made = (await pick(file)).json<Picture>()
    renameSync(file, `${file}.away`)
    const broken = await finished(made)
    expect(broken).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('is not there. Connect its disk') as string,
    })
    expect((await server.services.jobs.find(made.jobId!))?.message).toBe(broken.message)
    expect((await finished(first)).state).toBe('ready')
    renameSync(`${file}.away`, file)
    const again = await server.app.inject({ method: 'POST', url: `/api/jobs/${made.jobId}/resume` })
    expect(again.statusCode).toBe(204)
    expect(await finished(made)).toMatchObject({ state: 'ready', message: '', frames: 48 })
  })
})

describe('a bad movie', () => {
  const refused = async (answer: ReturnType<typeof pick>): Promise<[number, string]> => {
    const { statusCode, json } = await answer
    const { code, message } = json<{ code: string; message: string }>()
    expect(message.length).toBeGreaterThan(20)
    return [statusCode, code]
  }
  it('is refused with what is wrong: empty, text, sound only, truncated', async () => {
    const whole = ffmpeg(path.join(server.root, 'whole.mp4'), ...source('24', 48))
    expect(await refused(upload('empty.mp4', Buffer.alloc(0)))).toEqual([422, 'UPLOAD_EMPTY'])
    expect(await refused(upload('letter.mp4', Buffer.from('Dear Sir')))).toEqual([422, 'MOVIE_UNREADABLE'])
    const cut = path.join(server.root, 'cut.mp4')
    writeFileSync(cut, readFileSync(whole))
    truncateSync(cut, 2000)
    expect(await refused(pick(cut))).toEqual([422, 'MOVIE_UNREADABLE'])
    expect(
      await refused(
        pick(ffmpeg(path.join(server.root, 'sound.wav'), '-f', 'lavfi', '-i', 'sine=duration=1')),
      ),
    ).toEqual([422, 'MOVIE_NO_PICTURE'])
    expect(await refused(pick('/etc/hostname'))).toEqual([403, 'PATH_OUTSIDE_ROOTS'])
  })
  it('leaves nothing behind', async () => {
    const folder = path.join(server.dataDir, 'pictures')
    const before = readdirSync(folder)
    await upload('letter.mp4', Buffer.from('Dear Sir'))
    expect(readdirSync(folder)).toEqual(before)
  })
})

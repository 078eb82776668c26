import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readFileSync, truncateSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { setTimeout } from 'node:timers/promises'
import { guideMedia, type Analysis, type Looking, type Picture } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

// Movies as cutting rooms and phones send them, each made by ffmpeg.
let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const inRoot = (name: string): string => path.join(server.root, name)
const pick = (file: string, query = '') =>
  server.app.inject({ method: 'POST', url: `/api/pictures/pick${query}`, payload: { path: file } })
async function taken(file: string, query = ''): Promise<Picture> {
  const answer = await pick(file, query)
  expect(answer.statusCode, answer.body).toBe(201)
  const { id, jobId } = answer.json<Picture>()
  await server.settled(jobId!)
  const made = (await server.app.inject(`/api/pictures/${id}`)).json<Picture>()
  expect(made, made.message).toMatchObject({ state: 'ready' })
  return made
}
const moving = (size = '320x180', seconds = 3, rate = '25'): string[] => [
  ...['-f', 'lavfi', '-i', `testsrc=size=${size}:rate=${rate}:duration=${seconds}`],
]
const tone = (hz: number, seconds = 3): string[] => [
  ...['-f', 'lavfi', '-i', hz === 0 ? `aevalsrc=0:s=48000:d=${seconds}` : `sine=${hz}:r=48000:d=${seconds}`],
]

/** Tone of the second half-second of a track, in Hz, by its crossings of nought; null where it is silent. */
async function pitchOf({ id, tracks }: Picture, track: number): Promise<number | null> {
  const { rawPayload } = await server.app.inject(
    `/api/media/${encodeURIComponent(guideMedia(id, track))}/pcm/0`,
  )
  const { channels } = tracks[track]!
  const samples = Array.from({ length: 24_000 }, (_, i) =>
    rawPayload.readFloatLE(4 * channels * (i + 24_000)),
  )
  if (samples.every((value) => Math.abs(value) < 1e-4)) return null
  return samples.filter((value, i) => i > 0 && samples[i - 1]! < 0 && value >= 0).length * 2
}

describe('every sound track is a guide of its own', () => {
  it('of an MXF with eight mono tracks, the first silent, and a timecode', async () => {
    const pitches = [0, 200, 300, 400, 500, 600, 700, 800]
    const file = ffmpeg(
      inRoot('eight.mxf'),
      ...[...moving(), ...pitches.flatMap((hz) => tone(hz))],
      ...['-map', '0', ...pitches.flatMap((_, index) => ['-map', String(index + 1)])],
      ...['-c:v', 'mpeg2video', '-c:a', 'pcm_s24le', '-ar', '48000', '-timecode', '00:59:58:10'],
    )
    const made = await taken(file)
    expect(made.tracks.map(({ channels, silent }) => [channels, silent])).toEqual(
      pitches.map((hz) => [1, hz === 0]),
    )
    expect(made.start).toBe('00:59:58:10')
    expect([made.heard, made.drawn]).toEqual([[1, 2, 3, 4, 5, 6, 7], 1])
    const heard = await Promise.all(pitches.map((_, track) => pitchOf(made, track)))
    for (const [track, hz] of pitches.entries())
      if (hz === 0) expect(heard[track]).toBeNull()
      else expect(Math.abs(heard[track]! - hz)).toBeLessThanOrEqual(2)
  })

  it('with their names where the file says them; the choice is kept, and onsets are those of the drawn one', async () => {
    const file = ffmpeg(
      inRoot('named.mov'),
      ...[...moving(), ...tone(0)],
      ...['-f', 'lavfi', '-i', "aevalsrc='if(between(t,1.5,1.6),0.8*sin(2*PI*900*t),0)':s=48000:d=3"],
      ...['-map', '0', '-map', '1', '-map', '2', '-c:a', 'pcm_s16le'],
      ...['-metadata:s:a:0', 'title=Dialogue', '-metadata:s:a:1', 'title=Temp FX'],
      ...['-metadata:s:a:0', 'handler_name=Dialogue', '-metadata:s:a:1', 'handler_name=Temp FX'],
    )
    const made = await taken(file)
    expect(made.tracks.map(({ name }) => name)).toEqual(['Dialogue', 'Temp FX'])
    const url = `/api/pictures/${made.id}`
    const analysis = async (): Promise<Analysis> => (await server.app.inject(`${url}/analysis`)).json()
    expect(Math.abs((await analysis()).onsets[0]!.at - 1.5 * 48_000)).toBeLessThan(480)
    const put = (payload: object) => server.app.inject({ method: 'PUT', url: `${url}/guides`, payload })
    expect((await put({ heard: [0], drawn: 0 })).json()).toMatchObject({ heard: [0], drawn: 0 })
    expect(await analysis()).toMatchObject({ onsets: [], track: 0 })
    expect((await server.app.inject(url)).json()).toMatchObject({ heard: [0], drawn: 0 })
    const refused = await put({ heard: [0, 7], drawn: 0 })
    expect([refused.statusCode, refused.json<{ message: string }>().message]).toEqual([
      400,
      'named.mov has 2 sound tracks; another one was asked for.',
    ])
  })

  it('of twelve channels that are no loudspeakers’ each is one; of 5.1 the low channel is heard', async () => {
    const channels = Array.from({ length: 12 }, (_, index) => `0.3*sin(2*PI*${100 * (index + 1)}*t)`)
    const twelve = ffmpeg(
      inRoot('twelve.mkv'),
      ...[...moving(), '-f', 'lavfi', '-i', `aevalsrc='${channels.join('|')}':s=48000:d=3`],
      ...['-c:v', 'libx264', '-c:a', 'pcm_s16le'],
    )
    const many = await taken(twelve)
    expect(many.tracks.map(({ name }) => name).slice(0, 2)).toEqual(['channel 1', 'channel 2'])
    expect(many.tracks).toHaveLength(12)
    expect(Math.abs((await pitchOf(many, 11))! - 1200)).toBeLessThanOrEqual(2)
    const low = ffmpeg(
      inRoot('low.mkv'),
      ...[...moving(), '-f', 'lavfi', '-i', "aevalsrc='0|0|0|0.5*sin(2*PI*60*t)|0|0':c=5.1:s=48000:d=3"],
      ...['-c:v', 'libx264', '-c:a', 'flac'],
    )
    const wide = await taken(low)
    expect(wide.tracks).toMatchObject([{ name: '5.1', channels: 2, silent: false }])
    expect(Math.abs((await pitchOf(wide, 0))! - 60)).toBeLessThanOrEqual(2)
  })
})

/** Pixels of the proxy's first frame that are not black: from the left, the top, and how many each way. */
function litPart({ id }: Picture): { width: number; height: number } {
  const proxy = path.join(server.dataDir, 'pictures', id, 'frames.h264')
  const grey = execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', proxy, '-frames:v', '1', '-vf', 'format=gray', '-f', 'rawvideo', '-'],
  ])
  const isLit = (x: number, y: number): boolean => grey[y * 640 + x]! > 128
  return {
    width: Array.from({ length: 640 }, (_, x) => isLit(x, 180)).filter(Boolean).length,
    height: Array.from({ length: 360 }, (_, y) => isLit(320, y)).filter(Boolean).length,
  }
}

describe('the shape that is shown', () => {
  const white = (size: string): string[] => [
    '-f',
    'lavfi',
    '-i',
    `color=white:size=${size}:rate=25:duration=1`,
  ]

  // ITU-R BT.601 picture of 720x576 shown at 16:9; a squeezed lens; high definition with 1440 samples a line.
  it.each([
    ['720x576', '64/45', [1024, 576], [640, 360]],
    ['720x480', '2/1', [1440, 480], [640, 214]],
    ['1440x1080', '4/3', [1920, 1080], [640, 360]],
  ])('of %s with pixels of %s is that of a circle', async (size, sar, shown, lit) => {
    const name = `sar-${sar.replace('/', '-')}.mkv`
    const made = await taken(ffmpeg(inRoot(name), ...white(size), '-vf', `setsar=${sar}`, '-c:v', 'libx264'))
    expect([made.width, made.height]).toEqual(shown)
    const { width, height } = litPart(made)
    expect(Math.abs(width - lit[0]!)).toBeLessThanOrEqual(2)
    expect(Math.abs(height - lit[1]!)).toBeLessThanOrEqual(2)
  })

  it('of a phone held upright is upright', async () => {
    const flat = ffmpeg(inRoot('flat.mp4'), ...white('320x180'), '-c:v', 'libx264')
    const turned = ffmpeg(inRoot('turned.mp4'), '-i', flat, '-c', 'copy', '-metadata:s:v', 'rotate=90')
    const made = await taken(turned)
    expect([made.width, made.height]).toEqual([180, 320])
    expect(litPart(made).height).toBeGreaterThan(litPart(made).width)
  })
})

/** First frame of the proxy that is light, and first sample of its one mono guide that sounds. */
async function lightAndBeep({ id }: Picture): Promise<{ light: number; beep: number }> {
  const proxy = path.join(server.dataDir, 'pictures', id, 'frames.h264')
  const grey = execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', proxy, '-vf', 'scale=1:1:flags=area,format=gray', '-fps_mode', 'passthrough'],
    ...['-f', 'rawvideo', '-'],
  ])
  const samples: number[] = []
  for (const chunk of [0, 1, 2]) {
    const { rawPayload } = await server.app.inject(`/api/media/${guideMedia(id, 0)}/pcm/${chunk}`)
    for (let at = 0; at < rawPayload.length; at += 4) samples.push(rawPayload.readFloatLE(at))
  }
  return {
    light: grey.findIndex((value) => value > 128),
    beep: samples.findIndex((value) => Math.abs(value) > 0.05),
  }
}

describe('trimmed by copy', () => {
  it.each([
    ['mov', ['-c:v', 'libx264', '-g', '25', '-bf', '3', '-x264-params', 'open-gop=1'], '1.32'],
    ['mov', ['-c:v', 'prores_ks'], '1.32'],
    ['mp4', ['-c:v', 'libx264', '-g', '50', '-bf', '2'], '1.72'],
  ])('a %s of %s has the frames that are shown, with their sound', async (ending, codec, from) => {
    const name = codec[1]! + ending
    const whole = ffmpeg(
      inRoot(`whole-${name}.${ending}`),
      ...['-f', 'lavfi', '-i', 'color=black:size=320x180:rate=25:duration=4'],
      ...['-f', 'lavfi', '-i', "aevalsrc='if(between(t,3,3.5),0.5*sin(2*PI*1000*t),0)':s=48000:d=4"],
      ...['-vf', "drawbox=color=white:t=fill:enable='between(t,3,3.49)'", ...codec],
      ...['-c:a', 'pcm_s16le', ...(ending === 'mp4' ? ['-c:a', 'aac'] : [])],
    )
    const file = ffmpeg(inRoot(`cut-${name}.${ending}`), '-ss', from, '-i', whole, '-c', 'copy')
    const made = await taken(file)
    const { light, beep } = await lightAndBeep(made)
    expect(light).toBeGreaterThan(20)
    expect(Math.abs(beep - light * 1920)).toBeLessThan(3)
  })
})

describe('a file that is not as it should be', () => {
  it('in the middle does not cost the whole: what is missing is shown longer, and all after it is in its place', async () => {
    const file = ffmpeg(
      inRoot('damaged.mov'),
      ...['-f', 'lavfi', '-i', 'color=black:size=320x180:rate=25:duration=4'],
      ...['-f', 'lavfi', '-i', "aevalsrc='if(between(t,3,3.5),0.5*sin(2*PI*1000*t),0)':s=48000:d=4"],
      ...['-vf', "drawbox=color=white:t=fill:enable='between(t,3,3.49)'"],
      ...['-c:v', 'prores_ks', '-c:a', 'pcm_s16le'],
    )
    const bytes = readFileSync(file)
    // Each frame of ProRes has its mark four bytes on (SMPTE RDD 36): the third part of them is taken away.
    let at = 0
    for (let frame = 0; (at = bytes.indexOf('icpf', at)) >= 0; frame++, at += 4)
      if (frame >= 30 && frame < 40) bytes.fill(0, at, at + 64)
    writeFileSync(file, bytes)
    const made = await taken(file)
    expect(made.message).toMatch(/10 frames are shown longer/)
    expect(made.message).toMatch(/Nothing can be decoded at 00:00:01:05 \(10 frames\)/)
    expect(made.frames).toBe(100)
    const { light, beep } = await lightAndBeep(made)
    expect([light, Math.abs(beep - light * 1920) < 3]).toEqual([75, true])
  })

  it('and is long tells how far it has been looked through', async () => {
    const minute = ffmpeg(inRoot('minute.mkv'), ...moving('64x64', 60, '60'), '-preset', 'ultrafast')
    const file = ffmpeg(inRoot('hour.mkv'), '-stream_loop', '59', '-i', minute, '-c', 'copy')
    const look = randomUUID()
    const part = async () => (await server.app.inject(`/api/pictures/looking/${look}`)).json<Looking>().part
    expect(await part()).toBeNull()
    let done = false
    const taking = pick(file, `?look=${look}`).then((answer) => ((done = true), answer))
    const seen: number[] = []
    while (!done) {
      const now = await part()
      if (now !== null) seen.push(now)
      await setTimeout(20)
    }
    const answer = await taking
    expect([answer.statusCode, await part()]).toEqual([201, null])
    expect(seen.toSorted((a, b) => a - b)).toEqual(seen)
    expect(new Set(seen).size).toBeGreaterThan(3)
    await server.app.inject({ method: 'POST', url: `/api/jobs/${answer.json<Picture>().jobId}/cancel` })
  })

  it('and is protected, or in a form that nobody knows, says so in words', async () => {
    const clear = ffmpeg(inRoot('clear.mp4'), ...moving('320x180', 2), '-c:v', 'libx264')
    const key = '76a6c65c5ea762046bd749a2e632ccbb'
    const file = ffmpeg(
      inRoot('protected.mp4'),
      ...['-i', clear, '-c', 'copy', '-encryption_scheme', 'cenc-aes-ctr'],
      ...['-encryption_key', key, '-encryption_kid', key],
    )
    const messageOf = async (movie: string): Promise<unknown[]> => {
      const answer = await pick(movie)
      return [answer.statusCode, answer.json<{ message: string }>().message]
    }
    expect(await messageOf(file)).toEqual([
      422,
      'protected.mp4 is protected (encrypted), so its frames can’t be decoded. Ask for a copy without protection.',
    ])
    writeFileSync(inRoot('odd.mp4'), readFileSync(clear, 'latin1').replaceAll('avc1', 'zzq9'), 'latin1')
    expect(await messageOf(inRoot('odd.mp4'))).toEqual([
      422,
      'The picture of odd.mp4 is in a form (“zzq9”) that ffmpeg on this computer does not know. Export it again, as H.264, ProRes or DNxHD.',
    ])
  })

  it('and of which no frame can be decoded says so in words', async () => {
    const file = ffmpeg(inRoot('gone.mov'), ...moving('320x180', 2), '-c:v', 'prores_ks')
    writeFileSync(file, readFileSync(file, 'latin1').replaceAll('icpf', 'xxxx'), 'latin1')
    const picked = (await pick(file)).json<Picture>()
    await server.settled(picked.jobId ?? '')
    const made = (await server.app.inject(`/api/pictures/${picked.id}`)).json<Picture>()
    expect([made.state, made.message]).toEqual([
      'failed',
      expect.stringMatching(/^None of its frames can be decoded: it is damaged/),
    ])
  })

  it('with frames that stand still for seconds, the last one too, is whole', async () => {
    const file = ffmpeg(inRoot('slides.mov'), ...moving('320x180', 8, '1/2'), '-c:v', 'libx264')
    expect((await taken(file)).message).not.toMatch(/not copied whole/)
  })

  it.each(['mp4', 'mkv', 'avi', 'mxf'])(
    'and ends before its head says so (%s with sound) is told, and taken only when asked',
    async (ending) => {
      const name = `short.${ending}`
      const file = ffmpeg(
        inRoot(name),
        ...[...moving('640x360', 8), ...tone(300, 8)],
        ...['-c:v', ending === 'mxf' ? 'mpeg2video' : 'libx264', '-g', '12'],
        ...['-c:a', ending === 'mp4' ? 'aac' : 'pcm_s16le', '-movflags', '+faststart'],
      )
      truncateSync(file, Math.round(readFileSync(file).length / 2))
      const refused = await pick(file)
      expect([refused.statusCode, refused.json<{ code: string }>().code]).toEqual([422, 'MOVIE_CUT_SHORT'])
      expect(refused.json<{ message: string }>().message).toMatch(
        /^short\.\w+ ends after 0:0[2345] of the 0:08 that it says it has: .*Copy it again, or take it as it is\.$/,
      )
      const made = await taken(file, '?short=take')
      expect(made.frames).toBeGreaterThan(50)
      expect(made.frames).toBeLessThan(150)
      expect(made.message).toMatch(/it was not copied whole/)
    },
  )
})

it.each([
  ['hevc.mp4', ['-c:v', 'libx265', '-x265-params', 'log-level=error:bframes=3']],
  ['dnxhd.mxf', ['-c:v', 'dnxhd', '-b:v', '36M', '-pix_fmt', 'yuv422p']],
  ['vp9.webm', ['-c:v', 'libvpx-vp9', '-deadline', 'realtime']],
  ['av1.mkv', ['-c:v', 'libsvtav1', '-preset', '12']],
  ['interlaced.mov', ['-c:v', 'mpeg2video', '-flags', '+ildct+ilme', '-vf', 'setfield=tff']],
])('a movie as %s has all its frames', async (name, codec) => {
  const size = name.startsWith('dnxhd') ? '1920x1080' : '320x180'
  const made = await taken(ffmpeg(inRoot(name), ...moving(size, 1), ...codec))
  expect([made.rate, made.frames, made.message]).toEqual(['25', 25, ''])
})

it('a drop-frame timecode is the time it says', async () => {
  const file = ffmpeg(
    inRoot('drop.mov'),
    ...moving('320x180', 1, '30000/1001'),
    ...['-c:v', 'libx264', '-timecode', '01:00:00;02'],
  )
  const made = await taken(file)
  expect(made.start).toBe('01:00:00;02')
})

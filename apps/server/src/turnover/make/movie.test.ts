import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  SAMPLE_RATE,
  samplesIn,
  SHIPPED_RECIPES,
  packStereo24,
  wavHeader,
  type Picture,
  type Recipe,
  type ReelState,
  type Shelf,
  type SoundPage,
} from '@yodel/core'
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { testClip, testTrack } from '../../../../../packages/core/src/test/records.js'
import { ffmpeg, startTestServer, type TestServer } from '../../test/testServer.js'

// Five seconds at 24 fps, black but for frame 48, which is white; it stands 24 frames into the reel. A click of the mix meets that frame.
const FLASH = 48
const OFFSET = 24
let server: TestServer
let reel: string

beforeAll(async () => {
  server = await startTestServer()
  const flash = `color=black:s=320x180:r=24:d=5,drawbox=c=white:t=fill:enable='eq(n,${FLASH})'`
  const movie = ffmpeg(
    path.join(server.root, 'flash.mov'),
    '-f',
    'lavfi',
    '-i',
    flash,
    '-c:v',
    'libx264',
    '-g',
    '12',
  )
  const picture = (
    await server.app.inject({ method: 'POST', url: '/api/pictures/pick', payload: { path: movie } })
  ).json<Picture>()
  await server.settled(picture.jobId!)
  const click = new Float32Array(samplesIn(1)).fill(0.5, 0, 200)
  const head = wavHeader({ channels: 2, sampleRate: SAMPLE_RATE, bits: 24, length: click.length })
  writeFileSync(
    path.join(server.root, 'click.wav'),
    Buffer.concat([head, packStereo24(click, click, click.length).bytes]),
  )
  await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: server.root } })
  await server.settled((await server.app.inject('/api/shelves')).json<Shelf[]>()[0]!.jobId!)
  const [sound] = (await server.app.inject('/api/sounds')).json<SoundPage>().sounds
  reel = await server.makeReel({ lengthSeconds: 8 })
  const { records } = (await server.app.inject(`/api/reels/${reel}`)).json<ReelState>()
  const facts = records[0]!
  const added = [
    { kind: 'cut', id: 'cut', pictureId: picture.id, name: 'cut 1', offset: OFFSET },
    {
      ...{
        kind: 'cue',
        id: 'q',
        category: 'FX',
        number: 1,
        in: OFFSET + 12,
        out: OFFSET + 60,
        sync: OFFSET + FLASH,
      },
      ...{
        words: 'A {flash}',
        source: '',
        where: '',
        scene: '',
        onScreen: 'unsaid',
        perspective: 'unsaid',
        notes: '',
      },
      ...{ priority: 0, by: '', state: 'open', omitReason: '' },
    },
    testTrack('t', { name: 'Clicks' }),
    testClip('c', 't', { soundId: sound!.id, cueId: 'q', start: (OFFSET + FLASH) * 2000 }),
  ]
  const updated = [[facts, { ...facts, pictureId: picture.id, programme: 36 }]]
  const change = { label: 'Place', added, updated, removed: [] }
  const payload = { changeId: randomUUID(), base: 1, role: 'do', target: null, change }
  const answer = await server.app.inject({ method: 'POST', url: `/api/reels/${reel}/changes`, payload })
  expect(answer.statusCode, answer.body).toBe(200)
}, 60_000)
afterAll(() => server.close())

/** Makes a turnover with a movie. @returns the movie's path */
async function movieOf(fields: Partial<Recipe>): Promise<string> {
  const recipe = { ...(SHIPPED_RECIPES[1] as Recipe), lists: [], ...fields }
  const url = `/api/reels/${reel}/turnovers`
  const { jobId } = (
    await server.app.inject({ method: 'POST', url, payload: { recipe, name: 'Review' } })
  ).json<{ jobId: string }>()
  expect(await server.settled(jobId)).toMatchObject({ state: 'done', message: '' })
  const { files } = (await server.app.inject(`/api/turnovers/${jobId}`)).json<{
    files: { path: string; kind: string }[]
  }>()
  const movie = files.find(({ kind }) => kind === 'movie')
  return path.join(server.dataDir, 'turnovers', jobId, movie?.path ?? '')
}

interface Probe {
  streams: {
    codec_type: string
    codec_name: string
    nb_read_packets: string
    tags?: Record<string, string>
  }[]
}
const probe = (file: string): Probe =>
  JSON.parse(
    execFileSync('ffprobe', [
      '-v',
      'error',
      '-count_packets',
      '-show_streams',
      '-of',
      'json',
      file,
    ]).toString(),
  ) as Probe

/** Checksums of a movie's picture packets, without their times. */
const packets = (file: string): string =>
  execFileSync('ffprobe', [
    '-v',
    'error',
    '-select_streams',
    'v',
    '-show_data_hash',
    'md5',
    '-show_packets',
    '-show_entries',
    'packet=data_hash',
    '-of',
    'csv',
    file,
  ]).toString()

/** The first frame of a movie that is bright. */
function brightFrame(file: string): number {
  const args = [
    '-v',
    'error',
    '-i',
    file,
    '-vf',
    'crop=iw:ih/2:0:ih/4,scale=1:1,format=gray',
    '-f',
    'rawvideo',
    '-',
  ]
  return execFileSync('ffmpeg', args).findIndex((value) => value > 100)
}

/** The first sample of a movie's sound that is loud, at 48 kHz. */
function loudSample(file: string): number {
  const args = ['-v', 'error', '-i', file, '-ac', '1', '-ar', '48000', '-f', 's16le', '-']
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: 1 << 28 })
  return new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length >> 1).findIndex(
    (value) => Math.abs(value) > 6000,
  )
}

describe('the movie for review', () => {
  it.each(['leader', 'programme'] as const)(
    'as MOV has the picture’s own packets, 24-bit sound that meets it to the sample, and its timecode; mix from %s',
    async (from) => {
      const file = await movieOf({ movie: 'mov', from })
      const { streams } = probe(file)
      expect(streams.map(({ codec_name }) => codec_name)).toEqual(
        expect.arrayContaining(['h264', 'pcm_s24le']),
      )
      expect(streams.some(({ tags }) => tags?.['timecode'] === '01:00:01:00')).toBe(true)
      expect(packets(file)).toBe(packets(path.join(server.root, 'flash.mov')))
      expect(brightFrame(file)).toBe(FLASH)
      expect(loudSample(file)).toBe(FLASH * 2000)
    },
  )

  it('as MP4 has the picture’s own packets and AAC within a frame', async () => {
    const file = await movieOf({ movie: 'mp4' })
    expect(probe(file).streams.map(({ codec_name }) => codec_name)).toEqual(
      expect.arrayContaining(['h264', 'aac']),
    )
    expect(packets(file)).toBe(packets(path.join(server.root, 'flash.mov')))
    expect(Math.abs(loudSample(file) - FLASH * 2000)).toBeLessThan(2000)
  })

  it('with timecode and cues burnt in shows them, and the flash where it was', async () => {
    const file = await movieOf({ movie: 'burnt' })
    expect(brightFrame(file)).toBe(FLASH)
    // The cue's words stand at the bottom from its first frame to its last; the clock at the top always.
    const lit = (crop: string, frame: number): boolean => {
      const args = [
        '-v',
        'error',
        '-i',
        file,
        '-vf',
        `select=eq(n\\,${frame}),crop=${crop},format=gray`,
        '-frames:v',
        '1',
        '-f',
        'rawvideo',
        '-',
      ]
      return execFileSync('ffmpeg', args).some((value) => value > 120)
    }
    expect([11, 12, 59, 60].map((frame) => lit('iw:ih/5:0:ih*4/5', frame))).toEqual([
      false,
      true,
      true,
      false,
    ])
    expect([0, 100].map((frame) => lit('iw/2:ih/6:0:0', frame))).toEqual([true, true])
  })
})

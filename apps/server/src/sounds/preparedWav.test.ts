import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import { SAMPLE_RATE, UNPREPARED, wavHeader, type Preparation, type Shelf, type SoundPage } from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

/** Two seconds of stereo at 24 bits: a tone at the left, another one at the right. */
const LENGTH = 2 * SAMPLE_RATE

let server: TestServer
let id: string
let original: string
beforeAll(async () => {
  server = await startTestServer()
  const bytes = Buffer.alloc(LENGTH * 2 * 3)
  for (let at = 0; at < LENGTH; at++)
    for (const side of [0, 1]) {
      const sample = 0.4 * Math.sin((2 * Math.PI * (side ? 1234 : 321) * at) / SAMPLE_RATE)
      bytes.writeIntLE(Math.round(sample * 8_388_607), (at * 2 + side) * 3, 3)
    }
  const head = wavHeader({ channels: 2, sampleRate: SAMPLE_RATE, bits: 24, length: LENGTH })
  original = path.join(server.root, 'two tones.wav')
  writeFileSync(original, Buffer.concat([head, bytes]))
  await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: server.root } })
  const [shelf] = (await server.app.inject('/api/shelves')).json<Shelf[]>()
  await server.settled(shelf?.jobId ?? '')
  id = (await server.app.inject('/api/sounds')).json<SoundPage>().sounds[0]!.id
})
afterAll(() => server.close())

const ask = (as: string) => server.app.inject(`/api/sounds/${id}/prepared.wav?as=${encodeURIComponent(as)}`)

/** What ffmpeg reads of a file, in floats. */
function readBy(file: string, filter: string): Float32Array {
  const args = ['-v', 'error', '-i', file, '-af', filter, '-f', 'f32le', '-']
  return new Float32Array(Uint8Array.from(execFileSync('ffmpeg', args, { maxBuffer: 1 << 26 })).buffer)
}

async function saved(preparation: Partial<Preparation>): Promise<{ file: string; samples: Float32Array }> {
  const answer = await ask(JSON.stringify({ ...UNPREPARED, ...preparation }))
  expect(answer.statusCode, answer.body).toBe(200)
  expect(answer.rawPayload).toHaveLength(Number(answer.headers['content-length']))
  const file = path.join(server.dataDir, 'saved.wav')
  writeFileSync(file, answer.rawPayload)
  return { file, samples: readBy(file, 'anull') }
}

/** Each is done by ffmpeg's own filters as well: atrim, areverse, afade (tri is linear), volume, pan. */
it.each<[string, Partial<Preparation>, string]>([
  ['as it is', {}, 'anull'],
  ['a part', { in: 4800, out: 52_801 }, 'atrim=start_sample=4800:end_sample=52801'],
  ['softer', { gain: -7.5 }, 'volume=-7.5dB:precision=double'],
  [
    'faded',
    { in: 0, out: 48_000, fadeIn: 4800, fadeOut: 9600 },
    'atrim=end_sample=48000,afade=ss=0:ns=4800:curve=tri,afade=t=out:ss=38400:ns=9600:curve=tri',
  ],
  [
    'backwards',
    { in: 1000, out: 30_000, reverse: true },
    'atrim=start_sample=1000:end_sample=30000,areverse',
  ],
  ['one side alone', { channels: '2' }, 'pan=mono|c0=c1'],
  ['summed', { sides: 'summed' }, 'pan=mono|c0=0.5*c0+0.5*c1'],
])('a sound is saved %s as ffmpeg makes it', async (_, preparation, filter) => {
  const { samples } = await saved(preparation)
  const theirs = readBy(original, filter)
  expect(samples.length).toBe(theirs.length)
  let most = 0
  for (let i = 0; i < theirs.length; i++)
    most = Math.max(most, Math.abs((samples[i] as number) - (theirs[i] as number)))
  // One step of 24 bits, and at a fade ffmpeg may be one sample off where it begins to count.
  expect(most).toBeLessThan(preparation.fadeIn ? 3e-4 : 2.5e-7)
})

it('what goes over full scale is saved in floating point, whole', async () => {
  const { file, samples } = await saved({ gain: 12 })
  const probed = execFileSync('ffprobe', [
    '-v',
    'error',
    '-show_entries',
    'stream=codec_name',
    file,
  ]).toString()
  expect(probed).toContain('pcm_f32le')
  expect(Math.max(...samples.subarray(0, 48_000))).toBeCloseTo(0.4 * 10 ** (12 / 20), 3)
})

it('at twice the speed it lasts half as long, an octave higher', async () => {
  const { samples } = await saved({ speed: 2, channels: '1' })
  expect(samples.length).toBe(LENGTH / 2)
  let turns = 0
  for (let i = 1; i < SAMPLE_RATE; i++)
    if ((samples[i - 1] as number) < 0 && (samples[i] as number) >= 0) turns++
  expect(turns).toBeGreaterThanOrEqual(641)
  expect(turns).toBeLessThanOrEqual(642)
})

it.each([['nonsense'], ['{}'], [JSON.stringify({ ...UNPREPARED, speed: 1000 })]])(
  'a preparation that makes no sense is refused: %s',
  async (as) => expect((await ask(as)).statusCode).toBe(400),
)

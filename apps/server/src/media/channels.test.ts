import { readdirSync, writeFileSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import {
  SAMPLE_RATE,
  SHIPPED_RECIPES,
  wavHeader,
  type KeptRecipe,
  type Recipe,
  type Shelf,
  type SoundPage,
} from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { testClip, testTrack } from '../../../../packages/core/src/test/records.js'
import { addRecords, turnOver } from '../test/placedReel.js'
import { startTestServer, type TestServer } from '../test/testServer.js'

const CHANNELS = 6
/** Hz of each channel: a whole number of cycles in a second. */
const toneOf = (channel: number): number => 200 * (channel + 1)
const sampleOf = (channel: number, at: number): number =>
  0.25 * Math.sin((2 * Math.PI * toneOf(channel) * at) / SAMPLE_RATE)

let server: TestServer
let sound: string
beforeAll(async () => {
  server = await startTestServer()
  // A recorder's six microphones, each with a tone of its own.
  const length = 2 * SAMPLE_RATE
  const bytes = Buffer.alloc(length * CHANNELS * 2)
  for (let at = 0; at < length; at++)
    for (let channel = 0; channel < CHANNELS; channel++)
      bytes.writeInt16LE(Math.round(sampleOf(channel, at) * 32_767), 2 * (at * CHANNELS + channel))
  const head = wavHeader({ channels: CHANNELS, sampleRate: SAMPLE_RATE, bits: 16, length })
  writeFileSync(path.join(server.root, 'six microphones.wav'), Buffer.concat([head, bytes]))
  await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: server.root } })
  const [shelf] = (await server.app.inject('/api/shelves')).json<Shelf[]>()
  await server.settled(shelf?.jobId ?? '')
  sound = (await server.app.inject('/api/sounds')).json<SoundPage>().sounds[0]!.id
})
afterAll(() => server.close())

async function heard(channels: string): Promise<{ channels: number; samples: Float32Array }> {
  const answer = await server.app.inject(
    `/api/media/${encodeURIComponent(`${sound}${channels === '' ? '' : `@${channels}`}`)}/pcm/0`,
  )
  expect(answer.statusCode, answer.body).toBe(200)
  const samples = new Float32Array(Uint8Array.from(answer.rawPayload).buffer)
  return { channels: Number(answer.headers['x-channels']), samples }
}

it.each([
  ['1', [0]],
  ['4', [3]],
  ['5+6', [4, 5]],
  ['6+2', [5, 1]],
])('channels %s are heard as they are, and nothing of the others', async (choice, picked) => {
  const { channels, samples } = await heard(choice)
  expect(channels).toBe(picked.length)
  let most = 0
  for (let at = 0; at < SAMPLE_RATE; at++)
    for (const [side, channel] of picked.entries())
      most = Math.max(most, Math.abs(samples[at * picked.length + side]! - sampleOf(channel, at)))
  expect(most).toBeLessThan(1e-4)
})

it('what a recording does not have is refused in words', async () => {
  const answer = await server.app.inject(`/api/media/${encodeURIComponent(`${sound}@7`)}/pcm/0`)
  expect([answer.statusCode, answer.json<{ message: string }>().message]).toEqual([
    404,
    'six microphones has 6 channels; channel 7 can’t be heard of it. Choose others on its sound card.',
  ])
  for (const odd of ['@0', '@x', '@1+', '@1+2+3'])
    expect((await server.app.inject(`/api/media/${encodeURIComponent(sound + odd)}/pcm/0`)).statusCode).toBe(
      404,
    )
})

it('a placed sound is bounced by its channels, also at another speed and with its pitch kept', async () => {
  const reel = await server.makeReel({ lengthSeconds: 6 })
  const clip = (id: string, fields: object): object =>
    testClip(id, 't', {
      soundId: sound,
      name: id,
      recorded: 2 * SAMPLE_RATE,
      fadeIn: 0,
      fadeOut: 0,
      ...fields,
    })
  await addRecords(server, reel, [
    testTrack('t', { level: 0, pan: 0 }),
    clip('pair', { start: 0, length: SAMPLE_RATE, channels: '3+4' }),
    clip('one, slower', {
      ...{ start: 2 * SAMPLE_RATE, length: SAMPLE_RATE, recorded: 4 * SAMPLE_RATE },
      ...{ speed: 0.5, keepPitch: true, channels: '6' },
    }),
  ])
  const { id: _, ships: __, ...mixer } = SHIPPED_RECIPES[0] as KeptRecipe
  const recipe: Recipe = {
    ...mixer,
    ...{ stems: false, tracks: false, twoPop: false, lists: [], sounds: 'none' },
  }
  const { folder } = await turnOver(server, reel, recipe)
  const mix = readdirSync(folder, { recursive: true }).find((file) => String(file).endsWith('.wav'))
  const bytes = await readFile(path.join(folder, String(mix)))
  const data = bytes.indexOf('data') + 8
  const at = (sample: number, side: number): number =>
    bytes.readIntLE(data + 6 * sample + 3 * side, 3) / 2 ** 23
  for (const sample of [100, 4_001, 40_000])
    expect([at(sample, 0), at(sample, 1)]).toEqual([
      expect.closeTo(sampleOf(2, sample), 3),
      expect.closeTo(sampleOf(3, sample), 3),
    ])
  // Of the sixth alone only its own tone is there: 1200 Hz crosses zero 1200 times upwards in a second.
  let crossings = 0
  for (let sample = 2 * SAMPLE_RATE + 4800; sample < 2.5 * SAMPLE_RATE + 4800; sample++)
    if (at(sample, 0) < 0 && at(sample + 1, 0) >= 0) crossings++
  expect(Math.abs(crossings - toneOf(5) / 2)).toBeLessThanOrEqual(2)
})

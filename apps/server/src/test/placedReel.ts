import { randomUUID } from 'node:crypto'
import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  packStereo24,
  SAMPLE_RATE as RATE,
  wavHeader,
  type Category,
  type KeptTurnover,
  type Recipe,
  type ReelState,
  type Shelf,
  type SoundPage,
} from '@yodel/core'
import { expect } from 'vitest'
import { testClip, testTrack } from '../../../../packages/core/src/test/records.js'
import type { TestServer } from './testServer.js'

/** A stereo WAV of noise; the same for the same number. */
export function noise(seconds: number, seed: number): Buffer {
  let state = seed
  const next = (): number => ((state = (state * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31 - 0.5) * 0.4
  const length = seconds * RATE
  const [left, right] = [Float32Array.from({ length }, next), Float32Array.from({ length }, next)]
  const head = wavHeader({ channels: 2, sampleRate: RATE, bits: 24, length })
  return Buffer.concat([head, packStereo24(left, right, length).bytes])
}

/** Puts records into a reel as its next change. */
export async function addRecords(to: TestServer, id: string, records: readonly object[]): Promise<void> {
  const { seq } = (await to.app.inject(`/api/reels/${id}`)).json<ReelState>()
  const change = { label: 'Place', added: records, updated: [], removed: [] }
  const payload = { changeId: randomUUID(), base: seq, role: 'do', target: null, change }
  const answer = await to.app.inject({ method: 'POST', url: `/api/reels/${id}/changes`, payload })
  expect(answer.statusCode, answer.body).toBe(200)
}

const track = (id: string, category: Category): object =>
  testTrack(id, { order: `a${id}`, name: `${category} ${id}`, category, level: -3, pan: 0.2 })
const clip = (id: string, trackId: string, soundId: string, fields: object = {}): object =>
  testClip(id, trackId, { soundId, name: id, offset: RATE, sync: RATE, recorded: 6 * RATE, ...fields })

/** Makes a shelf of rain, a door and boots, and a reel with a milestone in which each is placed. @returns the reel's id */
export async function makePlacedReel(server: TestServer): Promise<string> {
  for (const [name, seed] of [
    ['rain', 3],
    ['door', 5],
    ['steps/boots', 9],
  ] as const) {
    mkdirSync(path.dirname(path.join(server.root, name)), { recursive: true })
    writeFileSync(path.join(server.root, `${name}.wav`), noise(name === 'rain' ? 12 : 6, seed))
  }
  await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: server.root } })
  const [shelf] = (await server.app.inject('/api/shelves')).json<Shelf[]>()
  await server.settled(shelf?.jobId ?? '')
  const { sounds } = (await server.app.inject('/api/sounds')).json<SoundPage>()
  const idOf = (name: string): string =>
    sounds.find((sound) => sound.name.toLowerCase().includes(name))?.id ?? ''
  const reel = await server.makeReel({ lengthSeconds: 12 })
  await addRecords(server, reel, [track('1', 'FX'), track('2', 'BG'), track('3', 'FOL')])
  await server.app.inject({
    method: 'POST',
    url: `/api/reels/${reel}/milestones`,
    payload: { name: 'tracks' },
  })
  await addRecords(server, reel, [
    clip('rain', '2', idOf('rain'), {
      start: RATE,
      length: 3 * RATE,
      fadeIn: 4800,
      fadeInShape: 's',
      recorded: 12 * RATE,
    }),
    clip('rain again', '2', idOf('rain'), {
      start: 8 * RATE,
      length: RATE / 2,
      offset: 11 * RATE,
      sync: 11 * RATE,
      recorded: 12 * RATE,
    }),
    clip('door', '1', idOf('door'), { start: 2.5 * RATE + 17, gain: -4.5 }),
    clip('boots', '3', idOf('boots'), { start: 5 * RATE, reverse: true, offset: 0, sync: 10 }),
  ])
  return reel
}

/** Makes a turnover and waits for it. */
export async function turnOver(
  server: TestServer,
  reel: string,
  recipe: Recipe,
  name = 'Pre-dub',
): Promise<{ id: string; folder: string; kept: KeptTurnover }> {
  const payload = { recipe, name }
  const answer = await server.app.inject({ method: 'POST', url: `/api/reels/${reel}/turnovers`, payload })
  const { jobId } = answer.json<{ jobId: string }>()
  expect(await server.settled(jobId)).toMatchObject({ state: 'done', message: '' })
  const [kept] = (await server.app.inject(`/api/reels/${reel}/turnovers`)).json<KeptTurnover[]>()
  if (!kept) throw new Error('nothing was kept')
  return { id: jobId, folder: path.join(server.dataDir, 'turnovers', jobId), kept }
}

import { writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  packStereo24,
  SAMPLE_RATE,
  SHIPPED_RECIPES,
  wavHeader,
  type KeptRecipe,
  type ReelState,
  type Shelf,
  type SoundPage,
  type TurnoverFacts,
} from '@yodel/core'
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { testClip, testTrack } from '../../../../packages/core/src/test/records.js'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reel: string
const REVIEW = SHIPPED_RECIPES.find(({ id }) => id === 'review') as KeptRecipe
type Method = 'GET' | 'POST' | 'PUT' | 'DELETE'
const ask = (method: Method, url: string, payload?: object) =>
  server.app.inject({ method, url, ...(payload ? { payload } : {}) })
const recipes = async (of = reel): Promise<KeptRecipe[]> =>
  (await ask('GET', `/api/reels/${of}/recipes`)).json()
const mixOf = async (recipe: string): Promise<TurnoverFacts['mix']> =>
  (await ask('GET', `/api/reels/${reel}/facts?recipe=${recipe}`)).json<TurnoverFacts>().mix

beforeAll(async () => {
  server = await startTestServer()
  // A second of a 1 kHz sine at half of full scale: -6.02 dBTP, and -6.02 LUFS where both sides have it (EBU Tech 3341).
  const tone = Float32Array.from({ length: SAMPLE_RATE }, (_, i) => 0.5 * Math.sin((2 * Math.PI * i) / 48))
  const head = wavHeader({ channels: 2, sampleRate: SAMPLE_RATE, bits: 24, length: tone.length })
  const bytes = Buffer.concat([head, packStereo24(tone, tone, tone.length).bytes])
  writeFileSync(path.join(server.root, 'tone.wav'), bytes)
  await ask('POST', '/api/shelves', { path: server.root })
  await server.settled((await ask('GET', '/api/shelves')).json<Shelf[]>()[0]!.jobId!)
  const [sound] = (await ask('GET', '/api/sounds')).json<SoundPage>().sounds
  reel = await server.makeReel({ lengthSeconds: 4 })
  const { seq } = (await ask('GET', `/api/reels/${reel}`)).json<ReelState>()
  const clip = testClip('c', 't', { soundId: sound!.id, start: 2 * SAMPLE_RATE })
  const change = { label: 'Place', added: [testTrack('t'), clip], updated: [], removed: [] }
  const payload = { changeId: randomUUID(), base: seq, role: 'do', target: null, change }
  expect((await ask('POST', `/api/reels/${reel}/changes`, payload)).statusCode).toBe(200)
})
afterAll(() => server.close())

describe('recipes', () => {
  it('of a show stand beside those that ship, are changed and thrown away; other shows have their own', async () => {
    expect((await recipes()).map(({ id, ships }) => [id, ships])).toEqual(
      SHIPPED_RECIPES.map(({ id }) => [id, true]),
    )
    const made = await ask('POST', `/api/reels/${reel}/recipes`, { ...REVIEW, name: 'Ours' })
    const { id, ...kept } = made.json<KeptRecipe>()
    expect([made.statusCode, kept.name, kept.ships]).toEqual([201, 'Ours', false])
    expect(
      (await ask('PUT', `/api/recipes/${id}`, { ...REVIEW, name: 'Ours, late', mix: false })).statusCode,
    ).toBe(204)
    expect((await recipes()).at(-1)).toMatchObject({ id, name: 'Ours, late', mix: false })
    const elsewhere = await server.makeReel({ showName: 'Another show' })
    expect(await recipes(elsewhere)).toHaveLength(3)
    expect((await ask('DELETE', `/api/recipes/${id}`)).statusCode).toBe(204)
    expect(await recipes()).toHaveLength(3)
  })

  it('that ship can’t be changed, and half a recipe is none', async () => {
    expect((await ask('PUT', '/api/recipes/mixer', REVIEW)).statusCode).toBe(404)
    expect((await ask('POST', `/api/reels/${reel}/recipes`, { name: 'Half' })).statusCode).toBe(400)
    expect((await ask('GET', `/api/reels/${randomUUID()}/recipes`)).statusCode).toBe(404)
  })
})

describe('what a mix measured', () => {
  it('holds for recipes with its treatment, with every place over the true peak that it was measured for', async () => {
    expect(await mixOf('review')).toBeNull()
    const strict = { ...REVIEW, truePeak: -20 }
    const { jobId } = (await ask('POST', `/api/reels/${reel}/bounce`, { recipe: strict })).json<{
      jobId: string
    }>()
    expect(await server.settled(jobId)).toMatchObject({ state: 'done' })
    const save = async (fields: object): Promise<string> =>
      (await ask('POST', `/api/reels/${reel}/recipes`, { ...REVIEW, ...fields })).json<KeptRecipe>().id
    const [asStrict, looser, stricter, none] = [
      ...[await save({ truePeak: -20 }), await save({ truePeak: -10 })],
      ...[await save({ truePeak: -30 }), await save({ truePeak: null })],
    ]
    const mix = await mixOf(asStrict!)
    expect(mix?.truePeak).toBeCloseTo(-6.02, 1)
    // BS.1770: a second of tone fills 7 blocks of 400 ms whole, and 3 at each edge by 3/4, 1/2 and 1/4; all
    // pass the gates.
    expect(mix?.loudness).toBeCloseTo(-6.02 + 10 * Math.log10((7 + 3) / 13), 1)
    expect(mix?.overs).toMatchObject([{ what: 'The mix', peak: expect.closeTo(-6.02, 1) as number }])
    expect(Math.abs(mix!.overs[0]!.from - 2 * SAMPLE_RATE)).toBeLessThan(48)
    expect((await mixOf(looser!))?.overs).toHaveLength(1)
    expect((await mixOf('review'))?.overs).toEqual([])
    expect((await mixOf(none!))?.overs).toEqual([])
    // Over a lower one nothing was looked for: only that it is over somewhere can be told.
    expect((await mixOf(stricter!))?.overs).toMatchObject([{ from: 0, what: 'The mix, somewhere,' }])
    // Another treatment is another mix.
    expect(await mixOf('mixer')).toBeNull()
  })
})

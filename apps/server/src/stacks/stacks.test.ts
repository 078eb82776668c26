import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  SAMPLE_RATE,
  shakeStack,
  soundIxml,
  stackSpan,
  variationsFrom,
  wavHeader,
  type FoundLayers,
  type Shelf,
  type Sound,
  type SoundPage,
  type StackLayer,
  type StackPlan,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeMadeShelf } from '../made/madeShelf.js'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reel: string
let made: { readonly id: string; readonly root: string; readonly name: string }
const NAMES = ['Thud deep', 'Thud dry', 'Thud wet', 'Whoosh low', 'Whoosh long']

/** A mono recording of noise that gets softer, with a licence of its own. */
function writeSound(name: string, index: number): void {
  const length = SAMPLE_RATE * (1 + index / 2)
  const bytes = Buffer.alloc(length * 2)
  let seed = index + 1
  for (let at = 0; at < length; at++) {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0
    bytes.writeInt16LE(Math.round((seed / 2 ** 32 - 0.5) * 12_000 * Math.exp((-3 * at) / length)), at * 2)
  }
  const facts = { name, note: '', category: 'Impacts', keywords: `hits, ${name.split(' ')[1]}` }
  const ixml = new TextEncoder().encode(soundIxml({ ...facts, licence: index === 0 ? 'CC BY' : 'Own' }))
  const head = wavHeader({ channels: 1, sampleRate: SAMPLE_RATE, bits: 16, length, ixml })
  writeFileSync(path.join(server.root, `${name}.wav`), Buffer.concat([head, bytes]))
}

beforeAll(async () => {
  server = await startTestServer()
  NAMES.forEach(writeSound)
  await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: server.root } })
  await settle()
  reel = await server.makeReel()
  made = await makeMadeShelf(server.services, reel)
})
afterAll(() => server.close())

/** Waits until every shelf is indexed. */
async function settle(): Promise<void> {
  for (const { jobId } of (await server.app.inject('/api/shelves')).json<Shelf[]>())
    if (jobId) await server.settled(jobId)
}

const layer = (id: string, what: string, fields: Partial<StackLayer> = {}): StackLayer => ({
  ...{ id, name: id, category: 'FX', source: { of: 'search', what, called: '' }, seconds: [0, 60] },
  ...{
    lies: 'sync',
    later: [0, 0],
    gain: [-6, 0],
    pitch: [-2, 2],
    tempo: [1, 1],
    fadeIn: null,
    fadeOut: null,
  },
  ...{ reverse: 0.2, there: 1 },
  ...fields,
})
const planOf = (layers: StackLayer[], name = 'Impact'): StackPlan => ({
  ...{ id: randomUUID(), version: 0, name, layers },
})
const keep = async (plan: StackPlan): Promise<StackPlan> => {
  const url = `/api/reels/${reel}/plans/${plan.id}`
  const answer = await server.app.inject({ method: 'PUT', url, payload: plan })
  expect(answer.statusCode, answer.body).toBe(200)
  return answer.json<StackPlan>()
}
const foundOf = async ({ id }: StackPlan): Promise<FoundLayers> =>
  (await server.app.inject(`/api/reels/${reel}/plans/${id}/found`)).json<FoundLayers>()
const write = (planId: string, payload: Record<string, unknown>) =>
  server.app.inject({ method: 'POST', url: `/api/reels/${reel}/plans/${planId}/write`, payload })
async function written(plan: StackPlan, payload: Record<string, unknown>) {
  const answer = await write(plan.id, { through: null, ...payload })
  expect(answer.statusCode, answer.body).toBe(202)
  const job = await server.settled(answer.json<{ jobId: string }>().jobId)
  await settle()
  return job
}
const folderOf = (plan: StackPlan): string => path.join(made.root, 'Variations', plan.name)

describe('a plan', () => {
  it('finds by search, by kit and by pool; what is found nowhere is empty', async () => {
    const { sounds } = (await server.app.inject('/api/sounds?q=whoosh')).json<SoundPage>()
    const ids = sounds.map(({ id }) => id).sort()
    const kit = await server.app.inject({
      method: 'POST',
      url: '/api/kits',
      payload: { name: 'Two', parentId: null },
    })
    const kitId = kit.json<{ id: string }>().id
    await server.app.inject({ method: 'POST', url: `/api/kits/${kitId}/sounds`, payload: { ids, put: true } })
    const part = { from: 100, sync: 200, to: 900 }
    const members = [
      { soundId: ids[0], name: 'a', part, weight: 3 },
      { soundId: 'gone', name: 'b', part: null, weight: 1 },
    ]
    const pool = {
      id: randomUUID(),
      version: 0,
      key: 0,
      name: 'P',
      category: 'FX',
      pick: 'once',
      held: false,
    }
    await server.app.inject({
      ...{ method: 'PUT', url: `/api/reels/${reel}/pools/${pool.id}` },
      payload: { ...pool, gain: [0, 0], pitch: [0, 0], members, live: '' },
    })
    const plan = await keep(
      planOf([
        layer('search', 'thud'),
        layer('kit', '', { source: { of: 'kit', what: kitId, called: 'Two' } }),
        layer('pool', '', { source: { of: 'pool', what: pool.id, called: 'P' } }),
        layer('none', 'zither'),
        layer('blank', ' '),
      ]),
    )
    const found = await foundOf(plan)
    expect(Object.fromEntries(Object.entries(found).map(([id, those]) => [id, those.length]))).toEqual({
      ...{ search: 3, kit: 2, pool: 1, none: 0, blank: 0 },
    })
    expect(found['kit']?.map(({ id }) => id).sort()).toEqual(ids)
    expect(found['pool']?.[0]).toMatchObject({ id: ids[0], part, weight: 3 })
  })
  it('belongs to the show; of two who change it at once the second is told', async () => {
    const plan = await keep(planOf([layer('a', 'thud')], 'Ours'))
    const listed = (await server.app.inject(`/api/reels/${reel}/plans`)).json<StackPlan[]>()
    expect(listed.find(({ id }) => id === plan.id)).toEqual(plan)
    const url = `/api/reels/${reel}/plans/${plan.id}`
    await keep({ ...plan, name: 'First' })
    const second = await server.app.inject({ method: 'PUT', url, payload: { ...plan, name: 'Second' } })
    expect([second.statusCode, second.body]).toEqual([409, expect.stringContaining('“First” meanwhile')])
    const other = await server.makeReel({ showName: 'Another' })
    expect((await server.app.inject(`/api/reels/${other}/plans`)).json()).toEqual([])
    expect((await server.app.inject({ method: 'DELETE', url })).statusCode).toBe(204)
    expect((await server.app.inject(`${url}/found`)).statusCode).toBe(404)
  })
  it.each([
    ['limits the wrong way round', layer('a', 'x', { gain: [0, -6] }), 'lower limit is above'],
    ['a chance above one', layer('a', 'x', { there: 1.5 }), 'there'],
  ])('with %s is refused', async (_, wrong, why) => {
    const plan = planOf([wrong])
    const url = `/api/reels/${reel}/plans/${plan.id}`
    const answer = await server.app.inject({ method: 'PUT', url, payload: plan })
    expect([answer.statusCode, answer.body]).toEqual([400, expect.stringContaining(why)])
  })
})

describe('variations as recordings', () => {
  it('are the sum of their layers, as ffmpeg adds and stretches them', async () => {
    const still = {
      gain: [-4, -4],
      pitch: [0, 0],
      reverse: 0,
      fadeIn: 0,
      fadeOut: 0,
    } satisfies Partial<StackLayer>
    const plan = await keep(
      planOf(
        [
          layer('a', 'thud dry', still),
          layer('b', 'whoosh low', { ...still, lies: 'begins', later: [0.5, 0.5], tempo: [0.8, 0.8] }),
        ],
        'Sum',
      ),
    )
    const [variation] = variationsFrom(7, 1)
    const job = await written(plan, { variations: [variation] })
    expect([job.state, job.result?.['written']]).toEqual(['done', 1])
    const layers = shakeStack(plan, variation!, await foundOf(plan))
    const [from, to] = stackSpan(layers)!
    const delays = layers.map(({ at, sound }) => at - sound.sync + (sound.from ?? 0) - from)
    const inputs = layers.flatMap(({ sound }) => ['-i', path.join(server.root, `${sound.name}.wav`)])
    // At -4 dB and, in the middle of two channels, at another 3.0103 (equal power).
    const each = delays.map(
      (delay, index) =>
        `[${index}]${index === 1 ? 'aformat=flt,atempo=0.8,' : ''}volume=-7.0103dB:precision=double,adelay=${delay}S[d${index}]`,
    )
    const filter = `${each.join(';')};${delays.map((_, index) => `[d${index}]`).join('')}amix=inputs=${delays.length}:normalize=0`
    const run = (...args: string[]): Float32Array =>
      new Float32Array(
        Uint8Array.from(
          execFileSync('ffmpeg', ['-v', 'error', ...args, '-f', 'f32le', '-'], { maxBuffer: 1 << 26 }),
        ).buffer,
      )
    const theirs = run(...inputs, '-filter_complex', filter)
    const ours = run('-i', path.join(folderOf(plan), 'Sum-7.wav'), '-af', 'pan=mono|c0=c1')
    expect(ours).toHaveLength(to - from)
    // A stretch ends a little early: what is missing is silent.
    expect(Math.abs(theirs.length - ours.length)).toBeLessThan(0.02 * SAMPLE_RATE)
    let most = 0
    for (let at = 0; at < ours.length; at++)
      most = Math.max(most, Math.abs((ours[at] ?? 0) - (theirs[at] ?? 0)))
    // One step of the 24 bits of the file, and of ffmpeg's 32-bit sums.
    expect(most).toBeLessThan(3 / 2 ** 23)
  })
  it('are found by their names and their parts’ keywords, with all licences, and are the same bytes again', async () => {
    const plan = await keep(
      planOf([layer('hit', 'thud'), layer('tail', 'whoosh', { lies: 'begins', there: 0.8 })], 'Boom'),
    )
    const variations = variationsFrom(0, 12)
    const first = await written(plan, { variations })
    expect(first.result).toMatchObject({ written: 12, there: 0, empty: 0 })
    const files = readdirSync(folderOf(plan)).sort()
    const bytes = new Map(files.map((file) => [file, readFileSync(path.join(folderOf(plan), file))]))
    expect(files).toHaveLength(12)
    const page = (await server.app.inject('/api/sounds?q=boom')).json<SoundPage>()
    const sounds: Sound[] = page.sounds
    expect(sounds.map(({ name }) => name).sort()).toEqual(variations.map(({ seed }) => `Boom ${seed}`).sort())
    for (const sound of sounds) {
      expect(sound).toMatchObject({
        channels: 2,
        sampleRate: SAMPLE_RATE,
        shelf: made.name,
        measured: true,
      })
      expect(sound.description).toContain('Made of Thud')
      expect(sound.keywords).toContain('hits, ')
      const licences = new Set(sound.description.match(/Thud deep/) ? ['CC BY'] : ['Own'])
      if (sound.description.match(/Whoosh|Thud (dry|wet)/)) licences.add('Own')
      expect(new Set(sound.licence.split('; '))).toEqual(licences)
    }
    expect((await written(plan, { variations })).result).toMatchObject({ written: 0, there: 12 })
    rmSync(folderOf(plan), { recursive: true })
    await written(plan, { variations })
    for (const [file, before] of bytes)
      expect(readFileSync(path.join(folderOf(plan), file)).equals(before), file).toBe(true)
    // What was made is not made of what was made.
    const again = await keep(planOf([layer('a', 'boom')], 'Again'))
    expect((await foundOf(again))['a']).toEqual([])
    expect((await written(again, { variations: variations.slice(0, 2) })).result).toMatchObject({ empty: 2 })
  })
  it('are refused in words: too many, too long, a track or plan that is gone', async () => {
    const plan = await keep(planOf([layer('a', 'thud')], 'Wrong'))
    const many = await write(plan.id, { variations: variationsFrom(0, 1001), through: null })
    expect([many.statusCode, many.body]).toEqual([400, expect.stringContaining('1000')])
    const gone = await written(plan, { variations: variationsFrom(0, 1), through: 'nowhere' })
    expect([gone.state, gone.message]).toEqual([
      'failed',
      expect.stringContaining('The track that it was to go through is gone'),
    ])
    // Eleven minutes at a low rate: what is rendered in memory has an end.
    const args = ['-f', 'lavfi', '-i', 'sine=frequency=90:duration=660:sample_rate=8000']
    execFileSync('ffmpeg', ['-v', 'error', ...args, path.join(server.root, 'Endless hum.wav')])
    const shelf = (await server.app.inject('/api/shelves')).json<Shelf[]>().find(({ id }) => id !== made.id)
    await server.app.inject({ method: 'POST', url: `/api/shelves/${shelf?.id}/index` })
    await settle()
    const endless = await keep(planOf([layer('a', 'endless', { seconds: [0, 3600] })], 'Endless'))
    const long = await written(endless, { variations: variationsFrom(0, 1) })
    expect([long.state, long.message]).toEqual([
      'failed',
      expect.stringContaining('Endless 0 would be 11 minutes long; stacks of up to ten minutes'),
    ])
    expect(readdirSync(path.join(server.dataDir, 'incoming'))).toEqual([])
    expect((await write(randomUUID(), { variations: variationsFrom(0, 1), through: null })).statusCode).toBe(
      404,
    )
  })
})

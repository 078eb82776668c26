import { randomUUID } from 'node:crypto'
import type { Pool } from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reel: string
beforeAll(async () => {
  server = await startTestServer()
  reel = await server.makeReel({ name: 'Reel 1' })
})
afterAll(() => server.close())

const pool = (fields: Partial<Pool> = {}): Pool => ({
  ...{ id: randomUUID(), version: 0, key: 0, name: 'Boots', category: 'FOL', pick: 'once', held: false },
  ...{
    live: '',
    gain: [-3, 0],
    pitch: [-1, 1],
    members: [{ soundId: 's', name: 'Boot 1', part: null, weight: 1 }],
  },
  ...fields,
})
const keep = (one: Pool, at = reel) =>
  server.app.inject({ method: 'PUT', url: `/api/reels/${at}/pools/${one.id}`, payload: one })
const pools = async (at: string): Promise<Pool[]> =>
  (await server.app.inject(`/api/reels/${at}/pools`)).json<Pool[]>()

it('pools belong to the show: every reel of it has them, and no other show', async () => {
  const boots = pool()
  const doors = pool({ key: 4, name: 'Doors', category: 'FX' })
  const [keptDoors, keptBoots] = [(await keep(doors)).json<Pool>(), (await keep(boots)).json<Pool>()]
  expect([keptBoots, keptDoors]).toEqual([
    { ...boots, version: 1 },
    { ...doors, version: 1 },
  ])
  expect(await pools(reel)).toEqual([keptBoots, keptDoors])
  const [{ show_id: showId }] = await server.services.db.query('SELECT show_id FROM reel WHERE id = $1', [
    reel,
  ])
  expect(await pools(await server.makeReel({ name: 'Reel 2', showId }))).toEqual([keptBoots, keptDoors])
  expect(await pools(await server.makeReel({ showName: 'Another' }))).toEqual([])
  const louder = { ...keptBoots, gain: [0, 6] as [number, number], key: 2 }
  const now = (await keep(louder)).json<Pool>()
  expect(await pools(reel)).toEqual([now, keptDoors])
  await server.app.inject({ method: 'DELETE', url: `/api/reels/${reel}/pools/${doors.id}` })
  expect(now).toEqual({ ...louder, version: 2 })
  expect(await pools(reel)).toEqual([now])
})

it('no two stand on one key, also when both are put there at once', async () => {
  const there = (await pools(reel))[0]!
  const refused = await keep(pool({ key: there.key, name: 'Late' }))
  expect([refused.statusCode, refused.body]).toEqual([
    409,
    expect.stringContaining('“Boots” stands on that key'),
  ])
  const answers = await Promise.all([1, 2, 3].map((late) => keep(pool({ key: 7, name: `Late ${late}` }))))
  expect(answers.map(({ statusCode }) => statusCode).toSorted()).toEqual([200, 409, 409])
})

it('of two who change one at the same time the second is told, and nothing of the first is lost', async () => {
  const both = (await keep(pool({ key: 5, name: 'Coats' }))).json<Pool>()
  const first = (await keep({ ...both, gain: [-9, 0] })).json<Pool>()
  const second = await keep({ ...both, members: [] })
  expect([second.statusCode, second.body]).toEqual([
    409,
    expect.stringContaining('Somebody has changed “Coats”'),
  ])
  expect((await pools(reel)).find(({ id }) => id === both.id)).toEqual(first)
  await server.app.inject({ method: 'DELETE', url: `/api/reels/${reel}/pools/${both.id}` })
  expect((await keep({ ...first, name: 'Too late' })).statusCode).toBe(409)
})

it('a pool of another show is not taken, nor said to be kept', async () => {
  const there = (await pools(reel))[0]!
  const other = await server.makeReel({ showName: 'Yet another' })
  expect((await keep(there, other)).statusCode).toBe(409)
  expect(await pools(other)).toEqual([])
})

it.each([
  ['limits the wrong way round', { gain: [3, -3] }, 400],
  ['no name', { name: ' ' }, 400],
  ['more keys than there are', { key: 10 }, 400],
])('a pool with %s is refused, and nothing of it is kept', async (_, fields, status) => {
  const before = await pools(reel)
  expect((await keep(pool({ key: 9, ...(fields as object) }))).statusCode).toBe(status)
  expect(await pools(reel)).toEqual(before)
})

it('a reel that is not there has none', async () => {
  expect((await server.app.inject('/api/reels/nowhere/pools')).statusCode).toBe(404)
  expect((await keep(pool(), 'nowhere')).statusCode).toBe(404)
})

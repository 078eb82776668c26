import { execFileSync } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import type { SoundOrder, SoundPage } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { writeSounds, writtenSounds } from '../sounds/soundRows.js'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { refreshTerms } from './expandWords.js'
import { searchSounds } from './searchSounds.js'

/** More than are answered from the word index, so that every way of searching is gone. */
const MANY = 3600
const EACH_FIFTH = MANY / 5
let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
  const shelf = path.join(server.root, 'Boxes')
  mkdirSync(shelf)
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'sine=duration=1', path.join(shelf, 'one.wav')])
  const { id } = (
    await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: shelf } })
  ).json<{ id: string }>()
  const { db } = server.services
  const [{ job_id: jobId }] = (await db.query('SELECT job_id FROM shelf WHERE id = $1', [id])) as [
    { job_id: string },
  ]
  await server.settled(jobId)
  const [one] = await writtenSounds(db, 'true', [])
  if (!one) throw new Error('the shelf is empty')
  // Many share each value, so that pages end in the middle of equals.
  const rows = Array.from({ length: MANY }, (_, n) => ({
    ...one,
    id: `s${n}`,
    path: `box ${n}.wav`,
    name: `${n % 5 === 0 ? 'Box lid' : 'Box'} ${n % 40}`,
    description: n % 3 === 0 ? 'close' : '',
    length: 4800 * (1 + (n % 70)),
    loudness: -20 - (n % 9),
    weight: n % 11,
    brightness: 100 + (n % 13),
    bite: n % 3,
    noisiness: 5,
    pitch: n % 2 === 0 ? 0 : 440,
    events: n % 4,
  }))
  for (let at = 0; at < MANY; at += 1200) await writeSounds(db, rows.slice(at, at + 1200))
  await db.query(`DELETE FROM sound WHERE id = $1`, [one.id])
  await db.query(`UPDATE sound SET added = now() - (length(name) || ' days')::interval`)
  await refreshTerms(db)
})
afterAll(() => server.close())

/** Goes through all pages of a search; ids in their order. */
async function allOf(text: string, sort: SoundOrder, down: boolean): Promise<string[]> {
  const scope = { shelves: null, kit: null, showId: null, now: new Date() }
  const ids: string[] = []
  for (let cursor: string | null = null, page = 0; page === 0 || cursor !== null; page++) {
    if (page > MANY / 4) throw new Error('the pages do not come to an end')
    const found = await searchSounds(server.services.db, { text, scope, sort, down, beyond: null, cursor })
    ids.push(...found.ids)
    cursor = found.next
  }
  return ids
}

describe('pages of results', () => {
  const orders: SoundOrder[] = [
    'match',
    'name',
    'length',
    'loudness',
    'weight',
    'brightness',
    'bite',
    'noisiness',
    'pitch',
    'events',
    'added',
  ]
  it.each(
    orders.flatMap((sort): [SoundOrder, string, boolean][] => [
      [sort, 'up', false],
      [sort, 'down', true],
    ]),
  )('by %s, %s: each of a few hundred once', async (sort, _, down) => {
    const ids = await allOf('lid', sort, down)
    expect([ids.length, new Set(ids).size]).toEqual([EACH_FIFTH, EACH_FIFTH])
  })
  it.each<[SoundOrder, string]>([
    ['match', 'box'],
    ['added', 'box'],
    ['pitch', ''],
    ['name', '-lid'],
  ])('by %s for “%s”: each of thousands once', async (sort, text) => {
    const ids = await allOf(text, sort, true)
    const expected = text === '-lid' ? MANY - EACH_FIFTH : MANY
    expect([ids.length, new Set(ids).size]).toEqual([expected, expected])
  })
  it('stand in their order', async () => {
    const lengths = new Map(
      (
        (await server.services.db.query('SELECT id, length FROM sound')) as { id: string; length: number }[]
      ).map((row) => [row.id, row.length]),
    )
    const found = (await allOf('lid', 'length', false)).map((id) => lengths.get(id) as number)
    expect(found).toEqual([...found].sort((a, b) => a - b))
  })
  it.each([
    ['garbage', 'x'],
    ['a text where a number stands', { v: 'x', id: 's1', block: null }],
    ['a place that is none', { v: 1, id: 's1', block: ['a', 'b'] }],
  ])('begin again with a cursor that was not made here: %s', async (_, cursor) => {
    const made =
      typeof cursor === 'string' ? cursor : Buffer.from(JSON.stringify(cursor)).toString('base64url')
    const query = { q: 'lid', sort: 'weight' }
    const [first, answer] = [
      await server.app.inject({ url: '/api/sounds', query }),
      await server.app.inject({ url: '/api/sounds', query: { ...query, cursor: made } }),
    ]
    expect(answer.json<SoundPage>().sounds.length).toBeGreaterThan(0)
    expect(answer.json<SoundPage>()).toEqual(first.json<SoundPage>())
  })
})

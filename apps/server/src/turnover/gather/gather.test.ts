import { existsSync, renameSync, rmSync } from 'node:fs'
import path from 'node:path'
import type { RecordingsInUse, Shelf, SoundPage } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makePlacedReel } from '../../test/placedReel.js'
import { startTestServer, type TestServer } from '../../test/testServer.js'

let server: TestServer
let reel: string
beforeAll(async () => {
  server = await startTestServer()
  reel = await makePlacedReel(server)
})
afterAll(() => server.close())

const ask = async <T>(url: string): Promise<T> => (await server.app.inject(`/api${url}`)).json<T>()
const inUse = (): Promise<RecordingsInUse> => ask(`/reels/${reel}/recordings`)
const post = async (url: string) => {
  const answer = await server.app.inject({ method: 'POST', url: `/api${url}` })
  const { jobId } = answer.json<{ jobId: string }>()
  return { id: jobId, ...(await server.settled(jobId)) }
}
const bounced = async (): Promise<Buffer> => {
  const { id } = await post(`/reels/${reel}/bounce`)
  return (await server.app.inject(`/api/bounces/${id}`)).rawPayload
}

describe('gathering', () => {
  it('copies what is placed, names what it can’t copy, and goes on with it when it is there again', async () => {
    expect(await inUse()).toMatchObject([{ shelf: 'sounds', sounds: 3, missing: 0, gathered: false }])
    const door = path.join(server.root, 'door.wav')
    renameSync(door, `${door}.away`)
    expect(await post(`/reels/${reel}/gather`)).toMatchObject({
      state: 'done',
      result: { gathered: 2, left: [expect.stringMatching(/door/i)] },
    })
    renameSync(`${door}.away`, door)
    expect((await inUse()).map(({ shelf, sounds, gathered }) => [shelf, sounds, gathered])).toEqual([
      ['Gathered for Show', 2, true],
      ['sounds', 1, false],
    ])
    expect(await post(`/reels/${reel}/gather`)).toMatchObject({ result: { gathered: 1, left: [] } })
    // Asked for twice at once, it is one job.
    const [one, other] = await Promise.all([post(`/reels/${reel}/gather`), post(`/reels/${reel}/gather`)])
    expect(one).toMatchObject({ result: { gathered: 0, left: [] } })
    expect(other.state).toBe('done')
  })

  it('lets the disk go home: the mix is the same to the bit, without the shelf it came from', async () => {
    const before = await bounced()
    // The library's own files may have been found again meanwhile, as recordings of their own.
    const places = (await ask<SoundPage>('/sounds')).sounds.filter(
      ({ shelf }) => shelf === 'Gathered for Show',
    )
    expect(places.map((sound) => sound.path).sort()).toEqual([
      ...['sounds/boots.wav', 'sounds/door.wav', 'sounds/rain.wav'],
    ])
    const [first] = (await ask<Shelf[]>('/shelves')).filter(({ name }) => name === 'sounds')
    await server.app.inject({ method: 'DELETE', url: `/api/shelves/${first!.id}` })
    for (const name of ['door.wav', 'rain.wav', 'steps'])
      rmSync(path.join(server.root, name), { recursive: true })
    rmSync(path.join(server.dataDir, 'pcm'), { recursive: true, force: true })
    expect((await bounced()).equals(before)).toBe(true)
    expect(await inUse()).toMatchObject([{ shelf: 'Gathered for Show', sounds: 3, missing: 0 }])
    // The index knows them where they are now, each once.
    const [gathered] = await ask<Shelf[]>('/shelves')
    expect(gathered).toMatchObject({ name: 'Gathered for Show', sounds: 3, problems: [] })
    expect((await ask<SoundPage>('/sounds')).total).toBe(3)
    expect(existsSync(path.join(gathered!.root, 'sounds', 'rain.wav'))).toBe(true)
  })

  it('of a reel that there is not is refused', async () => {
    expect((await server.app.inject({ method: 'POST', url: '/api/reels/none/gather' })).statusCode).toBe(404)
    expect((await server.app.inject('/api/reels/none/recordings')).statusCode).toBe(404)
  })
})

import {
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
  existsSync,
} from 'node:fs'
import path from 'node:path'
import { SHIPPED_RECIPES, type JobResult, type Recipe } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makePlacedReel, turnOver } from '../../test/placedReel.js'
import { startTestServer, type TestServer } from '../../test/testServer.js'

let server: TestServer
let reel: string
let id: string
/** Where a disk is, and the folder of the package on it. */
let disk: string
let copy: string

const post = async (
  url: string,
  body?: object,
): Promise<{ id: string; state: string; message: string; result: unknown }> => {
  const answer = await server.app.inject({
    method: 'POST',
    url: `/api${url}`,
    ...(body ? { payload: body } : {}),
  })
  expect(answer.statusCode, answer.body).toBe(202)
  const { jobId } = answer.json<{ jobId: string }>()
  return { id: jobId, ...(await server.settled(jobId)) }
}

beforeAll(async () => {
  server = await startTestServer()
  reel = await makePlacedReel(server)
  ;({ id } = await turnOver(server, reel, SHIPPED_RECIPES[2] as Recipe))
  disk = path.join(server.root, 'disk')
  mkdirSync(disk)
  const made = await post(`/turnovers/${id}/copies`, { path: disk })
  copy = (made.result as JobResult<'deliver'>).folder
})
afterAll(() => server.close())

const mixOf = async (reelId: string): Promise<Buffer> => {
  const bounced = await post(`/reels/${reelId}/bounce`)
  return (await server.app.inject(`/api/bounces/${bounced.id}`)).rawPayload
}
/** The samples of a WAV file, without what it says of itself. */
const samples = (wav: Buffer): Buffer => wav.subarray(wav.indexOf('data') + 8)

describe('a turnover on a disk', () => {
  it('is a folder of the same files, opens as a reel that mixes to the same, and stays as it is', async () => {
    expect(path.basename(copy)).toMatch(/^Show_Reel-1_.*turnover-1$/)
    expect(readdirSync(copy).sort()).toEqual(
      expect.arrayContaining(['audio', 'lists', 'manifest.json', 'sounds']),
    )
    const opened = await post('/packages/there', { path: copy })
    expect(opened).toMatchObject({ state: 'done', result: { show: 'Show', reel: 'Reel 1' } })
    const { reelId } = opened.result as JobResult<'open'>
    expect(samples(await mixOf(reelId)).equals(samples(await mixOf(reel)))).toBe(true)
    expect(existsSync(path.join(copy, 'manifest.json'))).toBe(true)
  })

  it('is not written over, nor where Yodel may not write, nor into a file', async () => {
    expect(await post(`/turnovers/${id}/copies`, { path: disk })).toMatchObject({
      state: 'failed',
      message: expect.stringMatching(/is there already/) as string,
    })
    for (const [where, says] of [
      ['/etc', /outside the folders/],
      [path.join(copy, 'manifest.json'), /is a file/],
    ] as const) {
      const answer = await server.app.inject({
        method: 'POST',
        url: `/api/turnovers/${id}/copies`,
        payload: { path: where },
      })
      expect(answer.json<{ message: string }>().message).toMatch(says)
    }
  })

  it.each([
    ['with a file cut short', () => truncateSync(sound(), 100), /sounds\/.* has 100 bytes instead of/],
    ['with a file gone', () => rmSync(sound()), /sounds\/.* is missing/],
    [
      'with a link instead of a file',
      () => {
        renameSync(sound(), path.join(disk, 'elsewhere.wav'))
        symlinkSync(path.join(disk, 'elsewhere.wav'), path.join(copy, 'sounds', 'rain.wav'))
      },
      /sounds\/.* is missing/,
    ],
    [
      'that is none',
      () => writeFileSync(path.join(copy, 'manifest.json'), '{}'),
      /This folder is no package/,
    ],
  ])('%s is refused with what is wrong, and stays as it is', async (_, harm, says) => {
    rmSync(copy, { recursive: true })
    await post(`/turnovers/${id}/copies`, { path: disk })
    harm()
    const shelves = (await server.app.inject('/api/shelves')).json<unknown[]>().length
    expect(await post('/packages/there', { path: copy })).toMatchObject({
      state: 'failed',
      message: expect.stringMatching(says) as string,
    })
    expect(existsSync(copy)).toBe(true)
    expect((await server.app.inject('/api/shelves')).json<unknown[]>()).toHaveLength(shelves)
  })
  const sound = (): string => path.join(copy, 'sounds', 'rain.wav')
})

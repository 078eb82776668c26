import { existsSync } from 'node:fs'
import { SHIPPED_RECIPES, type KeptTurnover, type Recipe } from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { makePlacedReel, turnOver } from '../../test/placedReel.js'
import { startTestServer, type TestServer } from '../../test/testServer.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

it('a turnover whose files are thrown away is still known, with all it held and what has changed since', async () => {
  const reel = await makePlacedReel(server)
  const recipe: Recipe = { ...(SHIPPED_RECIPES[1] as Recipe), sounds: 'none' }
  const { id, folder } = await turnOver(server, reel, recipe)
  const get = (url: string) => server.app.inject(url)
  const before = (await get(`/api/turnovers/${id}`)).json<KeptTurnover & { files: { path: string }[] }>()
  const clear = () => server.app.inject({ method: 'DELETE', url: `/api/turnovers/${id}/files` })
  expect((await clear()).statusCode).toBe(204)
  expect(existsSync(folder)).toBe(false)
  const after = (await get(`/api/turnovers/${id}`)).json<typeof before>()
  expect(after).toEqual({ ...before, cleared: expect.stringMatching(/^\d{4}-\d\d-\d\dT/) as string })
  for (const url of [`package.zip`, `files/${before.files[0]!.path}`]) {
    const { statusCode, body } = await get(`/api/turnovers/${id}/${url}`)
    expect([statusCode, body]).toEqual([404, expect.stringContaining('were thrown away')])
  }
  expect((await get(`/api/turnovers/${id}/since.pdf`)).statusCode).toBe(200)
  // Asked for again it is no mistake, and the next turnover has the next number.
  expect((await clear()).statusCode).toBe(204)
  const { id: next } = await turnOver(server, reel, recipe)
  expect((await get(`/api/turnovers/${next}`)).json()).toMatchObject({
    number: before.number + 1,
    cleared: null,
  })
})

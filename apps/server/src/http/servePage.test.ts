import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
  const web = path.dirname(server.root)
  mkdirSync(path.join(web, 'assets'))
  writeFileSync(path.join(web, 'index.html'), '<title>Yodel</title>')
  writeFileSync(path.join(web, 'assets', 'index-0a1b.js'), 'export {}')
})
afterAll(() => server.close())

const get = (url: string) => server.app.inject({ url })

it('lets browsers keep for good what bears its hash in its name, and ask for the page each time', async () => {
  const asset = await get('/assets/index-0a1b.js')
  expect(asset.headers['cache-control']).toBe('public, max-age=31536000, immutable')
  for (const page of ['/', '/sounds', '/index.html'])
    expect((await get(page)).headers['cache-control']).toBe('no-cache')
})

it('tells a page of a reel where the reel is, and no other page', async () => {
  const id = await server.makeReel()
  for (const page of [`/reels/${id}`, `/reels/${id}/list`, `/reels/${id}?at=7`]) {
    const { headers, body } = await get(page)
    expect([headers['link'], body]).toEqual([
      `</api/reels/${id}>; rel=preload; as=fetch; crossorigin`,
      '<title>Yodel</title>',
    ])
  }
  for (const page of ['/', '/sounds', '/reels/', '/reels/a>b', '/guide/made'])
    expect((await get(page)).headers['link']).toBeUndefined()
})

it('answers what is neither a file nor a page with what is missing', async () => {
  for (const url of ['/api/nothing', '/assets/index-old.js']) {
    const answer = await get(url)
    expect([answer.statusCode, answer.json<{ code: string }>().code]).toEqual([404, 'NOT_FOUND'])
  }
})

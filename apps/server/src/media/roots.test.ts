import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import type { Folder, Roots } from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { Roots as KeptRoots } from './Roots.js'

let open: TestServer
let named: TestServer
let folder: string
beforeAll(async () => {
  // For several: nobody has said which folders may be read.
  open = await startTestServer({ YODEL_SOUND_ROOTS: '', YODEL_HOST: '0.0.0.0', YODEL_OPEN: '1' })
  named = await startTestServer()
  folder = path.join(open.root, 'library')
  mkdirSync(path.join(folder, 'doors'), { recursive: true })
})
afterAll(() => Promise.all([open.close(), named.close()]))

const ask = (method: 'GET' | 'POST' | 'DELETE', remoteAddress: string, at?: string, server = open) =>
  server.app.inject({
    ...{ method, url: '/api/roots', remoteAddress, headers: { host: '127.0.0.1' } },
    ...(at === undefined ? {} : { payload: { path: at } }),
  })
const folders = async (at: string) => open.app.inject(`/api/folders?path=${encodeURIComponent(at)}`)

it('are said at the server’s own machine, hold at once, and are kept', async () => {
  expect((await folders(folder)).statusCode).toBe(403)
  expect((await ask('POST', '127.0.0.1', folder)).json<Roots>()).toEqual({ own: [folder], mayChange: true })
  expect((await folders(folder)).json<Folder>().folders.map(({ name }) => name)).toEqual(['doors'])
  expect(new KeptRoots(open.services.settings).all).toContain(folder)
  await ask('DELETE', '::ffff:127.0.0.1', folder)
  expect((await folders(folder)).statusCode).toBe(403)
})

it.each(['192.168.1.7', '::2', '10.0.0.1'])('are nobody’s business who comes from %s', async (ip) => {
  expect((await ask('GET', ip)).json<Roots>().mayChange).toBe(false)
  const answer = await ask('POST', ip, '/')
  expect([answer.statusCode, answer.body]).toEqual([
    403,
    expect.stringContaining('at the server’s own machine'),
  ])
  expect((await folders('/')).statusCode).toBe(403)
})

it('stay as they are where the settings name them, or behind a proxy', async () => {
  expect((await ask('POST', '127.0.0.1', '/', named)).statusCode).toBe(403)
  const settings = { ...open.services.settings, publicUrl: 'https://yodel.example' }
  expect(new KeptRoots(settings).mayBeChangedBy('127.0.0.1')).toBe(false)
})

it('are all kept when several are said at once; a file of them that is damaged is never taken for none', async () => {
  const several = ['a', 'b', 'c', 'd'].map((name) => path.join(folder, name))
  for (const one of several) mkdirSync(one)
  await Promise.all(several.map((one) => ask('POST', '127.0.0.1', one)))
  expect(new Set(new KeptRoots(open.services.settings).own)).toEqual(new Set(several))
  await Promise.all(several.map((one) => ask('DELETE', '127.0.0.1', one)))
  const damaged = path.join(open.root, 'damaged')
  mkdirSync(damaged)
  writeFileSync(path.join(damaged, 'roots.json'), '{"roots":["/sr')
  expect(() => new KeptRoots({ ...open.services.settings, dataDir: damaged })).toThrow(
    /roots\.json can't be read/,
  )
})

it.each(['relative/folder', '/there/is/nothing', ''])('are folders that are there: not %j', async (at) => {
  expect((await ask('POST', '127.0.0.1', at)).statusCode).toBeGreaterThanOrEqual(400)
  expect((await ask('GET', '127.0.0.1')).json<Roots>().own).toEqual([])
})

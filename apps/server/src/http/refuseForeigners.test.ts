import { hostname } from 'node:os'
import Fastify from 'fastify'
import { describe, expect, it } from 'vitest'
import { answerErrors } from './answerErrors.js'
import { refuseForeigners } from './refuseForeigners.js'

/** Asks a server that listens at an address. */
async function ask(
  settings: { host: string; publicUrl?: string },
  headers: Record<string, string>,
  method: 'GET' | 'POST' = 'GET',
): Promise<string> {
  const app = Fastify()
  refuseForeigners(app, { publicUrl: null, ...settings })
  answerErrors(app)
  app.all('/', () => ({ code: 'read' }))
  return (await app.inject({ method, url: '/', headers })).json<{ code: string }>().code
}
const local = { host: '127.0.0.1' }

describe('a server on this machine alone', () => {
  it.each(['localhost:4750', '127.0.0.1:4750', '[::1]:4750', 'LOCALHOST'])(
    'answers under %s',
    async (host) => {
      expect(await ask(local, { host })).toBe('read')
    },
  )
  it.each([
    'rebound.example:4750',
    '127.0.0.1.rebound.example',
    'localhost.rebound.example',
    '10.0.0.7',
    'a b',
  ])('does not answer under “%s”, though it leads here', async (host) => {
    expect(await ask(local, { host })).toBe('WRONG_HOST')
    expect(await ask(local, { host, origin: `http://${host}` }, 'POST')).toBe('WRONG_HOST')
  })
  it('takes writes from its own pages and from programs, not from another site or another port', async () => {
    const host = 'localhost:4750'
    expect(await ask(local, { host, origin: `http://${host}` }, 'POST')).toBe('read')
    expect(await ask(local, { host }, 'POST')).toBe('read')
    for (const origin of ['http://elsewhere.example', 'http://localhost:9999', 'null'])
      expect(await ask(local, { host, origin }, 'POST')).toBe('WRONG_ORIGIN')
  })
})

describe('a server that others can reach', () => {
  it('answers under its machine’s name and addresses, and under the name it was given', async () => {
    const open = { host: '0.0.0.0', publicUrl: 'https://yodel.example' }
    for (const host of [`${hostname()}:4750`, '127.0.0.1', 'yodel.example'])
      expect(await ask(open, { host })).toBe('read')
    expect(await ask(open, { host: 'rebound.example' })).toBe('WRONG_HOST')
    expect(await ask({ host: '0.0.0.0' }, { host: '0.0.0.0' })).toBe('WRONG_HOST')
  })
  it('answers under the one address it listens at', async () => {
    expect(await ask({ host: '10.1.2.3' }, { host: '10.1.2.3:80' })).toBe('read')
    expect(await ask({ host: 'fd00::7' }, { host: '[fd00::7]:80' })).toBe('read')
  })
})

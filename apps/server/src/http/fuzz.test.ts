import { randomUUID } from 'node:crypto'
import { readdirSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import type { AddressInfo } from 'node:net'
import path from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

const REQUESTS = 3000
/** Nothing that is asked here may take longer. */
const HANG_MS = 20_000

interface Schema {
  type?: string
  enum?: unknown[]
  const?: unknown
  anyOf?: Schema[]
  oneOf?: Schema[]
  items?: Schema
  properties?: Record<string, Schema>
  default?: unknown
}
interface Operation {
  parameters?: { name: string; in: 'path' | 'query'; schema: Schema }[]
  requestBody?: { content: Record<string, { schema: Schema }> }
}

let server: TestServer
let port = 0
let operations: { method: string; url: string; operation: Operation }[] = []
/** Ids that are there, which let a request get further than to a refusal. */
const known: Record<string, string[]> = {}

let seed = 20_261_127
const roll = (most: number): number => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % most
const oneOf = <T>(list: readonly T[]): T => list[roll(list.length)] as T

beforeAll(async () => {
  server = await startTestServer()
  const post = async (url: string, payload: object): Promise<{ id: string }> =>
    (await server.app.inject({ method: 'POST', url, payload })).json()
  ffmpeg(path.join(server.root, 'door.wav'), '-f', 'lavfi', '-i', 'sine=duration=1')
  const movie = ffmpeg(path.join(server.root, 'film.mp4'), '-f', 'lavfi', '-i', 'testsrc=duration=1:rate=24')
  // A name in letters beyond the basic plane: cut in the middle of one, it can't be sent in a header.
  const rare = { showName: '\u{1F40E}'.repeat(90), name: '\u{20BB7}'.repeat(90) }
  known['reel'] = [await server.makeReel(), await server.makeReel(rare)]
  const shelf = await post('/api/shelves', { path: server.root })
  known['shelf'] = [shelf.id]
  const [{ jobId = '' } = {}] = (await server.app.inject('/api/shelves')).json<{ jobId: string }[]>()
  await server.settled(jobId)
  const picture = (await post('/api/pictures/pick', { path: movie })) as { id: string; jobId: string }
  known['picture'] = [picture.id]
  await server.settled(picture.jobId)
  known['job'] = [picture.jobId]
  known['kit'] = [(await post('/api/kits', { name: 'Doors' })).id]
  const { sounds } = (await server.app.inject('/api/sounds')).json<{ sounds: { id: string }[] }>()
  known['sound'] = sounds.map(({ id }) => id)
  await server.app.listen({ port: 0, host: '127.0.0.1' })
  port = (server.app.server.address() as AddressInfo).port
  const { paths } = (await server.app.inject('/api/docs/json')).json<{
    paths: Record<string, Record<string, Operation>>
  }>()
  operations = Object.entries(paths).flatMap(([url, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ method: method.toUpperCase(), url, operation })),
  )
}, 60_000)
afterAll(() => server.close())

const TEXTS = [
  ...['', ' ', 'x', '0', '-1', 'NaN', '1e309', 'null', 'true', '\0', 'a\0b', '\ud800', '\udfff\ud800'],
  ...[
    '..',
    '../../etc/passwd',
    '/etc/passwd',
    '/',
    '%',
    '%00',
    "'; DROP TABLE change; --",
    '<script>',
    '=1+1',
  ],
  ...[
    '\u{1F40E}'.repeat(90),
    'a'.repeat(65),
    'a'.repeat(300),
    'ä'.repeat(5000),
    '\n=1',
    '\u202e',
    'FX',
    '24',
  ],
  ...['01:00:00:00', '99:99:99:99', '[]', '{}', 'constructor', '__proto__', 'toString'],
]
const NUMBERS = [
  0,
  1,
  -1,
  0.5,
  7,
  48_000,
  2 ** 31 - 1,
  2 ** 31,
  -(2 ** 31) - 1,
  2 ** 53 - 1,
  2 ** 53,
  1e300,
  -0,
]
const idOf = (name: string): string => {
  const all = Object.values(known).flat()
  const odd = [
    randomUUID(),
    ...TEXTS,
    oneOf(all),
    `guide-${oneOf(all)}`,
    `${oneOf(all)}~2`,
    `${oneOf(all)}~1e9`,
  ]
  const own = known[name === 'mediaId' ? 'sound' : 'reel'] ?? []
  return roll(2) === 0 ? oneOf([...all, ...own]) : oneOf(odd)
}

/** A value of a form, mostly; now and then of another one. */
function valueOf(schema: Schema | undefined, name: string, depth = 0): unknown {
  if (!schema || depth > 6 || roll(12) === 0)
    return oneOf([null, true, [], {}, [[]], oneOf(TEXTS), oneOf(NUMBERS), { __proto__: null }])
  if ('const' in schema) return schema.const
  if (schema.enum) return oneOf(schema.enum)
  const either = schema.anyOf ?? schema.oneOf
  if (either) return valueOf(oneOf(either), name, depth + 1)
  if (schema.type === 'object')
    return Object.fromEntries(
      Object.entries(schema.properties ?? {})
        .filter(() => roll(10) > 0)
        .map(([key, inner]) => [key, valueOf(inner, key, depth + 1)]),
    )
  if (schema.type === 'array')
    return Array.from({ length: roll(4) }, () => valueOf(schema.items, name, depth + 1))
  if (schema.type === 'integer' || schema.type === 'number') return roll(2) ? roll(3000) : oneOf(NUMBERS)
  if (schema.type === 'boolean') return roll(2) === 0
  if (/id$/i.test(name)) return idOf(name)
  return name === 'path' && roll(2) ? server.root : oneOf(TEXTS)
}

const MULTIPART = 'multipart/form-data; boundary=b'
const part = (head: string, body: string): string => `--b\r\n${head}${body}\r\n--b--\r\n`
const FILE = 'Content-Disposition: form-data; name="file"; filename="cues.csv"\r\n'
const UPLOADS = [
  part('\r\n', 'no headers'),
  part('', 'not even a blank line'),
  part(`${FILE}\r\n`, 'TC IN,Words\r\n01:00:00:00,door'),
  part(`${FILE}Content-Type: ${'x'.repeat(20_000)}\r\n\r\n`, 'x'),
  part('Content-Disposition: form-data; name="file"; filename="../../x\0y"\r\n\r\n', 'PK\u0003\u0004'),
  part('Content-Disposition: form-data; name="field"\r\n\r\n', 'x'.repeat(2_000_000)),
  part(`${FILE}\r\n`, 'x').slice(0, -8),
  `--b\r\n${FILE}\r\nRIFF\0\0\0\0WAVEfmt `,
  '--b--\r\n',
  '--c\r\n\r\n--c--',
  '',
]

function bodyOf({ method, url, operation }: (typeof operations)[number]): [body: string, type: string] {
  if (method === 'GET' || method === 'DELETE') return ['', '']
  if (roll(6) === 0 || url.endsWith('/sheet') || url === '/api/pictures')
    return [
      oneOf(UPLOADS),
      oneOf([MULTIPART, MULTIPART, 'multipart/form-data', 'multipart/form-data; boundary=']),
    ]
  if (roll(10) === 0)
    return [oneOf(['{', '[1', 'null', '"x"', '\0', 'a=b']), oneOf(['application/json', 'text/plain', ''])]
  return [
    JSON.stringify(valueOf(operation.requestBody?.content['application/json']?.schema, 'body')),
    'application/json',
  ]
}

interface Sent {
  method: string
  target: string
  body: string
  type: string
}

function compose(operation: (typeof operations)[number]): Sent {
  const { parameters = [] } = operation.operation
  const text = (value: unknown): string => {
    const plain = typeof value === 'string' ? value : JSON.stringify(value)
    return roll(20) === 0
      ? plain.replace(/[^!-~]|[?#/]/g, '')
      : encodeURIComponent(plain.replace(/[\ud800-\udfff]/g, '\ufffd'))
  }
  let target = operation.url
  const query: string[] = []
  for (const { name, in: place, schema } of parameters) {
    const value = /id$/i.test(name) ? idOf(name) : valueOf(schema, name)
    if (place === 'path') target = target.replace(`{${name}}`, text(value))
    else if (roll(3) > 0) query.push(`${name}=${text(value)}`)
  }
  const [body, type] = bodyOf(operation)
  return {
    method: operation.method,
    target: query.length > 0 ? `${target}?${query.join('&')}` : target,
    body,
    type,
  }
}

/** Sends one request as it is. @returns its status, or what went wrong on the way */
function send({ method, target, body, type }: Sent): Promise<number | string> {
  return new Promise((resolve) => {
    const headers = { ...(type ? { 'content-type': type } : {}) }
    const sent = httpRequest(
      { port, host: '127.0.0.1', method, path: target, headers, agent: false },
      (answer) => {
        answer.resume()
        answer.on('end', () => resolve(answer.statusCode ?? 0))
        answer.on('error', (error) => resolve(error.message))
      },
    )
    sent.setTimeout(HANG_MS, () => {
      resolve('no answer')
      sent.destroy()
    })
    sent.on('error', (error) => resolve(error.message))
    sent.end(body)
  })
}

it(`answers ${REQUESTS} requests of every kind, none with an error of its own, and goes on`, async () => {
  expect(operations.length).toBeGreaterThan(45)
  for (const ids of Object.values(known)) expect(ids[0]).toEqual(expect.any(String))
  const bad: { answer: number | string; sent: Sent }[] = []
  const met = new Map<number | string, number>()
  for (let count = 0; count < REQUESTS; count += 8) {
    const batch = Array.from({ length: 8 }, (_, at) =>
      compose(operations[(count + at) % operations.length] as (typeof operations)[number]),
    )
    for (const [at, answer] of (await Promise.all(batch.map(send))).entries()) {
      met.set(answer, (met.get(answer) ?? 0) + 1)
      if (typeof answer === 'string' || answer >= 500) bad.push({ answer, sent: batch[at] as Sent })
    }
    // What was thrown away would refuse all that follows.
    for (const id of known['reel'] ?? [])
      await server.app.inject({ method: 'POST', url: `/api/reels/${id}/back` })
  }
  const named = bad.map(({ answer, sent }) =>
    `${answer} to ${sent.method} ${sent.target} ${sent.body}`.slice(0, 300),
  )
  expect(named).toEqual([])
  // Pictures that there are not leave no folders.
  expect(readdirSync(path.join(server.dataDir, 'pictures'))).toEqual(known['picture'])
  expect(met.get(200)).toBeGreaterThan(REQUESTS / 50)
  expect((await server.app.inject(`/api/reels/${known['reel']?.[0]}`)).statusCode).toBe(200)
}, 600_000)

import { readdirSync, readFileSync, statSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import Fastify from 'fastify'
import { QueryFailedError, QueryRunnerProviderAlreadyReleasedError } from 'typeorm'
import { describe, expect, it } from 'vitest'
import { answerErrors } from './http/answerErrors.js'
import { APP_ERRORS, AppError, explainDisk, isDiskFull, reasonOf, type AppErrorCode } from './errors.js'

const here = path.dirname(fileURLToPath(import.meta.url))
const sources = (folder: string): string =>
  readdirSync(folder)
    .map((name) => {
      const file = path.join(folder, name)
      if (statSync(file).isDirectory()) return sources(file)
      return name.endsWith('.ts') && !name.endsWith('.test.ts') ? readFileSync(file, 'utf8') : ''
    })
    .join('\n')
const uses = sources(here).replace(/const APP_ERRORS = \{[\s\S]*?\} as const/, '')
const codes = Object.keys(APP_ERRORS) as AppErrorCode[]

/** An application that fails in one way. */
async function answerTo(error: unknown): Promise<{ status: number; body: Record<string, unknown> }> {
  const app = Fastify({ logger: false })
  answerErrors(app)
  app.get('/', () => {
    throw error
  })
  const answer = await app.inject('/')
  return { status: answer.statusCode, body: answer.json<Record<string, unknown>>() }
}

describe('the table of refusals', () => {
  it.each(codes)('uses %s somewhere', (code) => {
    expect(uses).toContain(`'${code}'`)
  })

  it.each(codes)('answers %s with its status, its words and its details', async (code) => {
    const answer = await answerTo(new AppError(code, 'It can’t be done.', { at: 7 }))
    expect(answer).toEqual({
      status: APP_ERRORS[code],
      body: { code, message: 'It can’t be done.', details: { at: 7 } },
    })
  })
})

describe('what goes wrong by itself', () => {
  it.each([
    ['a refused connection', Object.assign(new Error('connect'), { code: 'ECONNREFUSED' })],
    ['a connection cut off', new Error('Connection terminated unexpectedly')],
    ['no connection in time', new Error('timeout exceeded when trying to connect')],
    [
      'a database that shuts down',
      new QueryFailedError('SELECT 1', [], Object.assign(new Error('x'), { code: '57P01' })),
    ],
    ['a transaction whose connection died', new QueryRunnerProviderAlreadyReleasedError()],
    [
      'a database that starts',
      new QueryFailedError('SELECT 1', [], Object.assign(new Error('x'), { code: '57P03' })),
    ],
  ])('says of %s that the database is away', async (_, error) => {
    expect(await answerTo(error)).toMatchObject({ status: 503, body: { code: 'DATABASE_AWAY' } })
  })

  it('never shows its inside: not the query, not the stack', async () => {
    const inside = new QueryFailedError(
      'SELECT secret',
      ['p'],
      Object.assign(new Error('bad'), { code: '42601' }),
    )
    const { status, body } = await answerTo(inside)
    expect([status, body['code']]).toEqual([500, 'INTERNAL'])
    expect(JSON.stringify(body)).not.toMatch(/secret|bad|stack/)
  })

  it.each([
    [Object.assign(new Error('write'), { code: 'ENOSPC' }), true],
    [Object.assign(new Error('write'), { code: 'EDQUOT' }), true],
    [new Error('av_interleaved_write_frame(): No space left on device'), true],
    [new Error('another'), false],
    [null, false],
  ])('knows a full disk: %s', (error, full) => {
    expect(isDiskFull(error)).toBe(full)
  })

  it('says of a full disk what was not written and what to do, and leaves the rest alone', async () => {
    const full = Object.assign(new Error('write'), { code: 'ENOSPC' })
    expect(explainDisk(full, 'the mix')).toMatchObject({
      code: 'DISK_FULL',
      message: expect.stringMatching(/the mix was not written.*Free some space/) as string,
    })
    const other = new Error('another')
    expect(explainDisk(other, 'the mix')).toBe(other)
    expect(await answerTo(full)).toMatchObject({ status: 507, body: { code: 'DISK_FULL' } })
  })

  it('is told in lists by its first line', () => {
    expect(reasonOf(new Error('one\ntwo'))).toBe('one')
    expect(reasonOf('words')).toBe('words')
  })
})

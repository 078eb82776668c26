import { describe, expect, it } from 'vitest'
import { readAnswer } from './syncWire.js'

const missed = [{ seq: 2 }]

describe('an answer to a sent change', () => {
  it.each([
    ['written', 200, { seq: 3, missed: [] }, { kind: 'committed', seq: 3, missed: [] }],
    ['written, but cut short on its way', 200, null, { kind: 'away' }],
    ['a gateway that reaches nobody', 502, { message: 'x' }, { kind: 'away' }],
    ['a database that is away', 503, { code: 'DATABASE_AWAY' }, { kind: 'away' }],
    ['a gateway that gave up', 504, null, { kind: 'away' }],
    ['a full disk', 507, { code: 'DISK_FULL' }, { kind: 'full' }],
    [
      'a conflict',
      409,
      { message: 'Taken.', details: { missed } },
      { kind: 'conflict', missed, why: 'Taken.' },
    ],
    [
      'a conflict of an older server',
      409,
      { message: 'Taken.' },
      { kind: 'conflict', missed: [], why: 'Taken.' },
    ],
    ['a reel that is gone', 404, { code: 'REEL_MISSING' }, { kind: 'missing' }],
    [
      'another thing that is gone',
      404,
      { code: 'NOT_FOUND', message: 'No.' },
      { kind: 'refused', why: 'No.' },
    ],
    ['a broken rule', 422, { message: 'Overlap.' }, { kind: 'refused', why: 'Overlap.' }],
    ['something too large', 413, { message: 'Too large.' }, { kind: 'refused', why: 'Too large.' }],
    ['an error of the server’s own', 500, { message: 'An error.' }, { kind: 'refused', why: 'An error.' }],
    ['an error page', 500, null, { kind: 'refused', why: 'The server answered 500.' }],
  ])('that is %s', (_, status, body, means) => {
    expect(readAnswer(status, body)).toMatchObject(means)
  })
})

import type { TakeAbout } from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { TakeSender } from './TakeSender.js'
import type { TakePart, TakeStore } from './TakeStore.js'

const ABOUT: TakeAbout = {
  ...{ id: '00000000-0000-4000-8000-000000000000', reelId: 'r', cueId: 'q', name: 'FX 001 take 1' },
  ...{ number: 1, channels: 1, start: 0, in: 0, out: 10, sync: 0, reelAt: 0 },
  ...{ device: '', roundTrip: 0, measured: false },
}

/** A browser's database in memory. */
class Kept {
  readonly all: TakePart[] = []
  add(_id: string, part: TakePart): Promise<void> {
    this.all.push(part)
    return Promise.resolve()
  }
  end(): Promise<void> {
    return Promise.resolve()
  }
  parts(_id: string, beyond = 0): Promise<TakePart[]> {
    return Promise.resolve(this.all.filter(({ from, samples }) => from + samples.length > beyond))
  }
}

/** A server that keeps what it is sent; what it answers next can be said before. */
let had: number[] | null
let ended: unknown
let next: (Response | Error)[]
beforeEach(() => {
  vi.useFakeTimers()
  had = null
  next = []
  vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
    const said = next.shift()
    if (said instanceof Error) return Promise.reject(said)
    if (said) return Promise.resolve(said)
    return Promise.resolve(answer(url, init))
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

function answer(url: string, init: RequestInit): Response {
  if (url === '/api/takes') {
    had ??= []
    return new Response(null, { status: 204 })
  }
  if (!had) return Response.json({ code: 'NOT_FOUND', message: 'gone' }, { status: 404 })
  const gap = { code: 'TAKE_GAP', message: 'gap', details: { length: had.length } }
  if (url.endsWith('/end')) {
    ended = JSON.parse(init.body as string)
    const { length } = ended as { length: number }
    return had.length < length ? Response.json(gap, { status: 409 }) : Response.json({ id: 'sound' })
  }
  const from = Number(url.split('from=')[1])
  if (from > had.length) return Response.json(gap, { status: 409 })
  had.splice(from, Infinity, ...(init.body as Float32Array))
  return Response.json({ length: had.length })
}

const make = (): { sender: TakeSender; told: (string | null)[]; kept: Kept } => {
  const told: (string | null)[] = []
  const kept = new Kept()
  const store = kept as unknown as TakeStore
  return { sender: new TakeSender(ABOUT, store, (message) => told.push(message)), told, kept }
}
/** Adds so many parts of three samples that count on. */
const addParts = (sender: TakeSender, count: number, from = 0): void => {
  for (let part = from; part < from + count; part++)
    sender.add(Float32Array.of(3 * part, 3 * part + 1, 3 * part + 2))
}
const numbers = (count: number): number[] => Array.from({ length: count }, (_, index) => index)

describe('sending a take', () => {
  it('brings every sample once and in order, also what comes while others are under way', async () => {
    const { sender, told } = make()
    addParts(sender, 2)
    await vi.advanceTimersByTimeAsync(1)
    addParts(sender, 3, 2)
    expect(await sender.end('')).toEqual({ id: 'sound' })
    expect([had, told]).toEqual([numbers(15), []])
  })

  it('waits for a server that is away and for a disk that is full, says so, and goes on', async () => {
    next = [
      new TypeError('Failed to fetch'),
      Response.json({ message: 'The disk is full.' }, { status: 507 }),
    ]
    const { sender, told } = make()
    addParts(sender, 2)
    const ended = sender.end('')
    await vi.advanceTimersByTimeAsync(2000)
    expect(await ended).toEqual({ id: 'sound' })
    expect(had).toEqual(numbers(6))
    expect(told.map((words) => words?.split('.')[0] ?? null)).toEqual([
      'The server does not answer',
      'The disk is full',
      null,
    ])
  })

  it('sends again what a server has lost that was put back to an earlier state', async () => {
    const { sender } = make()
    addParts(sender, 4)
    await vi.advanceTimersByTimeAsync(1)
    expect(had).toEqual(numbers(12))
    had = numbers(5)
    addParts(sender, 1, 4)
    await sender.end('')
    expect(had).toEqual(numbers(15))
    // It has forgotten the take whole.
    had = null
    addParts(sender, 1, 5)
    await sender.end('')
    expect(had).toEqual(numbers(18))
  })

  it('sends nothing over a hole: what neither side has ends the take, which says so', async () => {
    const { sender, kept } = make()
    addParts(sender, 4)
    await vi.advanceTimersByTimeAsync(1)
    // The browser had no room for the second part, and the server was put back to before it.
    kept.all.splice(1, 1)
    had = numbers(3)
    addParts(sender, 1, 4)
    expect(await sender.end('')).toEqual({ id: 'sound' })
    expect([had, ended]).toEqual([
      numbers(3),
      { length: 3, later: 0, note: 'What came after its end is lost' },
    ])
  })

  it('does not go round for ever with a server that takes no more', async () => {
    const { sender, told } = make()
    next = [new Response(null, { status: 204 }), Response.json({ length: 0 })]
    addParts(sender, 1)
    await vi.advanceTimersByTimeAsync(1)
    expect(told[0]).toContain('takes no more')
  })

  it('says what the server does not want, and keeps what was recorded', async () => {
    next = [Response.json({ code: 'REEL_MISSING', message: 'There is no reel r.' }, { status: 404 })]
    const { sender, told } = make()
    addParts(sender, 1)
    await vi.advanceTimersByTimeAsync(1)
    expect(told[0]).toContain('There is no reel r. What is recorded is kept in this browser')
    next = [Response.json({ code: 'REEL_MISSING', message: 'There is no reel r.' }, { status: 404 })]
    await expect(sender.end('')).rejects.toThrow('There is no reel r.')
  })
})

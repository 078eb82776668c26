import { changeSchema, type Change, type Committed, type ReelState } from '@yodel/core'
import type { Answer } from './syncMachine.js'
import type { Logged, Task } from './syncState.js'

/** A server that doesn't answer, or only through a proxy that says so. */
const AWAY = new Set([502, 503, 504])
const DISK_FULL = 507

/** The reel could not be fetched. `away` says that it is worth trying again. */
export class FetchFailed extends Error {
  constructor(
    message: string,
    readonly away: boolean,
  ) {
    super(message)
    this.name = 'FetchFailed'
  }
}

const NO_ANSWER =
  'The server does not answer. This page tries again by itself; what you did last is kept in this browser.'

/** Asks for JSON. @throws FetchFailed with the server's own words where it has any */
async function ask<T>(url: string, signal: AbortSignal): Promise<T> {
  const response = await fetch(url, { signal }).catch((error: unknown) => {
    throw signal.aborted ? error : new FetchFailed(NO_ANSWER, true)
  })
  const body = (await response.json().catch(() => null)) as (T & { message?: string }) | null
  if (response.ok && body !== null) return body
  const away = response.ok || AWAY.has(response.status)
  throw new FetchFailed(away ? NO_ANSWER : (body?.message ?? `The server answered ${response.status}.`), away)
}

/** The reel as the server has it. @throws FetchFailed */
export const fetchReel = (reelId: string, signal: AbortSignal): Promise<ReelState> =>
  ask(`/api/reels/${reelId}`, signal)

/** What the log has got after a number. @throws FetchFailed */
export const fetchSince = (reelId: string, since: number, signal: AbortSignal): Promise<Logged[]> =>
  ask(`/api/reels/${reelId}/changes?since=${since}`, signal)

/** The body of a change of the log; null when it can't be had. */
export async function fetchBody(reelId: string, seq: number, signal: AbortSignal): Promise<Change | null> {
  const body = await ask<unknown>(`/api/reels/${reelId}/changes/${seq}`, signal).catch(() => null)
  const change = changeSchema.safeParse(body)
  return change.success ? change.data : null
}

/** Catches up with the log. */
export async function catchUp(reelId: string, since: number, signal: AbortSignal): Promise<Answer> {
  try {
    return { kind: 'caughtUp', changes: await fetchSince(reelId, since, signal) }
  } catch (error) {
    if (signal.aborted) throw error
    return { kind: error instanceof FetchFailed && !error.away ? 'missing' : 'away' }
  }
}

/** Sends a change and says what came of it: written, in conflict, refused, or to be tried again. */
export async function sendChange(
  reelId: string,
  { item, base, target }: Extract<Task, { kind: 'send' }>,
  signal: AbortSignal,
): Promise<Answer> {
  const { changeId, role, change } = item
  const response = await fetch(`/api/reels/${reelId}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ changeId, base, role, target, change }),
    signal,
  }).catch((error: unknown) => {
    if (signal.aborted) throw error
    return null
  })
  if (!response) return { kind: 'away' }
  return readAnswer(response.status, await response.json().catch(() => null))
}

interface Refused {
  readonly code?: string
  readonly message?: string
  readonly details?: { readonly missed?: readonly Logged[] }
}

/** What an answer to a sent change means. @param body - As JSON; null where it could not be read. */
export function readAnswer(status: number, body: unknown): Answer {
  if (AWAY.has(status)) return { kind: 'away' }
  if (status === DISK_FULL) return { kind: 'full' }
  if (status >= 200 && status < 300) {
    // Written, or cut short on the way: sending it again tells which.
    if (body === null) return { kind: 'away' }
    const { seq, missed } = body as Committed
    return { kind: 'committed', seq, missed, at: new Date().toISOString() }
  }
  const { code, message, details } = (body ?? {}) as Refused
  const why = message ?? `The server answered ${status}.`
  if (status === 409) return { kind: 'conflict', missed: details?.missed ?? [], why }
  if (code === 'REEL_MISSING') return { kind: 'missing' }
  return { kind: 'refused', why }
}

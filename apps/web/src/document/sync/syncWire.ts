import { changeSchema, type Change, type Committed, type ReelState } from '@yodel/core'
import type { Answer } from './syncMachine.js'
import type { Logged, Task } from './syncState.js'

/** A server that doesn't answer, or only through a proxy that says so. */
const AWAY = new Set([502, 503, 504])
const DISK_FULL = 507

/** How long an answer may take. A server that takes longer counts as away; what was sent is sent again, which is harmless. */
const ANSWER_MS = 60_000

/** Why something could not be fetched: nobody answers, there is no such reel, or the server answers with an error. */
export type Failure = 'away' | 'missing' | 'failed'

/** Something of a reel could not be fetched. */
export class FetchFailed extends Error {
  constructor(
    message: string,
    readonly kind: Failure,
  ) {
    super(message)
    this.name = 'FetchFailed'
  }
}

const inTime = (signal: AbortSignal, ms: number): AbortSignal =>
  AbortSignal.any([signal, AbortSignal.timeout(ms)])

const NO_ANSWER =
  'The server does not answer. This page tries again by itself; what you did last is kept in this browser.'

/** Asks for JSON. @throws FetchFailed with the server's own words where it has any */
async function ask<T>(url: string, signal: AbortSignal): Promise<T> {
  const response = await fetch(url, { signal: inTime(signal, ANSWER_MS) }).catch((error: unknown) => {
    throw signal.aborted ? error : new FetchFailed(NO_ANSWER, 'away')
  })
  const body = (await response.json().catch(() => null)) as (T & Refused) | null
  if (response.ok && body !== null) return body
  if (response.ok || AWAY.has(response.status)) throw new FetchFailed(NO_ANSWER, 'away')
  const kind = body?.code === 'REEL_MISSING' ? 'missing' : 'failed'
  throw new FetchFailed(body?.message ?? `The server answered ${response.status}.`, kind)
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

/** Catches up with the log. An error of the server's own is tried again like its silence: the page can't go on without. */
export async function catchUp(reelId: string, since: number, signal: AbortSignal): Promise<Answer> {
  try {
    return { kind: 'caughtUp', changes: await fetchSince(reelId, since, signal) }
  } catch (error) {
    if (signal.aborted) throw error
    return { kind: error instanceof FetchFailed && error.kind === 'missing' ? 'missing' : 'away' }
  }
}

/**
 * Sends a change and says what came of it: written, in conflict, refused, or to be tried again.
 *
 * @param ms - How long the answer may take.
 */
export async function sendChange(
  reelId: string,
  { item, base, target }: Extract<Task, { kind: 'send' }>,
  signal: AbortSignal,
  ms = ANSWER_MS,
): Promise<Answer> {
  const { changeId, role, change } = item
  const response = await fetch(`/api/reels/${reelId}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ changeId, base, role, target, change }),
    signal: inTime(signal, ms),
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

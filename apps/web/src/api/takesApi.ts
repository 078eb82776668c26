import type { OpenTake, Sound, TakeAbout, TakeEnd } from '@yodel/core'

/** Nobody answers, a proxy says that nobody does, or the disk is full: what was sent is sent again. */
const AGAIN = new Set([502, 503, 504, 507])
const ANSWER_MS = 60_000

/** The server did not take something of a take. */
export class TakeRefused extends Error {
  constructor(
    message: string,
    /** The server's code; empty where nobody answered. */
    readonly code: string,
    /** It may be taken when it is sent again. */
    readonly passing: boolean,
    /** Samples that the server has, where samples are missing. */
    readonly length: number | null = null,
  ) {
    super(message)
    this.name = 'TakeRefused'
  }
}

async function ask<T>(url: string, init: RequestInit): Promise<T> {
  const answer = await fetch(url, { ...init, signal: AbortSignal.timeout(ANSWER_MS) }).catch(() => {
    throw new TakeRefused('The server does not answer.', '', true)
  })
  const body = (await answer.json().catch(() => null)) as unknown
  if (answer.ok) return body as T
  const {
    code = '',
    message,
    details,
  } = (body ?? {}) as {
    code?: string
    message?: string
    details?: { length?: number }
  }
  throw new TakeRefused(
    message ?? `The server answered ${answer.status}.`,
    code,
    AGAIN.has(answer.status),
    details?.length ?? null,
  )
}

const json = (body: object): RequestInit => ({
  ...{ method: 'POST', body: JSON.stringify(body) },
  headers: { 'content-type': 'application/json' },
})

/** Begins a take on the server. @throws TakeRefused */
export const beginTake = (about: TakeAbout): Promise<void> => ask('/api/takes', json(about))

/** Sends samples of a take. @param from - Number of the first sample of each channel @returns Samples that the server has now @throws TakeRefused */
export const sendSamples = (
  id: string,
  from: number,
  samples: Float32Array<ArrayBuffer>,
): Promise<{ length: number }> =>
  ask(`/api/takes/${id}/samples?from=${from}`, {
    ...{ method: 'POST', body: samples },
    headers: { 'content-type': 'application/octet-stream' },
  })

/** Makes a take a recording. @throws TakeRefused */
export const endTake = (id: string, end: TakeEnd): Promise<Sound> => ask(`/api/takes/${id}/end`, json(end))

/** Says that a take is where it belongs. @throws TakeRefused */
export const forgetTake = (id: string): Promise<void> => ask(`/api/takes/${id}`, { method: 'DELETE' })

/** The takes of a reel that the server has and that have not come onto their cues. @throws TakeRefused */
export const openTakes = (reelId: string): Promise<OpenTake[]> => ask(`/api/reels/${reelId}/takes`, {})

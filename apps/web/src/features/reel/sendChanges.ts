import type { Committed, ReelState } from '@yodel/core'
import { apply } from '@yodel/core'
import { isAnyOf } from '@reduxjs/toolkit'
import { del, get, set } from 'idb-keyval'
import { listeners, type AppDispatch, type RootState } from '../../app/store.js'
import { documentActions, type Pending } from './documentSlice.js'
import { viewActions } from './viewSlice.js'

/** What of a reel waits in the browser, so that neither a reload nor a server that is away loses it. */
interface Waiting {
  readonly seq: number
  readonly pending: readonly Pending[]
}

const keyOf = (reelId: string): string => `waiting:${reelId}`
const RETRY_MS = [300, 1000, 2000, 4000]

type Answer =
  { kind: 'ok'; value: Committed } | { kind: 'conflict' | 'refused'; message: string } | { kind: 'away' }

async function post(reelId: string, base: number, item: Pending, target: number | null): Promise<Answer> {
  try {
    const body = JSON.stringify({
      changeId: item.changeId,
      base,
      role: item.role,
      target,
      change: item.change,
    })
    const response = await fetch(`/api/reels/${reelId}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body,
    })
    const answer = (await response.json()) as Committed & { message: string }
    if (response.ok) return { kind: 'ok', value: answer }
    if (response.status >= 500) return { kind: 'away' }
    return { kind: response.status === 409 ? 'conflict' : 'refused', message: answer.message }
  } catch {
    return { kind: 'away' }
  }
}

/** Sends what waited from an earlier visit, then opens the reel. @throws Error with the server's message */
export async function openReel(reelId: string, dispatch: AppDispatch): Promise<void> {
  const waiting = await get<Waiting>(keyOf(reelId)).catch(() => undefined)
  const lost: string[] = []
  const numbers = new Map<string, number>()
  let base = waiting?.seq ?? 0
  for (const item of waiting?.pending ?? []) {
    const target = item.of ? (item.of.seq ?? numbers.get(item.of.changeId ?? '') ?? null) : null
    const answer = await post(reelId, base, item, target)
    if (answer.kind === 'away')
      throw new Error(
        'The server does not answer. What you did last is kept in this browser and will be sent.',
      )
    if (answer.kind === 'ok') {
      numbers.set(item.changeId, answer.value.seq)
      base = answer.value.seq
    } else lost.push(`${item.change.label}: ${answer.message}`)
  }
  const response = await fetch(`/api/reels/${reelId}`)
  const state = (await response.json()) as ReelState & { message: string }
  if (!response.ok) throw new Error(state.message)
  await del(keyOf(reelId)).catch(() => undefined)
  dispatch(documentActions.opened({ reelId, state }))
  for (const text of lost)
    dispatch(viewActions.notify({ tone: 'problem', text: `Could not be kept: ${text}` }))
}

let sending = false

/** Sends pending changes one after the other until none is left. */
async function drain(dispatch: AppDispatch, getState: () => RootState): Promise<void> {
  if (sending) return
  sending = true
  try {
    for (let failures = 0; ;) {
      const { reelId, pending, seq } = getState().document
      const item = pending[0]
      if (!reelId || !item) return
      const answer = await post(reelId, seq, item, item.of?.seq ?? null)
      if (getState().document.reelId !== reelId) return
      if (answer.kind === 'ok') {
        failures = 0
        dispatch(
          documentActions.acknowledged({
            changeId: item.changeId,
            ...answer.value,
            at: new Date().toISOString(),
          }),
        )
      } else if (answer.kind === 'away') {
        dispatch(documentActions.serverAway())
        await new Promise((resolve) =>
          setTimeout(resolve, RETRY_MS[Math.min(failures++, RETRY_MS.length - 1)]),
        )
      } else {
        await startOver(reelId, item, answer.message, dispatch, getState)
      }
    }
  } finally {
    sending = false
  }
}

/** Takes the reel as the server has it and does again what still fits; says what does not. */
async function startOver(
  reelId: string,
  refused: Pending,
  message: string,
  dispatch: AppDispatch,
  getState: () => RootState,
): Promise<void> {
  const rest = getState().document.pending.filter((item) => item.changeId !== refused.changeId)
  const response = await fetch(`/api/reels/${reelId}`).catch(() => null)
  if (!response?.ok) return dispatch(documentActions.serverAway()) as unknown as void
  dispatch(documentActions.opened({ reelId, state: (await response.json()) as ReelState }))
  dispatch(
    viewActions.notify({ tone: 'problem', text: `“${refused.change.label}” was not kept. ${message}` }),
  )
  for (const item of rest) {
    if (apply(getState().document.doc, item.change).ok)
      dispatch(documentActions.done({ changeId: item.changeId, change: item.change }))
    else
      dispatch(
        viewActions.notify({
          tone: 'problem',
          text: `“${item.change.label}” was not kept either, since it built on it.`,
        }),
      )
  }
}

/** Starts the listeners that keep pending changes on disk and send them. */
export function startSending(): void {
  listeners.startListening({
    matcher: isAnyOf(documentActions.done, documentActions.turned, documentActions.acknowledged),
    effect: async (_, { dispatch, getState }) => {
      const { reelId, pending, seq } = (getState() as RootState).document
      if (!reelId) return
      // On disk first: from here on a crash of the browser loses nothing.
      const kept =
        pending.length > 0 ? set(keyOf(reelId), { seq, pending } satisfies Waiting) : del(keyOf(reelId))
      void kept.catch(() => undefined)
      if (pending.length > 0) await drain(dispatch as AppDispatch, getState as () => RootState)
    },
  })
}

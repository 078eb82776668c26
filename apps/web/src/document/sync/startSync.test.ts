import { cuesInOrder, expectOk, spotCue } from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { settle } from '../../test/stage.js'
import { documentActions } from '../documentSlice.js'
import { edit, turn } from '../edit.js'
import { editReel } from '../editReel.js'
import { makeStore, type AppStore } from '../store.js'
import { ModelLog } from './test/ModelLog.js'
import { startSync } from './startSync.js'
import type { Task } from './syncState.js'
import type { Found, Queue, WaitingStore } from './WaitingStore.js'

/** A browser's database that can be full, with what pages that have gone left in it. */
class Disk implements Pick<WaitingStore, 'hold' | 'leftBehind' | 'put'> {
  own: Queue | null = null
  left: Found[] = []
  full = false
  async hold(): Promise<void> {}
  async leftBehind(): Promise<Found[]> {
    return this.left
  }
  async put(_: string, queue: Queue, takenOver: readonly string[] = []): Promise<void> {
    if (this.full) throw new Error('QuotaExceededError')
    this.own = queue.pending.length + queue.aside.length > 0 ? queue : null
    this.left = this.left.filter(({ key }) => !takenOver.includes(key))
  }
}

let log: ModelLog
let store: AppStore
let disk: Disk
let told: string[]
let end: () => void
/** Requests in order; and what stands in their way. */
let asked: string[]
let away = false
let poison: (changeId: string) => boolean
const { fetch } = globalThis

async function serve(input: unknown, init?: RequestInit): Promise<Response> {
  const url = String(input)
  asked.push(`${init?.method ?? 'GET'} ${url}`)
  await Promise.resolve()
  if (away) throw new TypeError('fetch failed')
  if (url.includes('/gone'))
    return Response.json({ code: 'REEL_MISSING', message: 'There is no reel gone.' }, { status: 404 })
  if (init?.method === 'POST') {
    const body = JSON.parse(String(init.body)) as Record<string, unknown>
    const task = { item: body, base: body['base'], target: body['target'] } as unknown as Extract<
      Task,
      { kind: 'send' }
    >
    const answer = log.commit('Ines', task)
    if (answer.kind === 'committed') return Response.json(answer)
    if (answer.kind === 'conflict')
      return Response.json({ message: answer.why, details: { missed: answer.missed } }, { status: 409 })
    return Response.json({ code: 'INTERNAL', message: 'An error of its own.' }, { status: 500 })
  }
  const since = /since=(\d+)/.exec(url)?.[1]
  if (since !== undefined) return Response.json(log.since(Number(since)))
  const seq = /changes\/(\d+)/.exec(url)?.[1]
  if (seq !== undefined) return Response.json(log.entries[Number(seq) - 1]?.change)
  return Response.json(log.open('Ines'))
}

beforeEach(() => {
  poison = () => false
  log = new ModelLog((changeId) => poison(changeId))
  disk = new Disk()
  told = []
  asked = []
  away = false
  globalThis.fetch = serve
  store = makeStore()
  end = startSync({
    ...{ state: () => store.getState().document, subscribe: store.subscribe, dispatch: store.dispatch },
    ...{ actions: documentActions, tell: ({ text }) => told.push(text), disk },
  })
})
afterEach(() => {
  end()
  globalThis.fetch = fetch
})

const state = () => store.getState().document
const until = async (holds: () => boolean, what: string): Promise<void> => {
  for (let tries = 0; tries < 400; tries++) {
    if (holds()) return
    await new Promise((resolve) => setTimeout(resolve, 5))
  }
  throw new Error(`never came: ${what}`)
}
const opened = async (): Promise<void> => {
  store.dispatch(documentActions.open({ reelId: 'r' }))
  await until(() => state().phase === 'open', 'the reel')
}
const saved = (): Promise<void> =>
  until(() => state().phase === 'open' && state().pending.length === 0, 'all saved')
const spot = (id: string, at = 10): boolean =>
  store.dispatch(edit((doc) => spotCue(doc, { id, category: 'FX', in: at, out: at + 5 })))
const logged = (): string[] => log.entries.slice(1).map((entry) => entry.change.label)

describe('a reel that is kept in step', () => {
  it('is opened, edited and saved', async () => {
    await opened()
    spot('a')
    spot('b', 50)
    await saved()
    expect([logged(), state().settled.seq, disk.own]).toEqual([['Spot FX 001', 'Spot FX 002'], 3, null])
  })

  it('waits on disk while the server is away, and is sent when it is back', async () => {
    await opened()
    away = true
    spot('a')
    await until(() => state().server === 'away' && state().disk === 'kept', 'away')
    expect(disk.own?.pending).toHaveLength(1)
    away = false
    await saved()
    expect([logged(), disk.own]).toEqual([['Spot FX 001'], null])
  })

  it('says when the browser can’t keep it, and keeps sending', async () => {
    await opened()
    disk.full = true
    away = true
    spot('a')
    await until(() => state().disk === 'failed', 'the failure')
    away = false
    await saved()
    expect(logged()).toEqual(['Spot FX 001'])
  })

  it('goes on past a change that can never be stored', async () => {
    await opened()
    let bad = true
    poison = () => bad && !(bad = false)
    spot('bad')
    spot('good', 50)
    await saved()
    expect(logged()).toEqual(['Spot FX 002'])
    expect(told[0]).toMatch(/“Spot FX 001” could not be saved\. An error of its own\./)
    await until(() => disk.own?.aside.length === 1, 'what was set aside, on disk')
  })

  it('takes over what a page that has gone left, and throws its queue away once it is its own', async () => {
    const change = expectOk(spotCue(log.doc, { id: 'left', category: 'FX', in: 1, out: 2 }))
    const pending = [{ changeId: 'left', role: 'do' as const, of: null, change }]
    disk.left = [{ key: 'waiting:r:gone', own: false, seq: 1, pending, aside: [] }]
    await opened()
    await saved()
    await until(() => disk.left.length === 0, 'the old queue gone')
    expect(logged()).toEqual(['Spot FX 001'])
  })

  it('undoes what was done before it was opened, with the body from the log', async () => {
    await opened()
    spot('a')
    await saved()
    store.dispatch(documentActions.close())
    await opened()
    store.dispatch(turn('undo'))
    await until(() => cuesInOrder(state().doc).length === 0, 'the undo')
    await saved()
    expect(log.entries.at(-1)).toMatchObject({ role: 'undo', target: 2 })
  })

  it('asks for a reel that is not there once, and not again and again', async () => {
    store.dispatch(documentActions.open({ reelId: 'gone' }))
    await until(() => state().problem !== null, 'the problem')
    await new Promise((resolve) => setTimeout(resolve, 100))
    expect([asked.length, state().problem]).toEqual([1, 'There is no reel gone.'])
  })

  it('takes nothing of a reel that was left while it was being fetched', async () => {
    store.dispatch(documentActions.open({ reelId: 'r' }))
    store.dispatch(documentActions.close())
    await settle()
    await settle()
    expect(state()).toMatchObject({ phase: 'closed', reelId: null })
  })
})

describe('an edit that was begun for another reel', () => {
  const begun = (reelId: string, id: string) =>
    store.dispatch(
      editReel(reelId, 'quay.mp4 for Reel 1', (doc) => spotCue(doc, { id, category: 'FX', in: 10, out: 15 })),
    )
  it('is sent there where that is not open, and is one’s own where it is', async () => {
    expect([await begun('r', 'a'), logged(), cuesInOrder(state().doc)]).toEqual([true, ['Spot FX 001'], []])
    await opened()
    expect(await begun('r', 'b')).toBe(true)
    await saved()
    expect(cuesInOrder(state().doc).map(({ id }) => id)).toEqual(['a', 'b'])
    store.dispatch(turn('undo'))
    await until(() => cuesInOrder(state().doc).length === 1, 'undo')
  })
  it('says what was not done, and why, where it can’t be', async () => {
    await opened()
    expect(await begun('gone', 'a')).toBe(false)
    expect(store.getState().view.notices.map(({ text }) => text)).toEqual([
      'quay.mp4 for Reel 1: nothing was changed. There is no reel gone.',
    ])
    expect([logged(), cuesInOrder(state().doc)]).toEqual([[], []])
  })
})

// Many at once: twenty pages open one crowded reel, and twenty people type a word each, ten letters, of which they wait for the last.
import { openDatabase } from '../../apps/server/src/db/dataSource.js'
import { refreshTerms } from '../../apps/server/src/search/expandWords.js'
import { realServer } from '../../e2e/support/server.js'
import { documentOf, type ReelState } from '@yodel/core'
import { crowded } from './crowd.js'
import { fillLibrary, seededRandom, vocabulary } from './library.js'
import { percentile, report } from './report.js'

const PEOPLE = 20
const ROUNDS = 5
const SOUNDS = Number(process.env['YODEL_BENCH_SOUNDS'] ?? 200_000)
/** Milliseconds between two letters of somebody who types quickly. */
const LETTER_MS = 90

const server = await realServer({ demo: false })
const db = await openDatabase(server.databaseUrl)
await fillLibrary(db, SOUNDS, () => undefined)
await refreshTerms(db)
await db.destroy()

const post = async <T>(url: string, body: object): Promise<T> =>
  (await (
    await fetch(server.url + url, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
  ).json()) as T

/** Milliseconds until a whole answer is there. */
async function waitFor(url: string, signal?: AbortSignal): Promise<number> {
  const begun = performance.now()
  const answer = await fetch(server.url + url, signal ? { signal } : {})
  await answer.arrayBuffer()
  if (!answer.ok) throw new Error(`${url}: ${answer.status}`)
  return performance.now() - begun
}

const facts = { showId: null, showName: 'Rush', name: 'Reel', rate: '24', firstTimecode: '01:00:00:00' }
const { id } = await post<{ id: string }>('/api/reels', { ...facts, lengthSeconds: 1200 })
const state = (await (await fetch(`${server.url}/api/reels/${id}`)).json()) as ReelState
const noise = Array.from({ length: 12 }, (_, at) => ({ id: `s${at}`, name: `Noise ${at}`, length: 96_000 }))
const added = crowded(documentOf(state.records), noise as never)
const change = { label: 'Crowd', added, updated: [], removed: [] }
await post(`/api/reels/${id}/changes`, {
  changeId: crypto.randomUUID(),
  base: 1,
  role: 'do',
  target: null,
  change,
})

const opened: number[] = []
for (let round = 0; round < ROUNDS; round++) {
  // Somebody works between, so that nothing can be left from the round before.
  const cue = added.find((record) => record.kind === 'cue')!
  const words = (to: string): object => ({ ...cue, words: to })
  const [before, after] = [
    words(round === 0 ? (cue as { words: string }).words : `round ${round - 1}`),
    words(`round ${round}`),
  ]
  const edit = { label: 'Edit', added: [], updated: [[before, after]], removed: [] }
  await post(`/api/reels/${id}/changes`, {
    ...{ changeId: crypto.randomUUID(), base: 2 + round, role: 'do', target: null },
    change: edit,
  })
  opened.push(...(await Promise.all(Array.from({ length: PEOPLE }, () => waitFor(`/api/reels/${id}`)))))
}
report({
  name: 'rush.open',
  value: percentile(opened, 0.95),
  unit: 'ms, 95th of 20 pages that open one crowded reel at once',
})

const random = seededRandom(5)
const words = vocabulary().common.filter((word) => word.length >= 6)
const typed: number[] = []
async function type(): Promise<void> {
  const word = words[Math.floor(random() * words.length)] as string
  const text = `${word} ${words[Math.floor(random() * words.length)] as string}`.slice(0, 10)
  let last: AbortController | null = null
  for (let letters = 1; letters <= text.length; letters++) {
    last?.abort()
    last = new AbortController()
    const answer = waitFor(`/api/sounds?q=${encodeURIComponent(text.slice(0, letters))}`, last.signal)
    if (letters === text.length) typed.push(await answer)
    else answer.catch(() => undefined)
    await new Promise((resolve) => setTimeout(resolve, LETTER_MS))
  }
}
for (let round = 0; round < ROUNDS; round++) await Promise.all(Array.from({ length: PEOPLE }, type))
report({
  name: 'rush.type',
  value: percentile(typed, 0.95),
  unit: 'ms, 95th of 20 people who type at once, after their last letter',
})
await server.close()

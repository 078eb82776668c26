// Searching a million sounds while typing: 300 mixed queries on the server, the first row in the browser, sounds alike by ear.
import { openDatabase } from '../../apps/server/src/db/dataSource.js'
import { answerSearch } from '../../apps/server/src/search/answerSearch.js'
import { countFacets } from '../../apps/server/src/search/countFacets.js'
import { refreshTerms } from '../../apps/server/src/search/expandWords.js'
import { refreshCells, similarSounds, writeLikeness } from '../../apps/server/src/sounds/similarSounds.js'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { fillLibrary, seededRandom, vocabulary } from './library.js'
import { percentile, report } from './report.js'

const SOUNDS = Number(process.env['YODEL_BENCH_SOUNDS'] ?? 1_000_000)
const say = (line: string): void => void (process.env['YODEL_BENCH_SAY'] && console.error(line))

const random = seededRandom(3)
const pick = <T>(items: readonly T[]): T => items[Math.floor(random() * items.length)] as T
const server = await realServer({ demo: false })
const db = await openDatabase(server.databaseUrl)
await fillLibrary(db, SOUNDS, say)
await refreshTerms(db)
await fillLikeness()
say('cells')
await refreshCells(db, new AbortController().signal)

const { common, rare } = vocabulary()
const head = common.slice(0, 60)
type Asked = { text: string; sort?: 'weight' | 'length' | 'brightness'; cursor?: string; facets?: boolean }
const misspelt = (word: string): string => word.slice(0, 2) + word.slice(3)
const KINDS: Readonly<Record<string, () => Asked>> = {
  'common prefix': () => ({ text: pick(head).slice(0, 1 + Math.floor(random() * 3)) }),
  'one word': () => ({ text: pick(head) }),
  'two words': () => ({ text: `${pick(head)} ${pick(head).slice(0, 4)}` }),
  'three words': () => ({ text: `${pick(head)} ${pick(head)} ${pick(common)}` }),
  'rare': () => ({ text: pick(rare.slice(0, 2000)) }),
  'misspelt': () => ({ text: misspelt(pick(common.filter((word) => word.length > 5))) }),
  'synonym': () => ({
    text: pick([
      'automobile',
      'footfall',
      'downpour',
      'shriek',
      'phone',
      'lluvia',
      'voiture',
      'schritte',
      'porte',
      'regen',
    ]),
  }),
  'filtered': () => ({ text: `${pick(head)} channels:stereo length<3` }),
  'by quality': () => ({ text: pick(head), sort: pick(['weight', 'length', 'brightness'] as const) }),
  'browse deep': () => ({
    text: '',
    cursor: Buffer.from(JSON.stringify({ v: `${pick(common)} ${pick(common)}`, id: '8' })).toString(
      'base64url',
    ),
  }),
  'facets': () => ({ text: pick(head), facets: true }),
  'phrase': () => ({ text: `"${pick(common.slice(0, 30))} ${pick(common.slice(0, 30))}"` }),
}
const scope = { shelves: null, kit: null, showId: null, now: new Date() }
const ask = async ({ text, sort, cursor, facets }: Asked): Promise<number> => {
  const begun = performance.now()
  if (facets) await countFacets(db, text, scope)
  else
    await answerSearch(db, {
      text,
      scope,
      sort: sort ?? 'match',
      down: true,
      beyond: null,
      cursor: cursor ?? null,
    })
  return performance.now() - begun
}
const perKind = 300 / Object.keys(KINDS).length
const asked = Object.entries(KINDS).flatMap(([kind, make]) =>
  Array.from({ length: perKind }, () => ({ kind, asked: make() })),
)
for (const { asked: one } of asked) await ask(one)
const times = new Map<string, number[]>()
for (const { kind, asked: one } of asked.sort(() => random() - 0.5))
  times.set(kind, [...(times.get(kind) ?? []), await ask(one)])
for (const [kind, list] of times)
  say(`${kind}: p50 ${percentile(list, 0.5).toFixed(0)} p95 ${percentile(list, 0.95).toFixed(0)} ms`)
const all = [...times.values()].flat()
report({ name: 'search.p50', value: percentile(all, 0.5), unit: 'ms' })
report({ name: 'search.p95', value: percentile(all, 0.95), unit: 'ms, 300 mixed queries' })

const ids = ((await db.query('SELECT id FROM sound ORDER BY seq LIMIT 4000')) as { id: string }[]).map(
  (row) => row.id,
)
const likenessTimes: number[] = []
for (let i = 0; i < 120; i++) {
  const begun = performance.now()
  await similarSounds(db, pick(ids), '', scope)
  if (i >= 20) likenessTimes.push(performance.now() - begun)
}
report({ name: 'similar.p95', value: percentile(likenessTimes, 0.95), unit: 'ms' })
const exact = await recallOfSimilar(ids.slice(0, 20))
report({ name: 'similar.recall-at-20', value: 100 * exact, unit: '%', peer: 'every sound compared' })

const browser = await launch()
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(`${server.url}/sounds`)
await page.waitForSelector('[data-sound]')
const firsts: number[] = []
for (let i = 0; i < 40; i++) {
  const word = pick(head)
  await page.fill('[data-search]', '')
  await page.waitForTimeout(400)
  await page.fill('[data-search]', word.slice(0, -1))
  await page.waitForTimeout(400)
  firsts.push(
    await page.evaluate(async (last) => {
      const field = document.querySelector<HTMLInputElement>('[data-search]') as HTMLInputElement
      const list = document.querySelector('[role="listbox"]') as HTMLElement
      const begun = performance.now()
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(
        field,
        field.value + last,
      )
      field.dispatchEvent(new Event('input', { bubbles: true }))
      while (performance.now() - begun < 3000) {
        await new Promise(requestAnimationFrame)
        // What a refresh sees was painted by the one before it.
        if (list.dataset['shown'] === field.value) return performance.now() - begun
      }
      return 3000
    }, word.slice(-1)),
  )
}
report({
  name: 'search.first-p50',
  value: percentile(firsts, 0.5),
  unit: 'ms from the key to the first row, half of them',
})
report({
  name: 'search.first',
  value: percentile(firsts, 0.95),
  unit: 'ms from the key to the first row, 95th',
})
await browser.close()
await db.destroy()
await server.close()

/** Made-up numbers to compare by: a few thousand kinds of sound, each with many variations. */
async function fillLikeness(): Promise<void> {
  const kinds = Array.from({ length: 3000 }, () => Array.from({ length: 16 }, () => random()))
  const rows = (await db.query('SELECT id FROM sound')) as { id: string }[]
  for (let at = 0; at < rows.length; at += 5000)
    await writeLikeness(
      db,
      rows.slice(at, at + 5000).map(({ id }) => ({
        id,
        likeness: pick(kinds).map((value) => Math.max(0, Math.min(1, value + (random() - 0.5) * 0.2))),
      })),
    )
}

async function recallOfSimilar(samples: readonly string[]): Promise<number> {
  let met = 0
  for (const id of samples) {
    const near = (await similarSounds(db, id, '', scope)).slice(0, 20)
    const truth = (await db.query(
      'SELECT l.sound_id AS id FROM likeness l, (SELECT at FROM likeness WHERE sound_id = $1) w WHERE l.sound_id <> $1 ORDER BY l.at <-> w.at, l.sound_id LIMIT 20',
      [id],
    )) as { id: string }[]
    met += truth.filter((row) => near.includes(row.id)).length / 20
  }
  return met / samples.length
}

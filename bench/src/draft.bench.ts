// Drafts of the demo's two reels, all their sounds taken out: how many first choices are right, and how many have a right one
// among the first five, by marks made before anything was ranked. Every other mark is held back: look at those at the very end only
// (YODEL_BENCH_HELD=1). And how long a draft of 500 cues takes, and what it does to the hands meanwhile.
import { documentOf, expectOk, frames, spotCue, type ReelState } from '@yodel/core'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { draftAll, type Ask } from './draftAll.js'
import { MARKS } from './draftMarks.js'
import { percentile, report } from './report.js'

const CROWD = 500

const server = await realServer({ demo: true })
const ask: Ask = async (url) => (await fetch(server.url + url)).json() as never

/** Drafts a reel of many cues in the browser while its first choice goes round. @returns Seconds it took, and milliseconds between refreshes meanwhile */
async function draftCrowd(): Promise<{ took: number; gaps: number[] }> {
  const send = (url: string, body: object): Promise<Response> =>
    fetch(server.url + url, {
      ...{ method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) },
    })
  const made = { showId: null, showName: 'Crowd', name: 'Reel 1', rate: '24', lengthSeconds: 1300 }
  const answer = await send('/api/reels', { ...made, firstTimecode: '01:00:00:00' })
  const { id } = (await answer.json()) as { id: string }
  const { seq, records } = await ask<ReelState>(`/api/reels/${id}`)
  const words = Object.values(MARKS).flatMap((marks) => marks.map((mark) => mark.words))
  const spotted = expectOk(spotCue(documentOf(records), { id: 'x', category: 'FX', in: 0, out: 24 }))
  const added = Array.from({ length: CROWD }, (_, index) => {
    const at = index * 60
    const span = { in: frames(at), out: frames(at + 40), sync: frames(at) }
    return {
      ...spotted.added[0],
      ...span,
      id: `q${index}`,
      number: index + 1,
      words: words[index % words.length],
    }
  })
  const change = { label: 'Crowd', added, updated: [], removed: [] }
  const sent = { changeId: crypto.randomUUID(), base: seq, role: 'do', target: null, change }
  const kept = await send(`/api/reels/${id}/changes`, sent)
  if (!kept.ok) throw new Error(`the crowd was not taken: ${await kept.text()}`)
  const browser = await launch()
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${server.url}/reels/${id}`)
  await page.locator('[data-cue]').first().waitFor()
  await page.waitForLoadState('networkidle')
  await page.evaluate(`
    window.gaps = []
    let last = performance.now()
    const tick = (now) => { window.gaps.push(now - last); last = now; requestAnimationFrame(tick) }
    requestAnimationFrame(tick)`)
  const begun = performance.now()
  await page.keyboard.press('Shift+D')
  await page.locator('[data-draft="whole"]').waitFor({ timeout: 300_000 })
  const took = (performance.now() - begun) / 1000
  const gaps = await page.evaluate(() => (window as unknown as { gaps: number[] }).gaps)
  await browser.close()
  return { took, gaps }
}

/** Cues with marks, first choices that are right, right ones among five. */
const halves = { tuned: { all: 0, first: 0, five: 0 }, held: { all: 0, first: 0, five: 0 } }
for (const [reel, marks] of Object.entries(MARKS)) {
  const state = await ask<ReelState>(`/api/reels/${reel}`)
  const empty = documentOf(state.records.filter(({ kind }) => kind !== 'clip' && kind !== 'stack'))
  const drafted = await draftAll(ask, empty)
  for (const [index, { words, right }] of marks.entries()) {
    const half = index % 2 === 0 ? 'tuned' : 'held'
    const ranked = drafted.get(words)
    if (!ranked) throw new Error(`there is no cue “${words}” in ${reel}`)
    const place = ranked.slice(0, 5).findIndex(({ sound }) => right.test(sound.name))
    halves[half].all++
    if (place === 0) halves[half].first++
    if (place >= 0) halves[half].five++
    if (half === 'tuned' && place !== 0)
      console.error(
        `${reel} “${words}”: right is ${place < 0 ? 'not among the first five' : `number ${place + 1}`}; ` +
          ranked
            .slice(0, 3)
            .map(({ sound, sure }) => `${sound.name} ${sure.toFixed(2)}`)
            .join(', '),
      )
  }
}
const { took, gaps } = await draftCrowd()
await server.close()
report({ name: 'draft.crowd', value: took, unit: `s for ${CROWD} cues` })
report({
  name: 'draft.hands',
  value: percentile(gaps, 0.99),
  unit: 'ms between two refreshes meanwhile, p99',
})
for (const half of ['tuned', 'held'] as const) {
  if (half === 'held' && !process.env['YODEL_BENCH_HELD']) continue
  const { all, first, five } = halves[half]
  report({ name: `draft.first-right.${half}`, value: (100 * first) / all, unit: `% of ${all} cues` })
  report({ name: `draft.among-five.${half}`, value: (100 * five) / all, unit: `% of ${all} cues` })
}

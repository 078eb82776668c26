import { documentOf, expectOk, frames, spotCue, type ReelState } from '@yodel/core'
import { launch } from '../../e2e/support/browser.js'
import type { RealServer } from '../../e2e/support/server.js'
import type { Ask } from './draftAll.js'

/** Drafts a reel of many cues in the browser while its first choice goes round. @returns Seconds it took, and milliseconds between refreshes meanwhile */
export async function draftCrowd(
  server: RealServer,
  ask: Ask,
  count: number,
  words: readonly string[],
): Promise<{ took: number; gaps: number[] }> {
  const send = (url: string, body: object): Promise<Response> =>
    fetch(server.url + url, {
      ...{ method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) },
    })
  const made = { showId: null, showName: 'Crowd', name: 'Reel 1', rate: '24', lengthSeconds: 1300 }
  const answer = await send('/api/reels', { ...made, firstTimecode: '01:00:00:00' })
  const { id } = (await answer.json()) as { id: string }
  const { seq, records } = await ask<ReelState>(`/api/reels/${id}`)
  const spotted = expectOk(spotCue(documentOf(records), { id: 'x', category: 'FX', in: 0, out: 24 }))
  const added = Array.from({ length: count }, (_, index) => {
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

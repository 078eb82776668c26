// 30 s of playback at each speed: what sounds, by the audio clock, against the number on the picture at each refresh.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { numberedMovie, openReelWith, teachReading } from './movies.js'
import { percentile, report } from './report.js'

const SECONDS = 30
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-sync-'))
const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
const errors: number[] = []
let stalls = 0
let misses = 0
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await teachReading(page)
await openReelWith(server, page, '24', await numberedMovie(folder, '24', 40))

for (const speed of [1, 0.5, 0.25]) {
  await page.keyboard.press('Home')
  await page.click(`[aria-label="Speed ${speed}"]`)
  await page.click('[aria-label="Play"]')
  await page.waitForTimeout(1500)
  const measured = await page.evaluate(
    async ([seconds, rate]) => {
      const probe = window.yodelProbe
      const found: number[] = []
      let still = 0
      let longest = 0
      let last = -1
      const end = performance.now() + seconds * 1000
      let before = performance.now()
      while (performance.now() < end) {
        const now = await new Promise<number>(requestAnimationFrame)
        const number = window.readNumber()
        // What the last refresh drew is on screen now; what sounds now is asked of the clock.
        const sample = probe.audibleAt(now)
        if (sample === null) return { found, stalls: 99, misses: probe.misses() }
        // The frame is right while the sound is within it: the error is how far outside the sound is.
        const position = sample / 2000
        found.push(position < number ? number - position : Math.max(0, position - (number + 1)))
        still = number === last ? still + now - before : 0
        longest = Math.max(longest, still)
        last = number
        before = now
      }
      return { found, stalls: longest > (2.5 * 1000) / 24 / rate ? 1 : 0, misses: probe.misses() }
    },
    [SECONDS, speed] as const,
  )
  errors.push(...measured.found)
  stalls += measured.stalls
  misses += measured.misses
  report({ name: `sync.p95.${speed}`, value: percentile(measured.found, 0.95), unit: 'frames' })
  await page.click('[aria-label="Stop"]')
}
await browser.close()
await server.close()
rmSync(folder, { recursive: true })
report({ name: 'sync.p95', value: percentile(errors, 0.95), unit: 'frames' })
report({ name: 'sync.stalls', value: stalls, unit: 'count' })
report({ name: 'sync.misses', value: misses, unit: 'blocks' })

// 200 presses of a category key while the reel rolls: how soon the cue is there, and whether it stands on the frame that was on screen.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { ReelState } from '@yodel/core'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { numberedMovie, openReelWith, teachReading } from './movies.js'
import { percentile, report } from './report.js'

const PRESSES = 100
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-spot-'))
const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
const times: number[] = []
let right = 0
let pressed = 0

for (const speed of [1, 0.5]) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await teachReading(page)
  await openReelWith(server, page, '24', await numberedMovie(folder, '24', 90))
  await page.click(`[aria-label="Speed ${speed}"]`)
  // Each press leaves the number on the picture at that moment, and the time until a new cue is in the page.
  await page.evaluate(() => {
    const pressed: { seen: number; took: number }[] = []
    Object.assign(window, { pressed })
    addEventListener(
      'keydown',
      (event) => {
        if (event.key !== '1' || (event.target as HTMLElement).matches('input, textarea')) return
        const begun = performance.now()
        const press = { seen: window.readNumber(), took: -1 }
        const known = new Set(
          [...document.querySelectorAll('[data-cue]')].map((cue) => cue.getAttribute('data-cue')),
        )
        pressed.push(press)
        const observer = new MutationObserver(() => {
          if (
            ![...document.querySelectorAll('[data-cue]')].some(
              (cue) => !known.has(cue.getAttribute('data-cue')),
            )
          )
            return
          observer.disconnect()
          press.took = performance.now() - begun
        })
        observer.observe(document.body, {
          subtree: true,
          childList: true,
          attributes: true,
          attributeFilter: ['data-cue'],
        })
      },
      { capture: true },
    )
  })
  await page.locator('[data-timecode]').press('Space')
  await page.waitForTimeout(1500)
  for (let press = 0; press < PRESSES; press++) {
    await page.keyboard.press('1')
    await page.waitForTimeout(120 + ((press * 37) % 90))
    await page.keyboard.press('Escape')
    await page.waitForTimeout(60)
  }
  await page.locator('[data-timecode]').press('Space')
  await page.waitForSelector('[data-save="saved"]')
  const seen = await page.evaluate(
    () => (window as unknown as { pressed: { seen: number; took: number }[] }).pressed,
  )
  const id = page.url().split('/').at(-1) ?? ''
  const { records } = (await (await fetch(`${server.url}/api/reels/${id}`)).json()) as ReelState
  const cues = records
    .flatMap((record) => (record.kind === 'cue' ? [record] : []))
    .sort((a, b) => a.number - b.number)
  pressed += PRESSES
  right += seen.filter((press, index) => press.seen === cues[index]?.in).length
  times.push(...seen.map((press) => press.took))
  if (seen.length !== PRESSES || cues.length !== PRESSES)
    console.error(`speed ${speed}: ${seen.length} presses, ${cues.length} cues`)
  await page.close()
}
await browser.close()
await server.close()
rmSync(folder, { recursive: true })
report({ name: 'spot.right-frame', value: (100 * right) / pressed, unit: '%' })
report({ name: 'spot.key-to-cue', value: percentile(times, 0.95), unit: 'ms' })

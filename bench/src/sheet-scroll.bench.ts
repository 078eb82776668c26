// A crowded reel (2,000 cues, 30 tracks, 5,000 sounds) in the real page: how soon it can be worked on, and how even its frames are
// while it plays and while the paper and a sound are dragged, at four zooms; and the same with all of 30 and of 12 tracks in sight.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { Page } from 'playwright-core'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { BarePage } from './barePage.js'
import { makeNoises, openCrowd } from './crowd.js'
import { percentile, report } from './report.js'

const ZOOM_STEPS = [-6, 0, 5, 10]
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-scroll-'))
makeNoises(folder)
const server = await realServer({ demo: false, roots: folder })

/** Runs something and returns the times between the page's refreshes while it ran. */
async function frameTimes(page: Page, act: () => Promise<void>): Promise<number[]> {
  await page.evaluate(() => {
    const state = { times: [] as number[], on: true }
    Object.assign(window, { frameState: state })
    let last = performance.now()
    const look = (now: number): void => {
      state.times.push(now - last)
      last = now
      if (state.on) requestAnimationFrame(look)
    }
    requestAnimationFrame(look)
  })
  await act()
  return page.evaluate(() => {
    const { frameState } = window as unknown as { frameState: { times: number[]; on: boolean } }
    frameState.on = false
    return frameState.times.slice(2)
  })
}

const browser = await launch()
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.addInitScript({ content: 'globalThis.__name = (named) => named' })
const id = await openCrowd(server, page, folder)

/** Usable: cues, sounds and timecode are painted. Counted from the beginning of the navigation. */
const USABLE = `new Promise((resolve) => {
  const look = () => {
    const isThere = document.querySelector('[data-cue]') && document.querySelector('[data-clip]')
    if (isThere && document.querySelector('[data-timecode]')?.textContent)
      requestAnimationFrame(() => resolve(performance.now()))
    else requestAnimationFrame(look)
  }
  look()
})`
const opens: number[] = []
// The reel is opened in one tab, not beside another in which it is at work.
await page.goto('about:blank')
const bare = await BarePage.open(browser)
for (let open = 0; open <= 20; open++) {
  await bare.goTo('about:blank')
  await page.waitForTimeout(500)
  await bare.goTo(`${server.url}/reels/${id}`)
  opens.push(await bare.evaluate<number>(USABLE))
}
await bare.close()
await page.goto(`${server.url}/reels/${id}`)
await page.locator('[data-clip]').first().waitFor()

/** Times between refreshes while it plays and while paper and a sound are dragged, at four zooms. */
async function work(what: string): Promise<number[]> {
  const all: number[] = []
  const sheet = await page.locator('[data-sheet]').boundingBox()
  if (!sheet) throw new Error('there is no Sheet')
  await page.waitForTimeout(2000)
  for (const steps of ZOOM_STEPS) {
    for (let step = 0; step < Math.abs(steps); step++) await page.keyboard.press(steps < 0 ? '-' : '+')
    for (const key of ['.']) await page.keyboard.press(key)
    await page.keyboard.insertText('1:10:00:00')
    await page.keyboard.press('Enter')
    await page.waitForTimeout(1500)
    const playing = await frameTimes(page, async () => {
      await page.locator('[data-timecode]').press('Space')
      await page.waitForTimeout(5000)
      await page.locator('[data-timecode]').press('Space')
    })
    const paper = await frameTimes(page, async () => {
      const x = sheet.x + 300
      await page.mouse.move(x, sheet.y + 640)
      await page.mouse.down()
      for (let move = 0; move < 120; move++) await page.mouse.move(x, sheet.y + 640 - move * 4)
      await page.mouse.up()
    })
    const clip = await page.evaluate(
      (right) => {
        const inside = { top: 160, bottom: 700, left: 610, right }
        for (const element of document.querySelectorAll('[data-clip]')) {
          const box = element.getBoundingClientRect()
          const [top, bottom] = [Math.max(box.top + 10, inside.top), Math.min(box.bottom - 10, inside.bottom)]
          if (bottom - top > 4 && box.left > inside.left && box.right < inside.right)
            return { x: box.left + 20, y: (top + bottom) / 2 }
        }
        return null
      },
      sheet.x + sheet.width - 8,
    )
    const sound = clip
      ? await frameTimes(page, async () => {
          await page.mouse.move(clip.x, clip.y)
          await page.mouse.down()
          for (let move = 0; move < 100; move++)
            await page.mouse.move(clip.x, clip.y + Math.sin(move / 12) * 60)
          await page.keyboard.press('Escape')
          await page.mouse.up()
        })
      : []
    console.error(
      `${what}, ${steps}: playing ${percentile(playing, 0.95).toFixed(1)}, paper ${percentile(paper, 0.95).toFixed(1)} of ${paper.length}, sound ${sound.length > 0 ? percentile(sound, 0.95).toFixed(1) : 'none'} of ${sound.length}`,
    )
    for (let step = 0; step < Math.abs(steps); step++) await page.keyboard.press(steps < 0 ? '+' : '-')
    all.push(...playing, ...paper, ...sound)
  }
  return all
}

const plain = await work('30 tracks')
// As wide as thirty of the narrowest columns are.
await page.setViewportSize({ width: 1520, height: 800 })
await page.getByRole('button', { name: 'Hide the pane at the right' }).click()
if (await page.locator('[data-overview]').count()) await page.keyboard.press('v')
await page.keyboard.press('Shift+v')
const thirty = await work('30 tracks, all in sight')
await page.setViewportSize({ width: 1280, height: 800 })
await page.goto(`${server.url}/reels/${await openCrowd(server, page, folder, 12)}`)
await page.waitForSelector('[data-clip]')
await page.keyboard.press('Shift+v')
const twelve = await work('12 tracks, all in sight')
await browser.close()
await server.close()
rmSync(folder, { recursive: true })
const [first = 0, ...again] = opens
report({ name: 'sheet-open', value: percentile(again, 0.95), unit: 'ms' })
report({ name: 'sheet-open.median', value: percentile(again, 0.5), unit: 'ms' })
// That of a browser that has never opened Yodel.
report({ name: 'sheet-open.first', value: first, unit: 'ms' })
report({ name: 'sheet-scroll.p95', value: percentile(plain, 0.95), unit: 'ms' })
report({ name: 'sheet-scroll.fitted-30.p95', value: percentile(thirty, 0.95), unit: 'ms' })
report({ name: 'sheet-scroll.fitted-12.p95', value: percentile(twelve, 0.95), unit: 'ms' })

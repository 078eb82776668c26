import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Page } from 'playwright-core'
import { launch } from './browser.js'
import { realServer } from './server.js'

const folder = fileURLToPath(new URL('../../docs/screenshots', import.meta.url))
const SHEET = '/reels/demo-reel-1'

const keys = async (page: Page, ...acts: string[]): Promise<void> => {
  for (const act of acts) {
    if (act.startsWith('=')) await page.keyboard.insertText(act.slice(1))
    else await page.keyboard.press(act)
    await page.waitForTimeout(120)
  }
}

const VIEWS: { name: string; url: string; night?: boolean; act?: (page: Page) => Promise<void> }[] = [
  { name: 'shows', url: '/' },
  { name: 'sheet', url: SHEET, act: (page) => keys(page, '.', '=1:00:16:12', 'Enter', 'PageDown') },
  { name: 'sheet-night', url: SHEET, night: true, act: (page) => keys(page, '.', '=1:00:58:0', 'Enter') },
  {
    name: 'try',
    url: SHEET,
    act: async (page) => {
      await keys(page, '.', '=1:00:25:10', 'Enter', 'PageDown', '/', '=lever heavy')
      await page.waitForTimeout(800)
      await keys(page, 'ArrowDown', 'ArrowDown', 'Enter')
      await page.waitForTimeout(1200)
    },
  },
  { name: 'whole-reel', url: SHEET, act: (page) => keys(page, ...Array.from({ length: 9 }, () => '-')) },
  { name: 'single-frames', url: SHEET, act: (page) => keys(page, '.', '=1:00:26:00', 'Enter', ...Array.from({ length: 13 }, () => '+')) },
  { name: 'turnover', url: `${SHEET}/turnover` },
  { name: 'shelves', url: '/sounds' },
]

mkdirSync(folder, { recursive: true })
const server = await realServer({ demo: true })
const browser = await launch()
for (const view of VIEWS) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: view.night ? 'dark' : 'light' })
  const page = await context.newPage()
  await page.goto(server.url + view.url)
  if (view.url === SHEET)
    await page.waitForFunction(() => Number((document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] ?? -1) >= 0, null, { timeout: 150_000 })
  await page.waitForTimeout(800)
  await view.act?.(page)
  await page.waitForTimeout(900)
  await page.screenshot({ path: path.join(folder, `${view.name}.png`) })
  await context.close()
}
await browser.close()
await server.close()

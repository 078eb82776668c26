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

/** The boots on gravel, performed once. */
async function perform(page: Page): Promise<void> {
  await keys(page, 'Shift+K')
  await page.waitForSelector('[data-pad="2"]')
  await page.waitForLoadState('networkidle')
  await keys(page, '.', '=1:00:06:0', 'Enter', 'Space')
  for (let step = 0; step < 6; step++) {
    await page.waitForTimeout(540)
    await page.keyboard.press('z')
  }
  await keys(page, 'Space')
}

const VIEWS: { name: string; url: string; night?: boolean; act?: (page: Page) => Promise<void> }[] = [
  {
    name: 'shows',
    url: '/',
    act: async (page) => {
      // A movie that is not made yet has no poster; the page does not ask for it again.
      for (let tries = 0; tries < 60; tries++) {
        await page.reload({ waitUntil: 'networkidle' })
        if ((await page.locator('img').count()) === 4) return
        await page.waitForTimeout(2000)
      }
      throw new Error('a reel of the demo has no poster')
    },
  },
  { name: 'sheet', url: SHEET, act: (page) => keys(page, '.', '=1:00:16:12', 'Enter', 'PageDown') },
  {
    name: 'try',
    url: SHEET,
    act: async (page) => {
      await keys(page, '.', '=1:00:25:10', 'Enter', 'PageDown', '/', '=lever heavy')
      await page.waitForTimeout(800)
      await keys(page, 'ArrowDown', 'ArrowDown', 'Enter')
      await page.waitForTimeout(900)
      await keys(page, 'Shift+Enter', 'ArrowDown')
      await page.waitForTimeout(1200)
    },
  },
  {
    name: 'balance',
    url: SHEET,
    act: async (page) => {
      await keys(page, '.', '=1:00:01:0', 'Enter', 'Shift+B')
      await page.click('[data-part="FOL"]')
      await page.selectOption('[data-balance] [aria-label="Add treatment"]', 'equaliser')
      await page.selectOption('[data-balance] [aria-label="Preset of Equaliser"]', 'Far off')
      await page.locator('[data-head="track-4"] button').first().click()
      await page.selectOption('[data-card] [aria-label="Add treatment"]', 'place')
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await keys(page, 'Space')
      await page.waitForTimeout(5000)
    },
  },
  {
    name: 'rides',
    url: SHEET,
    act: async (page) => {
      await keys(page, '.', '=1:00:05:0', 'Enter')
      for (const name of ['Levers & bells', 'Doors & props']) {
        await page.click(`[aria-label$="level, pan and treatment of ${name}"]`)
        await page.fill('[aria-label="Folder of the track"]', 'Signal box')
        await page.keyboard.press('Enter')
      }
      await page.click('[aria-label="Fold Signal box together"]')
      await page.click('[data-clip]:has-text("Rain on slate, wide")', { position: { x: 20, y: 200 } })
      await keys(page, 'i')
      const rain = await page.locator('[data-head]:has([aria-label$="of Rain A"])').getAttribute('data-head')
      const lane = await page.locator(`[data-ride="${rain}"]`).boundingBox()
      if (!lane) throw new Error('there is no ride')
      for (const [x, y] of [
        [0.8, 220],
        [0.72, 360],
        [0.5, 460],
        [0.3, 640],
      ] as const)
        await page.mouse.click(lane.x + x * lane.width, y)
      await page.click('[aria-label$="level, pan and treatment of Rain A"]')
      await page.locator('[data-ride-part] li select').nth(1).selectOption('s')
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await page.waitForTimeout(500)
    },
  },
  {
    name: 'pass',
    url: SHEET,
    act: async (page) => {
      await page.selectOption('select:has-text("all alike")', 'FOL')
      await keys(page, '.', '=1:00:11:0', 'Enter', 'Space')
      await page.waitForTimeout(4000)
      await keys(page, 'Space', 'v')
    },
  },
  {
    name: 'list',
    url: `${SHEET}/list`,
    act: async (page) => {
      await page.click('[data-row="cue-5"] [data-cell="words"]')
      await keys(page, 'ArrowDown', 'Shift+ArrowDown')
    },
  },
  {
    name: 'compare',
    url: `${SHEET}/compare`,
    act: async (page) => {
      await page.click('text=Reel 1, spotted by Idris Koch')
      await page.waitForTimeout(500)
      // At its left end: in its middle stands the button that takes it over.
      await page.click('[data-difference="theirs"]', { position: { x: 30, y: 20 } })
    },
  },
  {
    name: 'import',
    url: `${SHEET}/import`,
    act: async (page) => {
      await page.setInputFiles('input[type=file]', {
        name: 'typed elsewhere.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(
          'TC In;TC Out;Description;Type;Cue #\n01:00:10:12;01:00:11:20;Latch drops;foley;\n01:00:13:30;;Coat on the hook;foley;\n01:00:22:00;;Frame settles;;FX 003\n01:09:04:00;;Far too late;music;\n',
        ),
      })
      await page.getByText('or drop it here').waitFor({ state: 'detached', timeout: 60_000 })
    },
  },
  { name: 'perform', url: SHEET, act: perform },
  {
    name: 'sounds-table',
    url: '/sounds',
    night: true,
    act: async (page) => {
      await page.selectOption('[aria-label="Rows"]', 'table')
      await page.getByRole('button', { name: 'Weight' }).click()
      await page.waitForTimeout(600)
      await page.click('[data-sound] >> nth=2')
    },
  },
  { name: 'reel', url: `${SHEET}/facts`, night: true },
  { name: 'whole-reel', url: SHEET, act: (page) => keys(page, ...Array.from({ length: 9 }, () => '-')) },
  {
    name: 'turnover',
    url: '/reels/demo-reel-2/turnover',
    act: async (page) => {
      await page.waitForSelector('[data-sheet-page]', { timeout: 60_000 })
      await page.getByRole('button', { name: 'Since then' }).click()
    },
  },
  {
    name: 'finding',
    url: `${SHEET}/turnover`,
    act: async (page) => {
      const group = page.locator('[data-check="part"]')
      await group.getByRole('button').first().click()
      await group.locator('[data-finding] button').nth(2).click()
      await page.waitForFunction(
        () =>
          (document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] !== undefined,
        null,
        { timeout: 60_000 },
      )
    },
  },
  {
    name: 'sounds',
    url: '/sounds',
    act: async (page) => {
      await keys(page, 'Tab')
      await page.fill('[data-search]', 'schritte gravel')
      await page.waitForTimeout(700)
      await page.click('[data-sound] >> text=forty steps')
      await page.focus('[role="listbox"]')
      await keys(page, 'ArrowRight', 'ArrowRight', 'ArrowRight')
    },
  },
  {
    name: 'draft',
    url: SHEET,
    act: async (page) => {
      await keys(page, 'Shift+D')
      await page.waitForSelector('[data-draft="whole"]')
      await keys(page, 'Enter', 'Enter', 'PageDown')
      await page.waitForTimeout(600)
    },
  },
  {
    name: 'stacks',
    url: SHEET,
    act: async (page) => {
      await keys(page, '.', '=1:00:58:0', 'Enter', 'Shift+G')
      await page.locator('[aria-label="Variations"] [role="option"]').nth(2).click()
      await page.locator('[aria-label="Hold Whistle"]').click()
      await page.locator('[data-stack="lead"]').first().click()
      await keys(page, 'Shift+E')
    },
  },
  {
    // Takes to picture, and lines that voices say.
    name: 'record-night',
    url: '/reels/demo-reel-2-call',
    night: true,
    act: async (page) => {
      await keys(page, 'PageDown')
      await keys(page, 'Alt+Shift+R')
      await page.waitForSelector('[data-record="ready"]')
      // Until the notice about the stand-in has gone.
      await page.waitForTimeout(9000)
    },
  },
]
/** Those that were asked for, or all. */
const WANTED = process.argv.slice(2)

mkdirSync(folder, { recursive: true })
const server = await realServer({ demo: true })
try {
  const browser = await launch()
  for (const view of VIEWS) {
    if (WANTED.length > 0 && !WANTED.includes(view.name)) continue
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      colorScheme: view.night ? 'dark' : 'light',
    })
    const page = await context.newPage()
    await page.goto(server.url + view.url)
    if (view.url.startsWith('/reels/demo') && !/facts|import|turnover/.test(view.url))
      await page.waitForFunction(
        () =>
          Number((document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] ?? -1) >=
          0,
        null,
        { timeout: 150_000 },
      )
    await page.waitForTimeout(800)
    await view.act?.(page)
    await page.waitForTimeout(900)
    await page.screenshot({ path: path.join(folder, `${view.name}.png`) })
    await context.close()
  }
  await browser.close()
} finally {
  await server.close()
}

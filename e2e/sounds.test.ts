import { execFileSync } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { launch } from './support/browser.js'
import { realServer, type RealServer } from './support/server.js'

let server: RealServer
let browser: Browser
let page: Page
let root: string
beforeAll(async () => {
  root = mkdtempSync(path.join(tmpdir(), 'yodel-disk-'))
  mkdirSync(path.join(root, 'Irons'))
  const make = (name: string, expression: string, time: number, ...more: string[]): Buffer =>
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      `aevalsrc='${expression}':s=48000:d=${time}`,
      ...more,
      path.join(root, 'Irons', `${name}.wav`),
    ])
  // Five blows, 1 s apart from 0.3 s on; a low one; a high one.
  make('Hammer row', 'if(lt(t,0.3),0,exp(-mod(t-0.3,1)*25)*sin(2*PI*700*t))*0.5', 5.2)
  make('Anvil low', 'exp(-t*6)*sin(2*PI*90*t)*0.7', 1.5)
  make('Anvil high', 'exp(-t*6)*sin(2*PI*3000*t)*0.2', 1, '-metadata', 'comment=bright')
  server = await realServer({ demo: false, roots: root })
  browser = await launch()
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  page.setDefaultTimeout(9000)
  await page.goto(`${server.url}/sounds`)
})
afterAll(async () => {
  await browser?.close()
  await server?.close()
  rmSync(root, { recursive: true, force: true })
})

const results = (): Promise<string[]> => page.locator('[data-sound] span.font-semibold').allTextContents()
const prepared = (): Promise<Record<string, unknown> | null> =>
  page.evaluate(async () => {
    const id = document.querySelector('[data-sound][aria-selected="true"]')?.getAttribute('data-sound') ?? ''
    return (await (await fetch(`/api/sounds/${id}/prepared`)).json()) as Record<string, unknown> | null
  })

describe('the page of all sounds', () => {
  it('takes a folder in by pointer, from empty to searched, and notices a file that comes later', async () => {
    await page.getByRole('status').getByText('No shelf yet.').waitFor()
    await page.click('text=Add a folder')
    await page.click(`[data-folders] >> text="${root}"`)
    await page.click('[data-folders] >> text=Irons')
    await page.click('text=Add this folder')
    await page.waitForSelector('[data-shelf] >> text=3')
    await page.waitForFunction(() => document.querySelectorAll('[data-sound]').length === 3)
    await page.waitForSelector('text=5 events')
    cpSync(path.join(root, 'Irons', 'Anvil low.wav'), path.join(root, 'Irons', 'Anvil low copy.wav'))
    await page.waitForSelector('[data-shelf] >> text=4', { timeout: 15_000 })
    rmSync(path.join(root, 'Irons', 'Anvil low copy.wav'))
    await page.waitForSelector('[data-shelf] >> text=3', { timeout: 15_000 })
  })

  it('goes by keyboard through results and events; one event is prepared as a sound of its own, and is so after a reload', async () => {
    await page.fill('[data-search]', 'hammer')
    await page.waitForFunction(() => document.querySelectorAll('[data-sound]').length === 1)
    await page.press('[data-search]', 'ArrowDown')
    await page.waitForSelector('[data-strip] >> text=5 events')
    await page.focus('[role="listbox"]')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowRight')
    await page.waitForSelector('[data-events] >> text=event 2 of 5')
    await page.click('text=reverse')
    await page.fill('[aria-label="Speed"]', '50')
    await page.press('[aria-label="Speed"]', 'Enter')
    await expect
      .poll(prepared)
      .toMatchObject({ reverse: true, speed: 0.5, sync: expect.closeTo(1.3 * 48_000, -3) as number })
    await page.reload()
    await page.fill('[data-search]', 'hammer')
    await page.waitForFunction(() => document.querySelectorAll('[data-sound]').length === 1)
    await page.press('[data-search]', 'ArrowDown')
    await page.waitForSelector('[title="Backwards"][aria-pressed="true"]')
    await page.click('text=Reset all')
    await page.waitForSelector('[title="Backwards"][aria-pressed="false"]')
    await expect.poll(prepared).toBeNull()
  })

  it('splits anew when the split is wrong, by slider and by hand', async () => {
    await page.click('text=Split…')
    await page.locator('input[type="range"]').first().fill('1000')
    await page.click('text=Split so')
    await page.waitForFunction(() => !document.querySelector('[data-events]'))
    // One event has another bar, with a panel of its own.
    await page.click('text=Split…')
    await page.click('text=As found')
    await page.waitForSelector('[data-events] >> text=5 events')
    await page.keyboard.press('Escape')
    await page.click('[aria-label="Next event"]')
    await page.click('text=Split…')
    await page.click('text=Leave this one out')
    await page.waitForSelector('[data-events] >> text=4 events')
    await page.click('text=As found')
    await page.waitForSelector('[data-events] >> text=5 events')
    await page.keyboard.press('Escape')
  })

  it('steers by ear, and says what would find something', async () => {
    await page.fill('[data-search]', 'anvil')
    await page.waitForFunction(() => document.querySelectorAll('[data-sound]').length === 2)
    await page.click('[data-sound] >> text=Anvil high')
    await page.click('text=By ear')
    await page.click('text=heavier')
    await expect.poll(results).toEqual(['Anvil low'])
    await page.click('[aria-label^="Take away heavier"]')
    await expect.poll(async () => (await results()).length).toBe(2)
    await page.fill('[data-search]', 'anvil hammer')
    await page.waitForSelector('text=Nothing has all of')
    await page.locator('main button', { hasText: /^anvil 2$/ }).click()
    await expect.poll(async () => (await results()).length).toBe(2)
  })

  it('narrows by a click with the counts beside it, and searches only the shelves that are on', async () => {
    await page.fill('[data-search]', '')
    await page.click('[data-facets] >> text=3 to 10 s')
    await expect.poll(results).toEqual(['Hammer row'])
    await page.click('[aria-label="Take away length:3-10"]')
    await page.click('[data-shelf] input[type="checkbox"]')
    await page.waitForSelector('text=Nothing here')
    await page.click('[data-shelf] input[type="checkbox"]')
    await expect.poll(async () => (await results()).length).toBe(3)
  })

  it('gathers in kits, rates, and writes a licence to several at once', async () => {
    await page.fill('[aria-label="Name of a new kit"]', 'Smithy')
    await page.press('[aria-label="Name of a new kit"]', 'Enter')
    await page.waitForSelector('[data-kits] >> text=current')
    await page.click('[data-sound] >> text=Anvil low')
    await page.focus('[role="listbox"]')
    await page.keyboard.press('Alt+k')
    await page.waitForSelector('text=Anvil low is in Smithy')
    await page.keyboard.press('Alt+4')
    await page.waitForSelector('[data-sound] >> text=★★★★')
    await page.click('[data-sound] >> text=Anvil low', { modifiers: ['Control'] })
    await page.click('[data-sound] >> text=Anvil high', { modifiers: ['Control'] })
    await page.fill('[aria-label="What to write"]', 'CC0 1.0')
    await page.click('[data-bulk] >> text="Write"')
    await page.waitForSelector('text=Written to 2 sounds')
    await page.click('[data-bulk] >> text=Unmark')
    await page.fill('[data-search]', 'licence:cc0 rating>=4')
    await expect.poll(results).toEqual(['Anvil low'])
    await page.fill('[data-search]', '')
    await page.click('[data-kits] button >> text=Smithy')
    await expect.poll(results).toEqual(['Anvil low'])
  })
})

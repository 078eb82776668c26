import {
  documentOf,
  frames,
  frameToSample,
  FRAME_RATES,
  type ReelDocument,
  type ReelState,
} from '@yodel/core'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Typist } from './support/typist.js'

const REEL = 'demo-reel-1'
const stage = onDemo()

async function open(locale: string): Promise<Page> {
  const context = await stage.browser.newContext({ viewport: { width: 1280, height: 800 }, locale })
  const page = await context.newPage()
  await page.goto(stage.server.url)
  return page
}

async function onServer(page: Page): Promise<ReelDocument> {
  await page.waitForSelector('[data-save="saved"]')
  const answer = await fetch(`${stage.server.url}/api/reels/${REEL}`)
  return documentOf(((await answer.json()) as ReelState).records)
}

const newest = <T extends { id: string }>(
  before: ReadonlyMap<string, T>,
  after: ReadonlyMap<string, T>,
): T => {
  const fresh = [...after.values()].filter(({ id }) => !before.has(id))
  expect(fresh).toHaveLength(1)
  return fresh[0] as T
}

describe('the whole path', () => {
  it('goes on a German keyboard alone, by what is written on its keys', async () => {
    const page = await open('de-DE')
    // What Chromium itself would say of the keyboard of this machine, which is no German one.
    await page.addInitScript('delete Navigator.prototype.keyboard')
    await page.reload()
    const hands = await Typist.at(page, 'german')
    await page.getByText('Open questions').waitFor()
    await hands.tabTo(/^Reel 1 cut 3/)
    await hands.press('Enter')
    await page.waitForSelector('[data-picture][data-frame]')
    await page.locator('[data-cue]').first().waitFor()
    const before = await onServer(page)

    await hands.press('.')
    await hands.type('1:01:31:5')
    await hands.press('Enter', '1')
    await hands.type('Riegel zu, hart (Yard)')
    await hands.press('Enter')
    // Ü and + lie where others have the brackets, # where they have the backslash.
    await hands.press('ArrowDown', 'ArrowDown', 'ArrowDown', '+', 'ArrowUp', '#')
    const spotted = await onServer(page)
    const cue = newest(before.cue, spotted.cue)
    const frame = 99 * 24 + 5
    expect(cue).toMatchObject({ words: 'Riegel zu, hart (Yard)', in: frame, out: frame + 4, sync: frame + 2 })
    // Search lies beside the right Shift, where - is written.
    await hands.press('-', 'Ctrl A')
    await hands.type('bolt iron')
    await page.waitForSelector('text=2 sounds')
    await hands.press('ArrowDown', 'Enter')
    await page.waitForSelector('[data-try="true"]')
    await hands.press('Enter')
    await page.waitForSelector('[data-try="true"]', { state: 'detached' })
    const kept = newest(before.clip, (await onServer(page)).clip)
    expect(kept.start + kept.sync - kept.offset).toBe(frameToSample(frames(frame + 2), FRAME_RATES['24']))

    await hands.press('Escape', 'Escape')
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    await hands.press('Ctrl Z')
    expect((await onServer(page)).clip.has(kept.id)).toBe(false)
    await hands.press('Ctrl Y')
    expect((await onServer(page)).clip.has(kept.id)).toBe(true)
    // What is written on the keys is what is shown, too.
    await hands.press('Shift ß')
    await page.getByText('What can be done now').waitFor()
    expect(await page.locator('[data-action="set-in"] kbd').textContent()).toBe('Ü')
    expect(await page.locator('[data-action="search"] kbd').textContent()).toBe('−')
    await hands.press('Escape')
    await page.waitForSelector('[role=dialog]', { state: 'detached' })
    await hands.tabTo(/^Turnover$/)
    await hands.press('Enter')
    await page.getByText('Before it leaves the room').waitFor()
    await page.context().close()
  }, 120_000)

  it('goes by the names and roles that a screen reader has', async () => {
    const page = await open('en-GB')
    await page.getByRole('link', { name: /^Reel 1 cut 3/ }).click()
    await page.getByRole('region', { name: 'Sheet' }).waitFor()
    await page.getByRole('img', { name: 'Picture at the gate' }).waitFor()
    await page.getByRole('button', { name: /^FX 001\b/ }).waitFor()
    const before = await onServer(page)
    await page.getByRole('tab', { name: 'Notes' }).click()
    await page
      .getByRole('button', { name: /Lever nine thrown/ })
      .first()
      .click()
    await page.getByRole('button', { name: 'Try sounds' }).click()
    await page.getByRole('tab', { name: 'Sounds' }).click()
    await page.getByRole('listbox', { name: 'Results' }).getByRole('option').first().click()
    await page
      .getByRole('button', { name: /^Try\b/ })
      .last()
      .click()
    await page.getByRole('button', { name: /^Keep\b/ }).click()
    const kept = newest(before.clip, (await onServer(page)).clip)
    await page.getByRole('status').filter({ hasText: kept.name }).first().waitFor()
    await page.getByRole('button', { name: kept.name, exact: true }).first().click()
    await page.getByRole('button', { name: /^Mute M/ }).click()
    expect((await onServer(page)).clip.get(kept.id)?.mute).toBe(true)
    await page.getByRole('tab', { name: 'History' }).click()
    await page.getByRole('listitem').filter({ hasText: kept.name }).first().waitFor()
    await page.getByRole('link', { name: 'Turnover' }).click()
    await page.getByRole('heading', { name: 'Before it leaves the room' }).waitFor()
    await page.getByRole('button', { name: 'Bounce the mix' }).click()
    await page.getByRole('link', { name: 'Download WAV' }).waitFor({ timeout: 60_000 })
    await page.context().close()
  }, 120_000)
})

describe('keys of one’s own', () => {
  it('are chosen by pressing them, and say where they clash; kept over a reload', async () => {
    const page = await open('en-US')
    await page.goto(`${stage.server.url}/reels/${REEL}`)
    await page.locator('[data-cue]').first().waitFor()
    await page.keyboard.press('Shift+Slash')
    await page.getByRole('button', { name: 'Change keys' }).click()
    const key = (id: string) => page.locator(`[data-action="${id}"] button`).first()
    await key('overview').click()
    await page.keyboard.press('g')
    await page.getByText('The same key as: Guide on or off').waitFor()
    await key('guide').click()
    await page.keyboard.press('Alt+g')
    await page.getByText('The same key as').waitFor({ state: 'detached' })
    await page.keyboard.press('Escape')
    await page.reload()
    await page.locator('[data-cue]').first().waitFor()
    await page.keyboard.press('g')
    await page.locator('[data-overview]').waitFor()
    await page.keyboard.press('v')
    expect(await page.locator('[data-overview]').count()).toBe(1)
    await page.context().close()
  }, 60_000)
})

describe('the guide', () => {
  it('is searched, and shows its places and its pictures', async () => {
    const page = await open('en-US')
    await page.getByRole('link', { name: 'Guide' }).click()
    await page.getByRole('heading', { name: 'Your first reel in ten minutes' }).waitFor()
    await page.waitForFunction(() => [...document.images].some(({ naturalWidth }) => naturalWidth > 600))
    await page.getByRole('searchbox', { name: 'Search the guide' }).fill('boundary neighbour')
    await page.getByRole('link', { name: /Shape/ }).first().click()
    await page.getByRole('heading', { name: 'Shape' }).waitFor()
    await page.context().close()
  }, 60_000)
})

import { execFileSync } from 'node:child_process'
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

describe('the paper', () => {
  it('keeps its time when the keyboard goes to a sound beyond it, which comes to the gate', async () => {
    const page = await open('en-US')
    await page.goto(`${stage.server.url}/reels/${REEL}`)
    await page.locator('[data-clip]').first().waitFor()
    // What lies beyond what is seen is drawn a moment later.
    const far = await page.waitForFunction(() => {
      const beyond = [...document.querySelectorAll<HTMLElement>('[data-clip]')].find(
        (clip) => clip.getBoundingClientRect().top > innerHeight,
      )
      beyond?.focus()
      return beyond?.dataset['clip']
    })
    const clip = (await onServer(page)).clip.get((await far.jsonValue()) ?? '')!
    const frame = Math.floor((clip.start + clip.sync - clip.offset) / 2000)
    await page.waitForFunction(
      (wanted) =>
        (document.querySelector('[data-picture]') as HTMLElement).dataset['frame'] === String(wanted),
      frame,
    )
    const scrolled = () =>
      [...document.querySelectorAll('[data-sheet], [data-sheet] *')].filter((one) => one.scrollTop !== 0)
        .length
    expect(await page.evaluate(scrolled)).toBe(0)
    await page.context().close()
  }, 60_000)

  it('has a closer look at the picture for each cue, and remembers it', async () => {
    const page = await open('en-US')
    await page.goto(`${stage.server.url}/reels/${REEL}`)
    const look = (times: string) => page.locator(`[data-closer="${times}"]`).waitFor()
    await page.locator('[data-cue]').first().click()
    await page.keyboard.press('z')
    await look('2.00')
    await page.locator('[data-cue]').nth(1).click()
    await look('1.00')
    await page.reload()
    await page.locator('[data-cue]').first().click()
    await look('2.00')
    await page.dblclick('[data-closer]')
    await look('1.00')
    await page.context().close()
  }, 60_000)
})

describe('results', () => {
  it('are a table with columns of one’s own, and the chosen one is saved as it is prepared', async () => {
    const page = await open('en-US')
    await page.goto(`${stage.server.url}/sounds`)
    await page.selectOption('[aria-label="Rows"]', 'table')
    await page.getByRole('button', { name: 'Weight', exact: true }).click()
    const weights = () => page.locator('[data-cell="weight"]').allTextContents()
    await page.waitForFunction(() => document.querySelector('[data-cell="weight"]')?.textContent === '100')
    const shown = (await weights()).map(Number)
    expect(shown).toEqual(shown.toSorted((a, b) => b - a))
    await page.getByRole('button', { name: 'Columns' }).click()
    await page.getByRole('checkbox', { name: 'Category', exact: true }).uncheck()
    await page.keyboard.press('Escape')
    await page.getByRole('separator', { name: 'Width of Name' }).press('ArrowRight')
    const width = Number(
      await page.getByRole('separator', { name: 'Width of Name' }).getAttribute('aria-valuenow'),
    )
    await page.getByRole('button', { name: 'Length', exact: true }).press('Shift+ArrowLeft')
    await page.reload()
    await page.locator('[data-cell="name"]').first().waitFor()
    const cells = await page.locator('[data-sound]').first().locator('[data-cell]').all()
    const keys = await Promise.all(cells.slice(0, 3).map((cell) => cell.getAttribute('data-cell')))
    expect(keys).toEqual(['name', 'length', 'wave'])
    expect(await page.locator('[data-cell="category"]').count()).toBe(0)
    expect(
      Number(await page.getByRole('separator', { name: 'Width of Name' }).getAttribute('aria-valuenow')),
    ).toBe(width)
    await page.locator('[data-sound]').first().click()
    await page.getByRole('textbox', { name: 'Speed' }).fill('200')
    await page.keyboard.press('Enter')
    const length =
      (await page.locator('[data-sound]').first().locator('[data-cell="length"]').textContent()) ?? ''
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Save as WAV' }).click(),
    ])
    const probed = execFileSync('ffprobe', [
      ...['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', await download.path()],
    ])
    expect(Number(probed.toString())).toBeCloseTo(Number.parseFloat(length) / 2, 1)
    await page.context().close()
  }, 60_000)
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

describe('a window of 1440 by 900 at twice the size', () => {
  it.each([
    ['shows', '/'],
    ['the Sheet', `/reels/${REEL}`],
    ['the list', `/reels/${REEL}/list`],
    ['turnover', `/reels/${REEL}/turnover`],
    ['sounds', '/sounds'],
  ])('has everything of %s within reach', async (_, path) => {
    const context = await stage.browser.newContext({ viewport: { width: 720, height: 450 } })
    const page = await context.newPage()
    await page.goto(stage.server.url + path)
    await page.waitForLoadState('networkidle')
    const beyond = await page.evaluate(() =>
      [...document.querySelectorAll('button, input, select, a[href]')].flatMap((element) => {
        // What scrolls within the paper is reached by the gate.
        if (element.closest('[data-sheet], [data-grid]') || !element.checkVisibility()) return []
        element.scrollIntoView({ block: 'nearest', inline: 'nearest' })
        const { left, right, top, bottom } = element.getBoundingClientRect()
        const isIn = left >= -1 && top >= -1 && right <= innerWidth + 1 && bottom <= innerHeight + 1
        return isIn
          ? []
          : [`${[left, right, top, bottom].map(Math.round).join(' ')} ${element.outerHTML.slice(0, 90)}`]
      }),
    )
    expect(beyond).toEqual([])
    await context.close()
  })
})

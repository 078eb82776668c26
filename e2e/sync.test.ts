import { cueCode, documentOf, type ReelDocument, type ReelState } from '@yodel/core'
import pg from 'pg'
import type { Browser, BrowserContext, Page } from 'playwright-core'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { launch } from './support/browser.js'
import { realServer, type RealServer } from './support/server.js'

let server: RealServer
let browser: Browser
let reel: string
beforeAll(async () => {
  server = await realServer({ demo: false })
  browser = await launch()
}, 60_000)
afterAll(async () => {
  await browser?.close()
  await server?.close()
})
beforeEach(async () => {
  const body = {
    ...{ showId: null, showName: 'Night Watch', name: 'Reel 1', rate: '24' },
    ...{ firstTimecode: '01:00:00:00', lengthSeconds: 600 },
  }
  const headers = { 'content-type': 'application/json' }
  const made = await fetch(`${server.url}/api/reels`, { method: 'POST', headers, body: JSON.stringify(body) })
  reel = ((await made.json()) as { id: string }).id
})

/** Opens the reel in a page of a browser of its own, or in one more page of the same. */
async function open(context?: BrowserContext): Promise<Page> {
  const page = await (
    context ?? (await browser.newContext({ viewport: { width: 1280, height: 800 } }))
  ).newPage()
  await page.goto(`${server.url}/reels/${reel}`)
  await is(page, 'saved')
  return page
}
const is = async (page: Page, save: string): Promise<void> => {
  await page.waitForSelector(`[data-save="${save}"]`)
}
/** Drops a cue and types its words, as fast as a machine lets one. */
async function spot(page: Page, key: string, words: string): Promise<void> {
  await page.keyboard.press(key)
  await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'What is heard')
  await page.keyboard.type(words, { delay: 5 })
  await page.keyboard.press('Enter')
}
async function onServer(): Promise<ReelDocument> {
  const answer = await fetch(`${server.url}/api/reels/${reel}`)
  return documentOf(((await answer.json()) as ReelState).records)
}
const wordsOf = (doc: ReelDocument): string[] => [...doc.cue.values()].map((cue) => cue.words).sort()
/** The server answers a change whose body holds a word as if it met an error of its own. */
const refuse = async (page: Page, word: string): Promise<void> =>
  void (await page.route('**/changes', (route) =>
    route.request().postData()?.includes(word)
      ? route.fulfill({
          status: 500,
          json: { code: 'INTERNAL', message: 'The server met an error of its own.' },
        })
      : route.continue(),
  ))

describe('a reel in a browser', () => {
  it('takes two people’s cues of one category at once: every text is kept, no number twice', async () => {
    const pages = [await open(), await open()]
    await Promise.all(
      pages.map(async (page, person) => {
        for (let count = 0; count < 6; count++) await spot(page, '1', `person ${person} cue ${count}`)
        await is(page, 'saved')
      }),
    )
    const doc = await onServer()
    expect(wordsOf(doc)).toEqual(
      [0, 1].flatMap((person) => [0, 1, 2, 3, 4, 5].map((count) => `person ${person} cue ${count}`)),
    )
    expect(new Set([...doc.cue.values()].map(cueCode)).size).toBe(12)
    for (const page of pages) await page.context().close()
  }, 60_000)

  it('sets aside what can never be stored, goes on, keeps it through a reload, and does it again', async () => {
    const page = await open()
    await spot(page, '1', 'first')
    await is(page, 'saved')
    await refuse(page, 'poison')
    await spot(page, '2', 'poison')
    await spot(page, '3', 'third')
    await page.waitForSelector('text=could not be saved')
    await is(page, 'saved')
    expect(wordsOf(await onServer())).toEqual(['', 'first', 'third'])
    expect(await page.textContent('[data-save]')).toBe('1 not saved')

    await page.reload()
    await is(page, 'saved')
    await page.keyboard.press('Shift+H')
    const aside = page.locator('[data-aside]')
    expect(await aside.textContent()).toContain('poison')
    await page.unroute('**/changes')
    // The words fit only on their cue, so that is not there yet when the words are tried first.
    await aside.getByRole('button', { name: 'Try again' }).first().click()
    await page.waitForFunction(() => !document.querySelector('[data-aside]'))
    await page.keyboard.press('Escape')
    await is(page, 'saved')
    expect(wordsOf(await onServer())).toEqual(['first', 'poison', 'third'])
    expect(await page.textContent('[data-save]')).toMatch(/^Saved/)
    await page.context().close()
  }, 60_000)

  it('throws away what was set aside when it is told to', async () => {
    const page = await open()
    await refuse(page, 'poison')
    await spot(page, '2', 'poison')
    await page.waitForSelector('text=could not be saved')
    await page.keyboard.press('Shift+H')
    await page.locator('[data-aside]').getByRole('button', { name: 'Throw away' }).click()
    expect(await page.locator('[data-aside]').count()).toBe(0)
    await page.keyboard.press('Escape')
    await page.reload()
    await is(page, 'saved')
    await page.keyboard.press('Shift+H')
    await page.waitForSelector('[data-history] li')
    expect(await page.locator('[data-aside]').count()).toBe(0)
    await page.context().close()
  }, 60_000)

  it('runs nothing by the letters that were meant for a field that has gone', async () => {
    const page = await open()
    // The cue itself is refused while its words are being typed.
    await page.route('**/changes', (route) =>
      setTimeout(() => void route.fulfill({ status: 500, json: { code: 'INTERNAL', message: 'No.' } }), 400),
    )
    await page.keyboard.press('1')
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'What is heard')
    await page.keyboard.type('fo', { delay: 5 })
    await page.waitForSelector('text=could not be saved')
    // Each of these would do something: cues, the guide off, the balance, the keys.
    await page.keyboard.type('1g2B3?', { delay: 5 })
    expect(await page.locator('[data-cue]').count()).toBe(0)
    expect(await page.getByRole('dialog').count()).toBe(0)
    await page.unroute('**/changes')
    await page.keyboard.press('Escape')
    await spot(page, '1', 'again')
    await is(page, 'saved')
    expect(wordsOf(await onServer())).toEqual(['again'])
    await page.context().close()
  }, 60_000)

  it('loses nothing of two pages of one reel that were closed while the server was away', async () => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const [one, two] = [await open(context), await open(context)]
    server.kill()
    for (const count of [0, 1, 2]) await spot(one, '1', `one ${count}`)
    for (const count of [0, 1]) await spot(two, '1', `two ${count}`)
    for (const page of [one, two]) {
      await page.waitForSelector('[data-save="away"][data-kept="kept"]')
      await page.close()
    }
    await server.start()
    const later = await open(context)
    await later.waitForFunction(() => document.querySelectorAll('[data-cue]').length > 0)
    await is(later, 'saved')
    expect(wordsOf(await onServer())).toEqual(['one 0', 'one 1', 'one 2', 'two 0', 'two 1'])
    await context.close()
  }, 60_000)

  it('takes over what a page leaves behind while another has the reel open', async () => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const [stays, goes] = [await open(context), await open(context)]
    await goes.route('**/changes*', (route) => route.abort())
    await spot(goes, '1', 'left behind')
    await goes.waitForSelector('[data-save="away"][data-kept="kept"]')
    await goes.close()
    await stays.waitForSelector('[data-cue]')
    await is(stays, 'saved')
    expect(wordsOf(await onServer())).toEqual(['left behind'])
    await context.close()
  }, 60_000)

  it('sends an undo that waited as an undo: the next one takes back what was before', async () => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const page = await open(context)
    await spot(page, '1', 'stays')
    await is(page, 'saved')
    server.kill()
    await spot(page, '2', 'goes')
    // The words, then the cue.
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await page.waitForSelector('[data-save="away"][data-kept="kept"]')
    await page.close()
    await server.start()
    const later = await open(context)
    expect(wordsOf(await onServer())).toEqual(['stays'])
    await later.keyboard.press('Control+z')
    await later.waitForFunction(() =>
      document.querySelector('[data-cue]')?.textContent?.includes('no words yet'),
    )
    await is(later, 'saved')
    await context.close()
  }, 60_000)

  it('says that a reel is not on the server any more, keeps what was done, and asks no more', async () => {
    const page = await open()
    const asked: string[] = []
    page.on('request', (request) => void (request.url().includes('/changes') && asked.push(request.url())))
    const database = new pg.Client(server.databaseUrl)
    await database.connect()
    await database.query('DELETE FROM change WHERE reel_id = $1', [reel])
    await database.query('DELETE FROM record WHERE reel_id = $1', [reel])
    await database.query('DELETE FROM reel WHERE id = $1', [reel])
    await database.end()
    await spot(page, '1', 'where to?')
    await is(page, 'missing')
    expect(await page.locator('[data-save]').textContent()).toBe('Not on the server, 2 kept here')
    await page.waitForTimeout(1500)
    expect(asked).toHaveLength(1)
    await page.context().close()
  }, 60_000)

  it('opens by itself once a server that was away is back', async () => {
    const page = await (await browser.newContext()).newPage()
    let away = true
    await page.route('**/api/reels/*', (route) => (away ? route.abort() : route.continue()))
    await page.goto(`${server.url}/reels/${reel}`)
    await page.waitForSelector('text=This page tries again by itself')
    away = false
    await is(page, 'saved')
    await page.context().close()
  }, 60_000)

  it('asks who leaves what is only in the page, and tells the truth about where it is', async () => {
    const page = await open()
    await page.evaluate(() => {
      // A browser whose disk is full.
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('The disk is full.', 'QuotaExceededError')
      }
    })
    await page.route('**/changes', (route) => route.abort())
    await spot(page, '1', 'Lamp goes out')
    await is(page, 'away')
    await page.waitForSelector('[data-kept="failed"]')
    // The reel's own pages are no leaving.
    await page.click('nav >> text=List')
    await page.waitForSelector('[data-grid]')
    await page.click('nav >> text=Sounds')
    await page.click('text=Stay')
    expect(page.url()).toContain(`/reels/${reel}/list`)
    await page.unroute('**/changes')
    await is(page, 'saved')
    await page.click('nav >> text=Sounds')
    await page.waitForURL('**/sounds')
    expect(wordsOf(await onServer())).toEqual(['Lamp goes out'])
  }, 60_000)

  it('finds the search by key also while the balance is shown', async () => {
    const page = await open()
    await page.keyboard.press('Shift+B')
    await page.waitForSelector('text=Balance')
    await page.keyboard.press('/')
    await page.waitForFunction(() => document.activeElement?.matches('[data-search]'))
    await page.context().close()
  }, 60_000)
})

import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { cuesInOrder, type Cue } from '@yodel/core'
import { EVENTS, LEADER } from '@yodel/demo'
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { launch } from './support/browser.js'
import { Editor } from './support/Editor.js'
import { emptyReel } from './support/reels.js'
import { realServer, type RealServer } from './support/server.js'

let server: RealServer
let browser: Browser
let editor: Editor

beforeAll(async () => {
  server = await realServer({ demo: true })
  browser = await launch()
  editor = await Editor.open(browser, server.url, await emptyReel(server.url, 'Spotting'))
  await editor.page.context().grantPermissions(['clipboard-read', 'clipboard-write'])
}, 600_000)
afterAll(async () => {
  await browser?.close()
  await server?.close()
})

const sheet = async (): Promise<Cue[]> => cuesInOrder(await editor.document())
const cell = (row: number, column: string) =>
  editor.page.locator('[data-row]').nth(row).locator(`[data-cell="${column}"]`)
const plain = (cues: readonly Cue[]): object[] => cues.map(({ id: _, ...cue }) => cue)

describe('spotting a reel', () => {
  it('drops 25 cues by key in one run at half speed, each on the frame that was seen, words typed while it rolls', async () => {
    const { page } = editor
    const events = [...new Set(EVENTS.map((event) => event.frame))]
      .filter((frame) => frame > LEADER)
      .slice(0, 25)
    await editor.goTo('1:00:00:12')
    await page.click('[aria-label="Speed 0.5"]')
    await page.evaluate(() => {
      const seen: number[] = []
      Object.assign(window, { seen })
      addEventListener(
        'keydown',
        (event) =>
          event.key === '1' &&
          !(event.target as HTMLElement).matches('textarea, input') &&
          seen.push(Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame'])),
        { capture: true },
      )
    })
    await page.locator('[data-timecode]').press('Space')
    for (const [index, frame] of events.entries()) {
      await editor.rollsTo(frame)
      await page.keyboard.press('1')
      await page.keyboard.type(`hit ${index + 1}`)
      await page.keyboard.press('Enter')
    }
    await page.keyboard.press('k')
    const seen = await page.evaluate(() => (window as unknown as { seen: number[] }).seen)
    const cues = await sheet()
    expect(cues.map((cue) => cue.in)).toEqual(seen)
    expect(cues.map((cue) => cue.words)).toEqual(events.map((_, index) => `hit ${index + 1}`))
    expect(cues.map((cue) => cue.number)).toEqual(events.map((_, index) => index + 1))
    // Even a slow machine's hands at half speed come within a second of the reel.
    events.forEach((frame, index) => expect((seen[index] ?? 0) - frame).toBeLessThan(24))
    // Snapping finds the scripted frame of each again, give or take a frame.
    await page.keyboard.press('Escape')
    await editor.goTo('1:00:02:00')
    await editor.seesFrame(LEADER + 48)
    await page.keyboard.press('f')
    await page.waitForFunction(
      (event) =>
        Math.abs(
          Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']) - event,
        ) <= 1,
      LEADER + 50,
    )
    await page.keyboard.press('c')
    await editor.seesFrame(LEADER + 288)
  }, 120_000)

  it('is edited in the list as in a spreadsheet', async () => {
    const { page } = editor
    const before = await sheet()
    await page.click('nav >> text=List')
    await cell(0, 'words').click()
    expect(await editor.timecode()).toMatch(/^01:00:02:0/)
    await page.keyboard.type('Boot on gravel')
    await page.keyboard.press('Enter')
    // A cell that is opened is added to.
    await cell(0, 'words').click()
    await page.keyboard.press('Enter')
    await page.keyboard.type(', wet')
    expect(await page.locator('[data-editor]').inputValue()).toBe('Boot on gravel, wet')
    await page.keyboard.press('Escape')
    // Three cells copied, laid over six.
    await cell(0, 'words').click()
    await page.keyboard.press('Shift+ArrowDown')
    await page.keyboard.press('Control+c')
    await cell(2, 'words').click()
    for (let down = 0; down < 3; down++) await page.keyboard.press('Shift+ArrowDown')
    await page.keyboard.press('Control+v')
    await cell(0, 'state').click()
    for (let down = 0; down < 5; down++) await page.keyboard.press('Shift+ArrowDown')
    await page.keyboard.press('Enter')
    await page.locator('[data-editor]').selectOption('ready')
    await page.keyboard.press('Control+Enter')
    const words = ['Boot on gravel', 'hit 2', 'Boot on gravel', 'hit 2', 'Boot on gravel', 'hit 2', 'hit 7']
    expect((await sheet()).slice(0, 7).map((cue) => cue.words)).toEqual(words)
    expect((await sheet()).slice(0, 7).map((cue) => cue.state)).toEqual([
      ...Array<string>(6).fill('ready'),
      'open',
    ])
    // A time that makes no sense is refused in words, and the cell stays open.
    await cell(0, 'out').click()
    await page.keyboard.type('1:00:00:99')
    await page.keyboard.press('Enter')
    await page.getByText('frames run from 0 to 23').waitFor()
    await page.keyboard.press('Escape')
    for (let undo = 0; undo < 3; undo++) await page.keyboard.press('Control+z')
    expect(plain(await sheet())).toEqual(plain(before))
    for (let redo = 0; redo < 3; redo++) await page.keyboard.press('Control+Shift+z')
    await page.getByLabel('Filter the list').fill('gravel')
    await page.getByText('3 of 25 cues').waitFor()
    await page.keyboard.press('Escape')
    await page.getByText('25 cues', { exact: true }).waitFor()
  }, 60_000)

  it('is printed, with every cue on the paper', async () => {
    await editor.page.click('text=Export')
    const pdf = await editor.download('a[href$="cues.pdf?thumbnails=1"]')
    const text = execFileSync('pdftotext', ['-layout', pdf, '-']).toString()
    for (const cue of await sheet()) expect(text).toContain(`FX ${String(cue.number).padStart(3, '0')}`)
    await editor.page.keyboard.press('Escape')
  })

  it('is compared with another person’s sheet, and takes over what is missing', async () => {
    const { page } = editor
    const before = await sheet()
    await page.click('nav >> text=Compare')
    await page.click('text=Reel 1, spotted by Idris Koch')
    await page.locator('[data-difference="theirs"]').first().waitFor()
    // The keys are with the lines at once.
    await page.keyboard.press('ArrowDown')
    await page.locator('[data-difference]').nth(1).and(page.locator('[aria-selected="true"]')).waitFor()
    await page.locator('[data-difference="theirs"] >> text=Take over').first().click()
    const after = await sheet()
    expect(after).toHaveLength(before.length + 1)
    const taken = after.find((cue) => !before.some((one) => one.id === cue.id))
    expect(taken).toMatchObject({
      words: 'Rain on the yard, slate roof near',
      category: 'BG',
      in: LEADER,
      by: 'Idris Koch',
    })
    await page.click('text=Beside each other on the Sheet')
    await page.locator('[data-lane="other"] [data-cue]').first().waitFor()
    await page.keyboard.press('Control+z')
    expect(plain(await sheet())).toEqual(plain(before))
  }, 60_000)

  it('goes out as CSV, is wiped, and comes back the same', async () => {
    const { page } = editor
    await page.click('nav >> text=List')
    const before = await sheet()
    await page.click('text=Export')
    const csv = await editor.download('a[href$="cues.csv"]')
    await page.keyboard.press('Escape')
    await cell(0, 'words').click()
    await page.keyboard.press('Control+a')
    await page.keyboard.press('Control+Delete')
    await page.getByText('No cue yet').waitFor()
    expect(await sheet()).toEqual([])
    await page.goto(page.url().replace(/list$/, 'import'))
    await page.setInputFiles('input[type=file]', {
      name: 'cues.csv',
      mimeType: 'text/csv',
      buffer: readFileSync(csv),
    })
    await page.click('text=Import 25 cues')
    await page.locator('[data-row]').first().waitFor()
    expect(plain(await sheet())).toEqual(plain(before))
  }, 60_000)
})

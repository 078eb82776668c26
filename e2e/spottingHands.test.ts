import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { cuesInOrder, talksOf, type Cue, type Watched } from '@yodel/core'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { launch } from './support/browser.js'
import { Editor } from './support/Editor.js'
import { realServer, type RealServer } from './support/server.js'

// A movie of our own: 12 s at 24 fps, cut at 4 s and 8 s, a 2-pop on frame 30, hits of noise at 5 s, 6 s and 7 s.
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-hands-'))
const movie = path.join(folder, 'hands.mov')
let server: RealServer
let browser: Browser
let editor: Editor
let page: Page
let reelId: string

beforeAll(async () => {
  const shot = (colour: string): string[] => [
    '-f',
    'lavfi',
    '-i',
    `color=${colour}:size=320x180:rate=24:duration=4`,
  ]
  const sound =
    'if(between(t,1.25,1.2917),0.1*sin(2*PI*1000*t),0)+if(between(t,5,8),0.4*(random(0)-0.5)*exp(-30*mod(t,1)),0)'
  execFileSync('ffmpeg', [
    ...[
      '-v',
      'error',
      ...shot('navy'),
      ...shot('orange'),
      ...shot('gray'),
      '-f',
      'lavfi',
      '-i',
      `aevalsrc='${sound}':s=48000:d=12`,
    ],
    ...[
      '-filter_complex',
      '[0][1][2]concat=n=3[v]',
      '-map',
      '[v]',
      '-map',
      '3:a',
      '-c:v',
      'libx264',
      '-preset',
      'ultrafast',
      '-c:a',
      'pcm_s16le',
      movie,
    ],
  ])
  server = await realServer({ demo: false, roots: folder })
  browser = await launch()
  const made = await fetch(`${server.url}/api/reels`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      showId: null,
      showName: 'Hands',
      name: 'Reel 1',
      rate: '24',
      firstTimecode: '01:00:00:00',
      lengthSeconds: 20,
    }),
  })
  reelId = ((await made.json()) as { id: string }).id
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  await page.goto(`${server.url}/reels/${reelId}`)
  await page.getByLabel('Path of a movie on the server').fill(movie)
  await page.keyboard.press('Enter')
  await page.locator('[data-picture][data-frame]').waitFor({ timeout: 90_000 })
  editor = await Editor.open(browser, server.url, reelId)
  await page.close()
  page = editor.page
}, 120_000)
afterAll(async () => {
  await browser?.close()
  await server?.close()
  rmSync(folder, { recursive: true })
})

const cues = async (): Promise<Cue[]> => cuesInOrder(await editor.document())
const at = async (frame: number): Promise<void> => {
  await editor.goTo(
    `1:00:${String(Math.floor(frame / 24)).padStart(2, '0')}:${String(frame % 24).padStart(2, '0')}`,
  )
  await editor.seesFrame(frame)
}
const bar = (place: string): Promise<void> => page.click(`nav >> text="${place}"`)
/** Goes to the Sheet, and waits until it is there: the picture stands on the pages before it, too. */
const toSheet = async (): Promise<void> => {
  await bar('Sheet')
  await page.waitForSelector('[data-sheet]')
  await editor.seesPicture()
}

describe('hands on the Sheet', () => {
  it('go from cut to cut and onset to onset, and say where there is none', async () => {
    await at(0)
    await editor.press('c')
    await editor.seesFrame(96)
    await editor.press('c')
    await editor.seesFrame(192)
    await editor.press('c')
    await page.getByText('There is no later cut').waitFor()
    await editor.press('Shift+C')
    await editor.seesFrame(96)
    await editor.press('o')
    await page.waitForFunction(
      () =>
        Math.abs(Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']) - 120) <=
        1,
    )
  })

  it('hold a key for a span, repeat a cue with its words, and jump back while it rolls', async () => {
    await at(100)
    await editor.press('Space')
    await editor.rollsTo(110)
    await page.keyboard.down('2')
    await editor.rollsTo((await editor.pictureFrame()) + 14)
    await page.keyboard.up('2')
    await editor.type('cloth')
    await editor.press('Enter')
    // However long the typing took: the reel rolls on from three seconds before the key.
    const rolled = await editor.pictureFrame()
    await editor.press('b')
    await page.waitForFunction(
      (frame) => Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']) < frame,
      rolled,
      { polling: 'raf' },
    )
    await editor.press('k')
    const [held] = await cues()
    expect(held).toMatchObject({ category: 'FOL', number: 1, words: 'cloth' })
    expect(held!.out - held!.in).toBeGreaterThan(12)
    await at(200)
    await editor.press('r')
    expect((await cues())[1]).toMatchObject({
      category: 'FOL',
      number: 2,
      words: 'cloth',
      in: 200,
      out: 200 + held!.out - held!.in,
    })
    await at(210)
    await editor.press(']', '\\')
    expect((await cues())[1]).toMatchObject({ in: 200, out: 211, sync: 210 })
  })

  it('leave questions on cues and notes on frames, answer and close them', async () => {
    await editor.press('n')
    await editor.type('wool or leather?')
    await editor.press('Enter')
    await page.getByLabel('Answer').fill('wool')
    await page.keyboard.press('Enter')
    await page.locator('body').click({ position: { x: 900, y: 20 } })
    await page.click('[data-sheet]', { position: { x: 600, y: 720 } })
    await at(50)
    await editor.press('n')
    await editor.type('reel begins late')
    await editor.press('Enter')
    await page.locator('[data-note]').waitFor()
    const talks = talksOf(await editor.document())
    expect(talks).toMatchObject([
      { frame: 50, note: { question: false, cueId: null, author: 'Tester' } },
      { frame: 210, note: { question: true, words: 'wool or leather?' }, replies: [{ words: 'wool' }] },
    ])
    await page.click('article >> text=Close')
    await page.locator('[data-note]').waitFor({ state: 'detached' })
  })

  it('watch for one category; what has rolled by is remembered for it alone', async () => {
    await page.selectOption('select:has-text("all alike")', 'BG')
    await at(24)
    await editor.press('Space')
    await editor.rollsTo(60)
    await editor.press('Space')
    await page.locator('[data-watched]').waitFor()
    const watched = (await (await fetch(`${server.url}/api/reels/${reelId}/watched`)).json()) as Watched[]
    expect(watched).toMatchObject([{ person: 'Tester', category: 'BG', spans: [{ from: 24 }] }])
    expect(watched[0]!.spans[0]!.to).toBeGreaterThanOrEqual(60)
    await page.selectOption('select:has-text("all alike")', '')
  })

  it('jump by the overview', async () => {
    if ((await page.locator('[data-overview]').count()) === 0) await editor.press('v')
    const box = (await page.locator('[data-overview] svg').boundingBox())!
    await page.mouse.click(box.x + 60, box.y + box.height / 2)
    // Half of 288 frames, to the pixel.
    await page.waitForFunction(
      () =>
        Math.abs(Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']) - 144) <=
        1,
    )
    await editor.press('v')
  })

  it('check the 2-pop against the programme and move the picture to it', async () => {
    await bar('Reel')
    await page.getByLabel('Programme begins').fill('1:00:04:00')
    await page.keyboard.press('Enter')
    const wrong = page.locator('[data-leader="wrong"]')
    expect(await wrong.textContent()).toContain(
      '2-pop heard at 01:00:01:06; for a programme at 01:00:04:00 it belongs at 01:00:02:00',
    )
    await page.click('text=Move the picture by 18 frames')
    await page.locator('[data-leader="right"]').waitFor()
    expect([...(await editor.document()).cut.values()]).toMatchObject([{ offset: 18 }])
    await page.keyboard.press('Control+z')
  })
})

describe('the palette', () => {
  it('finds an action by its words and does it', async () => {
    await toSheet()
    await at(0)
    await editor.press('Control+k')
    await page.getByLabel('What to do').fill('next cut')
    await page.keyboard.press('Enter')
    await editor.seesFrame(96)
    await editor.press('Shift+Slash')
    await page.getByText('Previous cut').waitFor()
    await editor.press('Escape')
  })
})

describe('hands on the list', () => {
  it('find and replace, renumber after a look, group, and come back to a named view', async () => {
    await bar('List')
    await page.click('text=Replace')
    await page.getByLabel('Find', { exact: true }).fill('cloth')
    await page.getByLabel('Replace by').fill('coat')
    await page.click('text=Replace in 2 cues')
    expect((await cues()).map((cue) => cue.words)).toEqual(['coat', 'coat'])
    await page.click('text=Close')
    await page.click('text=Renumber')
    await page.getByLabel('First number').fill('100')
    expect(await page.getByLabel('What would change').textContent()).toContain('FOL 001→FOL 100')
    await page.click('text=Renumber 2 cues')
    expect((await cues()).map((cue) => cue.number)).toEqual([100, 101])
    await page.selectOption('[aria-label="Group"]', 'category')
    await page.getByText('FOL Foley').waitFor()
    await page.getByText('2 cues', { exact: true }).waitFor()
    await page.click('text=Views')
    await page.getByLabel('Name of this view').fill('by category')
    await page.keyboard.press('Enter')
    await page.click('text=Everything by time')
    await page.getByText('FOL Foley').waitFor({ state: 'detached' })
    await page.reload()
    await page.click('text=Views')
    await page.click('button:text-is("by category")')
    await page.getByText('FOL Foley').waitFor()
  })

  it('compare with a milestone, after more work was done', async () => {
    await bar('Compare')
    await page.getByLabel('Name of the milestone').fill('first pass')
    await page.keyboard.press('Enter')
    await page.click('button:has-text("first pass")')
    await page.getByText('Nothing of that kind: 2 lines').waitFor()
    await toSheet()
    await at(20)
    await editor.press('Escape', '6')
    await editor.type('drone')
    await editor.press('Enter')
    await bar('Compare')
    await page.locator('[data-difference="mine"]', { hasText: 'drone' }).waitFor()
    // Only here: there is nothing to take over.
    expect(await page.locator('[data-difference="mine"] >> text=Take over').count()).toBe(0)
  })
})

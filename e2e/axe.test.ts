import { createRequire } from 'node:module'
import type axe from 'axe-core'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { onDemo } from './support/demo.js'

const SOURCE = createRequire(import.meta.url).resolve('axe-core/axe.min.js')
const REEL = '/reels/demo-reel-1'

/** A screen or a dialog: its address, what is done when it is there, and what then says that all is there. */
interface Screen {
  readonly name: string
  readonly url: string
  readonly open?: (page: Page) => Promise<unknown>
  readonly seen: string
}

const press = (key: string) => (page: Page) => page.keyboard.press(key)
const click = (selector: string) => (page: Page) => page.locator(selector).first().click()

const SCREENS: readonly Screen[] = [
  { name: 'the start page', url: '/', seen: '[data-reel]' },
  { name: 'the form of a reel', url: '/', open: click('text=New reel …'), seen: 'form' },
  { name: 'the Sheet', url: REEL, seen: '[data-clip]' },
  { name: 'the card of a sound', url: REEL, open: click('[data-clip]'), seen: '[aria-label^="Gain"]' },
  { name: 'the card of a cue', url: REEL, open: click('[data-cue]'), seen: '[aria-label="What is heard"]' },
  { name: 'the card of several', url: REEL, open: press('Control+a'), seen: '[data-card]' },
  { name: 'the card of a track', url: REEL, open: click('[data-head] button'), seen: '[data-card]' },
  { name: 'a try', url: REEL, open: tryOne, seen: '[data-try="true"]' },
  { name: 'rides', url: REEL, open: press('i'), seen: '[data-ride]' },
  { name: 'all tracks in sight', url: REEL, open: press('Shift+v'), seen: '[data-clip]' },
  { name: 'the overview', url: REEL, open: press('v'), seen: '[data-overview]' },
  { name: 'the balance', url: REEL, open: press('Shift+b'), seen: '[data-balance]' },
  { name: 'the keys', url: REEL, open: press('Shift+Slash'), seen: '[role=dialog] h2, [role=dialog] input' },
  { name: 'keys being changed', url: REEL, open: changeKeys, seen: '[aria-label="Keyboard"]' },
  { name: 'the palette', url: REEL, open: press('Control+k'), seen: '[role=dialog] h2, [role=dialog] input' },
  { name: 'the history', url: REEL, open: press('Shift+h'), seen: '[data-history] li' },
  { name: 'the notes', url: REEL, open: press('Shift+n'), seen: '[data-talk]' },
  { name: 'the row of pools', url: REEL, open: press('Shift+k'), seen: '[data-perform]' },
  { name: 'a pool', url: REEL, open: fillKey, seen: '[aria-label="In the pool"]' },
  { name: 'stacks', url: REEL, open: chooseVariation, seen: '[data-variation]' },
  { name: 'a plan of stacks', url: REEL, open: openPlan, seen: '[aria-label="What is searched"]' },
  { name: 'the card of a stack', url: REEL, open: chooseStack, seen: '[data-stack-card]' },
  { name: 'a draft', url: REEL, open: press('Shift+d'), seen: '[data-draft="whole"]' },
  { name: 'the list', url: `${REEL}/list`, seen: '[data-row]' },
  { name: 'the comparison', url: `${REEL}/compare`, seen: 'main' },
  { name: 'the facts of a reel', url: `${REEL}/facts`, seen: '[aria-label="Naming rule"]' },
  { name: 'the import', url: `${REEL}/import`, seen: 'input[type=file]' },
  { name: 'the turnover', url: `${REEL}/turnover`, seen: '[data-sheet-page]' },
  { name: 'the sounds', url: '/sounds', seen: '[role=option]' },
  { name: 'about a sound', url: '/sounds', open: click('[data-sound]'), seen: '[data-strip]' },
  { name: 'the guide', url: '/guide', seen: '.guide h1' },
  { name: 'no such page', url: '/nowhere', seen: 'main, [role=alert], h1, p' },
]

async function tryOne(page: Page): Promise<void> {
  await page.keyboard.press('/')
  await page.keyboard.type('bolt iron')
  await page.waitForSelector('text=2 sounds')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
}

async function fillKey(page: Page): Promise<void> {
  await page.keyboard.press('Shift+k')
  await page.getByRole('button', { name: 'Fill key N' }).click()
}

async function chooseVariation(page: Page): Promise<void> {
  await page.keyboard.press('Shift+g')
  await page.locator('[role=option]').first().click()
}

async function openPlan(page: Page): Promise<void> {
  await page.keyboard.press('Shift+g')
  await page.getByRole('button', { name: 'Edit …' }).click()
}

async function chooseStack(page: Page): Promise<void> {
  await page.keyboard.press('.')
  await page.keyboard.type('1:00:57:0')
  await page.keyboard.press('Enter')
  await page.locator('[data-stack="lead"]').click()
}

async function changeKeys(page: Page): Promise<void> {
  await page.keyboard.press('Shift+Slash')
  await page.getByRole('button', { name: 'Change keys' }).click()
}

/** Cues and sounds show as many of their words as fit, with … at the cut, which axe takes for another name: see below. */
const ON_PAPER = /^label-content-name-mismatch: <\w+ [^>]*data-(cue|clip)=/

/** Names of cues and sounds on the paper which do not hold what can be read on them, up to where it is cut. */
function namesThatSayOtherwise(): string[] {
  const plain = (text: string): string => text.replace(/\s+/g, ' ').trim().toLowerCase()
  return [...document.querySelectorAll('button[data-cue], [role=button][data-clip]')].flatMap((element) => {
    const name = plain(element.getAttribute('aria-label') ?? '')
    const read = document.createTreeWalker(element, NodeFilter.SHOW_TEXT)
    const texts: string[] = []
    while (read.nextNode())
      if (!read.currentNode.parentElement?.closest('[aria-hidden]'))
        texts.push(read.currentNode.textContent ?? '')
    return texts
      .flatMap((text) => text.split('…'))
      .map(plain)
      .filter((text) => !name.includes(text))
      .map((text) => `“${text}” is not in “${name}”`)
  })
}

const stage = onDemo()

describe.each(['light', 'dark'] as const)('axe-core finds nothing serious or critical, %s', (colorScheme) => {
  it.each(SCREENS)('$name', async ({ url, seen, open }) => {
    // What axe runs in the page is not of Yodel's own, which its rules of content forbid.
    const context = await stage.browser.newContext({
      ...{ viewport: { width: 1280, height: 800 }, colorScheme, bypassCSP: true },
    })
    try {
      const page = await context.newPage()
      await page.goto(stage.server.url + url)
      if (open) {
        await page
          .locator(url === REEL ? '[data-clip]' : 'main')
          .first()
          .waitFor()
        await open(page)
      }
      await page.locator(seen).first().waitFor()
      await page.addScriptTag({ path: SOURCE })
      const { violations } = await page.evaluate(() =>
        (globalThis as unknown as { axe: typeof axe }).axe.run(),
      )
      const serious = violations
        .filter(({ impact }) => impact === 'serious' || impact === 'critical')
        .flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`))
        .filter((found) => !ON_PAPER.test(found))
      expect(serious).toEqual([])
      expect(await page.evaluate(namesThatSayOtherwise)).toEqual([])
    } finally {
      await context.close()
    }
  })
})

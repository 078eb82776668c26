import { tracksInOrder } from '@yodel/core'
import { expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const stage = onDemo()

it('a forgotten solo is said before the mix is bounced, and ended from there', async () => {
  const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
  const { page } = editor
  const tracks = tracksInOrder(await editor.document())
  const name = tracks[0]?.name ?? ''
  await page.getByRole('button', { name: `Solo ${name}` }).click()
  await editor.saved()
  await page.click('nav >> text=Turnover')
  await expect.poll(() => page.locator('[data-check="silence"]').textContent()).toContain(`${name} is soloed`)

  await page.click('text=Bounce the mix')
  const asked = page.getByRole('alertdialog')
  await expect.poll(() => asked.textContent()).toContain(`Soloed: ${name}`)
  expect(await asked.getByText('another is soloed').count()).toBeGreaterThan(2)
  expect(await page.locator('progress').count()).toBe(0)
  await asked.getByRole('button', { name: 'End every solo' }).click()
  await expect.poll(() => asked.textContent()).toContain('Every track is heard now.')
  expect([...(await editor.document()).track.values()].some((track) => track.solo)).toBe(false)
  await asked.getByRole('button', { name: 'Bounce the mix' }).click()
  await page.waitForSelector('[data-mix]', { timeout: 60_000 })
  await page.close()
}, 120_000)

it('a finding leads to its place, goes when it is mended, and stays away when it was accepted', async () => {
  const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
  const { page } = editor
  const strip = page.getByRole('region', { name: 'Findings' })
  const left = async (): Promise<number> => Number(await strip.getAttribute('data-findings'))
  const group = page.locator('[data-check="empty"]')
  await page.click('nav >> text=Turnover')
  await group.getByRole('button').first().click()
  const empty = Number(await group.locator('b').first().textContent())
  expect(empty).toBeGreaterThan(15)
  await group.locator('[data-finding] button').first().click()

  // On the Sheet: gate and selection stand at it, and its neighbours are marked.
  await expect.poll(() => strip.textContent()).toMatch(/nothing is placed/)
  const [, code = ''] = /([A-Z]+ \d{3}) /.exec((await strip.textContent()) ?? '') ?? []
  await expect.poll(() => page.getByLabel('Picture and selection').textContent()).toContain(code)
  expect(await page.locator('[data-finding-mark]').count()).toBeGreaterThan(0)
  const all = await left()

  await strip.getByRole('button', { name: 'Accept …' }).click()
  await editor.type('The music covers it')
  await editor.press('Enter')
  await expect.poll(left).toBe(all - 1)
  await editor.saved()
  expect([...(await editor.document()).acceptance.values()]).toMatchObject([
    { check: 'empty', reason: 'The music covers it', by: 'Tester' },
  ])

  // The next one is mended by a sound on its cue, and what belongs to it is found no more.
  await editor.press('Alt+PageDown')
  await expect.poll(() => strip.textContent()).toMatch(/of \d+/)
  const before = await editor.document()
  while (!/nothing is placed/.test((await strip.textContent()) ?? '')) await editor.press('Alt+PageDown')
  await editor.choosesFirst('ground frame lever')
  await editor.press('t')
  await expect.poll(() => page.locator('[data-try="true"]').count()).toBe(1)
  await editor.press('Enter', 'Escape')
  const kept = Editor.newClip(before, await editor.document())
  expect(kept.cueId).not.toBeNull()
  await expect.poll(() => strip.textContent()).toContain('That one is done.')

  await page.click('nav >> text=Turnover')
  await expect.poll(() => group.locator('b').first().textContent()).toBe(String(empty - 2))
  const accepted = page.locator('[data-accepted]')
  expect(await accepted.getAttribute('data-accepted')).toBe('1')
  await accepted.locator('summary').click()
  await accepted.getByRole('button', { name: 'Take back' }).click()
  await expect.poll(() => group.locator('b').first().textContent()).toBe(String(empty - 1))
  await page.close()
}, 120_000)

it('the demo’s drop-frame reel has a first turnover, and what was changed since', async () => {
  const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-2')
  const { page } = editor
  // The first frame after the dropped numbers of the minute, under the train.
  await editor.goTo('2:01:00:02')
  await editor.seesFrame(240 + 1800)
  await page.click('nav >> text=Turnover')
  const went = page.locator('[data-turnover="1"]')
  await went.getByText('Temp mix for the edit').waitFor()
  await went.getByRole('button', { name: 'Since then' }).click()
  await expect
    .poll(() => went.locator('[data-since-kind]').allTextContents())
    .toEqual([
      expect.stringMatching(/Ground frame lever, set 3 moved by \+\S*02/),
      expect.stringMatching(/Engine whistle short.*−8\.0 dB to −5\.0 dB/),
      expect.stringMatching(/Title music/),
    ])
  await page.close()
}, 120_000)

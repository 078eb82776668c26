import { readFileSync } from 'node:fs'
import path from 'node:path'
import { beforeAll, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { onEmpty } from './support/empty.js'

const stage = onEmpty()
let page: Page
beforeAll(() => {
  page = stage.page
})
const rows = () => page.locator('[data-reel]')

it('an empty Yodel leads to a first reel; it is renamed, thrown away, and brought back', async () => {
  await page.goto(stage.server.url)
  await page.getByRole('heading', { name: 'Nothing is here yet' }).waitFor()
  await page.getByRole('button', { name: 'Make the first reel' }).click()
  await page.getByLabel('Show', { exact: true }).fill('Harbour')
  expect(await page.getByLabel('Reel', { exact: true }).inputValue()).toBe('Reel 1')
  await page.getByRole('button', { name: 'Make the reel' }).click()
  await page.locator('[data-timecode]').waitFor()
  await page.keyboard.press('.')
  await page.keyboard.type('01:00:05:00')
  await page.keyboard.press('Enter')
  await page.keyboard.press('1')
  await page.keyboard.press('Escape')
  await page.getByText(/^Saved/).waitFor()

  await page.getByRole('link', { name: 'Yodel, all shows' }).click()
  await page.locator('[data-go-on]').getByText('01:00:05:00').waitFor()
  await rows().getByText('1 open').waitFor()
  await rows().hover()
  await page.getByRole('button', { name: 'More of Reel 1' }).click()
  await page.getByRole('button', { name: 'Rename …' }).click()
  await page.keyboard.type('Pier')
  await page.keyboard.press('Enter')
  await rows().getByText('Pier').waitFor()
  await rows().hover()
  await page.getByRole('button', { name: 'More of Pier' }).click()
  await page.getByRole('button', { name: 'Throw away' }).click()
  await page.getByRole('heading', { name: 'Nothing is here yet' }).waitFor()
  await page.getByRole('button', { name: 'Thrown away 1' }).click()
  await page.getByRole('button', { name: 'Bring back' }).click()
  await page.keyboard.press('Escape')
  await rows().getByText('1 open').waitFor()

  // The next one is never called like one that is there.
  await page.getByRole('button', { name: 'New reel …' }).click()
  expect(await page.getByLabel('Reel', { exact: true }).inputValue()).toBe('Reel 1')
  await page.getByLabel('Reel', { exact: true }).fill('Pier')
  await page.getByRole('button', { name: 'Make the reel' }).click()
  await page.getByText('Harbour has a reel called Pier already').waitFor()
  await page.getByRole('button', { name: 'Cancel' }).click()

  await page.getByRole('button', { name: 'Open the Sheet' }).click()
  await expect.poll(() => page.locator('[data-timecode]').textContent()).toBe('01:00:05:00')
}, 60_000)

it('recordings that are dropped onto the Sounds page are found there, and the way back leads to the reel', async () => {
  await page.getByRole('link', { name: 'Sounds' }).click()
  await page.getByText('No shelf yet').first().waitFor()
  const file = stage.make('gulls over the quay.wav', '-f', 'lavfi', '-i', 'sine=440:d=1')
  const bytes = readFileSync(file).toString('base64')
  const dropped = await page.evaluateHandle(
    ([name, text]) => {
      const data = new DataTransfer()
      data.items.add(
        new File([Uint8Array.from(atob(text as string), (one) => one.charCodeAt(0))], name as string),
      )
      return data
    },
    [path.basename(file), bytes],
  )
  await page.dispatchEvent('body', 'dragover', { dataTransfer: dropped })
  await page.getByText('Drop recordings or folders').waitFor()
  await page.dispatchEvent('body', 'drop', { dataTransfer: dropped })
  await page.getByText('Dropped here').waitFor()
  await page.getByRole('option', { name: /gulls over the quay/ }).waitFor({ timeout: 30_000 })
  await page.getByRole('link', { name: 'Sheet', exact: true }).click()
  await expect.poll(() => page.locator('[data-timecode]').textContent()).toBe('01:00:05:00')
}, 60_000)

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
  const fact = page.getByText('are not heard in the mix')
  await expect.poll(() => fact.count()).toBe(1)

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

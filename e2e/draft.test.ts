import { coverageOf, cuesInOrder, syncPlace } from '@yodel/core'
import { expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const stage = onDemo()

it('a draft of the reel is walked through by key, the rest of it kept above a line, and nothing is in the reel before', async () => {
  const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
  const { page } = editor
  const before = await editor.document()
  const open = cuesInOrder(before).filter(
    (cue) => cue.state !== 'omitted' && coverageOf(before, cue) === 'nothing',
  )
  await editor.press('Shift+D')
  const strip = page.getByRole('region', { name: 'Draft' })
  await page.locator('[data-draft="whole"]').waitFor()
  await page.locator('[data-try="true"]').first().waitFor()
  const candidate = strip.getByLabel('Candidate')
  expect(await candidate.locator('option').count()).toBeGreaterThan(3)
  await editor.press('ArrowDown')
  await expect.poll(() => candidate.inputValue()).toBe('1')
  await editor.press('ArrowUp')
  await expect.poll(() => candidate.inputValue()).toBe('0')
  expect((await editor.document()).clip.size).toBe(before.clip.size)
  await editor.press('Enter', 'PageDown')
  const one = await editor.document()
  const [first] = open
  const fresh = [...one.clip.values()].filter(({ id }) => !before.clip.has(id))
  expect(fresh.map(({ cueId }) => cueId)).toEqual([first?.id])
  expect(fresh.map(syncPlace)).toEqual([(first?.category === 'BG' ? first.in : (first?.sync ?? 0)) * 2000])

  await strip.getByLabel('How sure at least').selectOption('60')
  await strip.getByRole('button', { name: /^Keep all \d/ }).click()
  await page.getByText(/^Kept \d+ choices of the draft/).waitFor()
  const kept = await editor.document()
  const count = kept.clip.size - one.clip.size
  expect(count).toBeGreaterThan(8)
  // What the walk left alone is kept with nothing, nor is what had sounds touched.
  expect(
    [...before.clip.values()].every(
      (clip) =>
        kept.clip.get(clip.id) === undefined ||
        JSON.stringify(kept.clip.get(clip.id)) === JSON.stringify(clip),
    ),
  ).toBe(true)
  await editor.press('Control+z')
  await expect.poll(async () => (await editor.document()).clip.size).toBe(one.clip.size)
  await strip.getByRole('button', { name: 'End the draft' }).click()
  await strip.waitFor({ state: 'detached' })
})

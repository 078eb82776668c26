import { clipsByGroup, syncPlace, type Clip, type ReelDocument, type SoundPage } from '@yodel/core'
import type { Locator, Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const stage = onDemo()
const FRAME = 2000
const layersOf = (doc: ReelDocument, id: string): readonly Clip[] => clipsByGroup(doc).get(id) ?? []
const freshStack = (before: ReelDocument, after: ReelDocument): string =>
  [...after.stack.keys()].find((id) => !before.stack.has(id)) ?? ''

const variations = (page: Page): Locator => page.getByRole('listbox', { name: 'Variations' })

describe('a stack', () => {
  it('is made by rule, tried on a cue by the keys of results, kept, and is one thing from then on', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
    const { page } = editor
    const before = await editor.document()
    await editor.goTo('1:01:24:0')
    await editor.press('PageDown', 'Shift+G')
    await variations(page).getByRole('option').nth(5).waitFor()
    await variations(page).focus()
    await editor.press('ArrowDown', 'Enter')
    await page.locator('[data-try="true"]').nth(3).waitFor()
    await editor.press('ArrowDown')
    await variations(page).getByRole('option', { name: /^2 /, selected: true }).waitFor()
    expect((await editor.document()).clip.size).toBe(before.clip.size)
    await editor.press('Enter')
    const kept = await editor.document()
    const id = freshStack(before, kept)
    expect(kept.stack.get(id)).toMatchObject({ name: 'Engine comes near', variation: '2' })
    const cue = kept.cue.get(layersOf(kept, id)[0]?.cueId ?? '')
    expect(layersOf(kept, id).some((clip) => syncPlace(clip) === (cue?.sync ?? 0) * FRAME)).toBe(true)

    // A frame later, softer, another variation, each as one step of one thing.
    await editor.press('Alt+ArrowDown', 'Alt+-', 'Alt+-')
    const moved = await editor.document()
    for (const clip of layersOf(moved, id)) {
      const was = kept.clip.get(clip.id)
      expect([clip.start - (was?.start ?? 0), Math.round((clip.gain - (was?.gain ?? 0)) * 10) / 10]).toEqual([
        FRAME,
        -2,
      ])
    }
    await editor.press('Alt+c')
    await page.getByText('variation 3').waitFor()
    const swapped = await editor.document()
    expect(swapped.stack.get(id)?.variation).toBe('3')
    expect(layersOf(swapped, id).some((clip) => syncPlace(clip) === ((cue?.sync ?? 0) + 1) * FRAME)).toBe(
      true,
    )
    await editor.press('Control+z')
    await page.getByText('variation 2').waitFor()
    expect(layersOf(await editor.document(), id)).toEqual(layersOf(moved, id))

    // Opened, one layer is chosen and goes alone; closed again, it is one thing.
    await page.locator('[data-stack="lead"]').filter({ hasText: 'Engine' }).first().waitFor()
    await editor.reload()
    await editor.goTo('1:01:24:0')
    await page
      .locator('[data-stack="lead"]')
      .first()
      .click({ position: { x: 20, y: 40 } })
    await editor.press('Shift+E')
    const whistle = layersOf(moved, id).find(({ name }) => name.startsWith('Shunter whistle')) as Clip
    await page.locator(`[data-clip="${whistle.id}"]`).click()
    await editor.press('m')
    const one = await editor.document()
    expect(
      layersOf(one, id)
        .filter(({ mute }) => mute)
        .map(({ id: muted }) => muted),
    ).toEqual([whistle.id])
  })

  it('is written as recordings that are found by their name', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
    const { page } = editor
    await editor.press('Shift+G')
    await page.getByLabel('How many variations').fill('4')
    await page.keyboard.press('Enter')
    await variations(page).getByRole('option').nth(3).waitFor()
    expect(await variations(page).getByRole('option').count()).toBe(4)
    await page.getByRole('button', { name: 'all 4' }).click()
    await page.getByText('4 written to the show’s shelf “Made here”.').waitFor()
    const find = async (): Promise<SoundPage> =>
      (await (await fetch(`${stage.server.url}/api/sounds?q=engine+comes+near`)).json()) as SoundPage
    await expect.poll(async () => (await find()).sounds.length, { timeout: 30_000 }).toBe(4)
    await page.getByRole('button', { name: 'all 4' }).click()
    await page.getByText('4 were there already.').waitFor()
  })

  it('of a plan that is made in the dialog', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
    const { page } = editor
    await editor.press('Shift+G')
    await page.getByRole('button', { name: 'New plan …' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Name of the plan').fill('Latch')
    await page.keyboard.press('Enter')
    for (const [name, words] of [
      ['Clack', 'lever'],
      ['Nothing', 'zither'],
    ] as const) {
      await dialog.getByRole('button', { name: 'Add a layer' }).click()
      await dialog.getByLabel('Name of the layer').fill(name)
      await page.keyboard.press('Enter')
      await dialog.getByLabel('What is searched').fill(words)
      await page.keyboard.press('Enter')
    }
    // Limits the wrong way round are put right, and what is too much is held.
    await dialog.getByLabel('Gain, dB, lowest').fill('9')
    await page.keyboard.press('Enter')
    await dialog.getByText('0 found').waitFor()
    await dialog.getByRole('button', { name: 'Done' }).click()
    await page.getByText('Nothing is found for Nothing').waitFor()
    await variations(page).getByRole('option', { name: /^1 / }).click()
    await page.getByLabel('How many variations').fill('10000')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'all 1000' }).waitFor()
    await page.getByRole('button', { name: 'Edit …' }).click()
    await dialog.getByRole('button', { name: 'Nothing “zither”' }).click()
    expect(await dialog.getByLabel('Gain, dB, highest').inputValue()).toBe('9')
    await dialog.getByRole('button', { name: 'Throw the plan away' }).click()
    await dialog.getByRole('button', { name: 'Put the plan back' }).click()
    await dialog.getByRole('button', { name: 'Throw the plan away' }).click()
    await dialog.getByRole('button', { name: 'Put the plan back' }).waitFor()
    await dialog.getByRole('button', { name: 'Done' }).click()
    await expect.poll(() => page.getByLabel('Plan', { exact: true }).textContent()).toBe('Engine comes near')
  })
})

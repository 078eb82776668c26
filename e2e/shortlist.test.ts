import { shortlistOf, syncPlace } from '@yodel/core'
import { expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const stage = onDemo()

it('keeps a ranked shortlist of a cue, goes through it while the moment loops, and keeps of it only what is kept', async () => {
  const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
  const { page } = editor
  const before = await editor.document()
  const cue = [...before.cue.values()].find(({ words }) => words.startsWith('Signalman walks up'))!
  const choose = async (name: string): Promise<void> => {
    await page.fill('[data-search]', name)
    await page.waitForFunction(
      (wanted) => (document.querySelector('[role="listbox"]') as HTMLElement).dataset['shown'] === wanted,
      name,
    )
    await page.locator('[data-sound]').first().click()
  }
  await page.click('text=Signalman walks up')
  await choose('boot on gravel 1')
  await page.click('[data-shortlist] >> text=Add')
  await choose('boot on boards 2')
  await page.click('[data-shortlist] >> text=Add')
  // The same one again is refused, and says so.
  await page.click('[data-shortlist] >> text=Add')
  await page.waitForSelector('text=the shortlist of FOL 001')
  await page.click('[aria-label="Rank Boot on boards 2 higher"]')
  await page.fill('[aria-label="Remark on Boot on gravel 1"]', 'too wet')
  await editor.press('Enter')
  const listed = shortlistOf(await editor.document(), cue.id)
  expect(listed.map(({ name, remark }) => [name, remark])).toEqual([
    ['Boot on boards 2', ''],
    ['Boot on gravel 1', 'too wet'],
  ])

  await editor.reload()
  await page.click('text=Signalman walks up')
  const heard = async (index: number): Promise<void> =>
    void (await page.waitForFunction(
      (sound) => document.querySelector(`[data-candidate="${sound}"]`)?.className.includes('shadow'),
      listed[index]!.soundId,
    ))
  await editor.press('Shift+T')
  await heard(0)
  // The arrows go on from there, round and round, while the moment loops.
  await editor.press('ArrowDown')
  await heard(1)
  await editor.press('ArrowDown')
  await heard(0)
  await editor.press('ArrowUp')
  await heard(1)
  await editor.press('Shift+T')
  await heard(0)
  expect((await editor.document()).clip.size).toBe(before.clip.size)
  await editor.press('Enter')
  const placed = Editor.newClip(before, await editor.document())
  expect([placed.name, placed.cueId]).toEqual(['Boot on boards 2', cue.id])
  // The people in the room want number two after all: in its place, to the sample.
  await editor.press('Alt+l')
  await expect.poll(async () => (await editor.document()).clip.get(placed.id)?.name).toBe('Boot on gravel 1')
  expect(syncPlace((await editor.document()).clip.get(placed.id)!)).toBe(syncPlace(placed))
  await editor.press('Control+z')
  await editor.press('Control+z')
  expect((await editor.document()).clip).toEqual(before.clip)
  await page.close()
}, 180_000)

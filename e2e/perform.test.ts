import { EVENTS, LEADER } from '@yodel/demo'
import {
  documentOf,
  formatTimecode,
  frames,
  frameToSample,
  FRAME_RATES,
  type Clip,
  type ReelDocument,
} from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const REEL = 'demo-reel-1'
const stage = onDemo()
const FRAME = 2000
const rate = FRAME_RATES['24']

const fresh = (before: ReelDocument, after: ReelDocument): Clip[] =>
  [...after.clip.values()].filter(({ id }) => !before.clip.has(id))
const attack = ({ start, sync, offset }: Clip): number => start + sync - offset
const timecode = (frame: number): string => formatTimecode(frames(3600 * 24 - LEADER + frame), rate)

/** Opens the row of pools. */
async function openRow(editor: Editor): Promise<void> {
  await editor.press('Shift+K')
  await editor.page.getByRole('region', { name: 'Perform' }).waitFor()
}

/** Puts the boots on gravel on the fourth key. */
async function fillBoots({ page }: Editor): Promise<void> {
  await page.getByRole('button', { name: 'Fill key V' }).click()
  await page.getByLabel('What a search finds').fill('boot gravel one step')
  await page.keyboard.press('Enter')
  await page.getByRole('list', { name: 'In the pool' }).getByText('Boot on gravel 6').waitFor()
  await page.getByRole('button', { name: 'Done' }).click()
  await page.locator('[data-pad="3"]').waitFor()
  // Everything that can be hit lies ready before anybody hits it.
  await page.waitForLoadState('networkidle')
}

/** Frames at which the signalman's boots land in the yard. */
const STEPS = EVENTS.filter(({ what }) => what === 'step gravel')
  .map(({ frame }) => frame)
  .slice(0, 6)

/** Rolls through the walk at half speed and hits at each step, as soon as it is seen. */
async function walk(editor: Editor, hit: () => Promise<unknown>): Promise<void> {
  await editor.page.click('[aria-label="Speed 0.5"]')
  await editor.goTo(timecode((STEPS[0] ?? 0) - 24))
  await editor.press('Space')
  for (const step of STEPS) {
    await editor.rollsTo(step)
    await hit()
  }
  await editor.press('Space')
}

/** Walks once to tell how late this hand is, takes that off from then on, and drops that take. */
async function measureHand(editor: Editor, hit: () => Promise<unknown>): Promise<void> {
  const { page } = editor
  await walk(editor, hit)
  await page.locator('[data-take]').getByText('Take 1, 6').waitFor()
  await page.getByLabel('How late your hand is').selectOption('take')
  await page.getByText('taken off what you perform from now on').first().waitFor()
  await page.getByRole('button', { name: 'Drop take 1' }).click()
  await page.locator('[data-take]').waitFor({ state: 'detached' })
}

/** How far each of some sounds is from its step, in frames. */
const awayFromSteps = (clips: readonly Clip[]): number[] =>
  clips
    .map(attack)
    .toSorted((a, b) => a - b)
    .map((at, index) => Math.abs(at / FRAME - (STEPS[index] ?? 0)))

describe('performing', () => {
  it('the walk in the yard by keys at half speed: each step on the frame that was seen, kept as one step with its cue', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, REEL)
    const { page } = editor
    // Each press leaves the frame that was on the canvas when the browser heard of it.
    await page.addInitScript(() => {
      const seen: number[] = []
      Object.assign(window, { seen })
      window.addEventListener(
        'keydown',
        ({ code }) => {
          if (code === 'KeyV')
            seen.push(Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']))
        },
        { capture: true },
      )
    })
    await editor.reload()
    const before = await editor.document()
    await openRow(editor)
    await fillBoots(editor)
    expect(STEPS).toHaveLength(6)
    await walk(editor, () => editor.press('v'))
    const seen = await page.evaluate(() => (window as unknown as { seen: number[] }).seen)
    await page.locator('[data-take]').getByText('Take 1, 6').waitFor()
    // Nothing of it is in the reel before it is kept.
    expect((await editor.document()).clip.size).toBe(before.clip.size)
    await page.getByLabel('Words of the cue').fill('Signalman comes up the yard')
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    const kept = await editor.document()
    const attacks = fresh(before, kept)
      .map(attack)
      .toSorted((a, b) => a - b)
    expect(attacks).toEqual(seen.map((frame) => frameToSample(frames(frame), rate)))
    const cue = [...kept.cue.values()].find(({ words }) => words === 'Signalman comes up the yard')
    expect(cue).toMatchObject({ category: 'FOL', in: seen[0] })
    expect(fresh(before, kept).every(({ cueId }) => cueId === cue?.id)).toBe(true)
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    await editor.press('Control+z')
    expect((await editor.document()).clip.size).toBe(before.clip.size)
    await page.close()
  }, 120_000)

  it.each(['keys', 'pads'])(
    'the walk by %s, how late the hand is being taken off: each step within a frame of where it lands',
    async (by) => {
      const editor = await Editor.open(stage.browser, stage.server.url, REEL)
      const { page } = editor
      await openRow(editor)
      const pad = page.locator('[data-pad="3"] button').first()
      await pad.waitFor()
      await page.waitForLoadState('networkidle')
      const box = (await pad.boundingBox())!
      const hit = (): Promise<unknown> =>
        by === 'keys' ? editor.press('v') : page.mouse.click(box.x + 20, box.y + box.height - 4)
      await measureHand(editor, hit)
      const before = await editor.document()
      await walk(editor, hit)
      await page.getByRole('combobox', { name: 'Cues' }).selectOption('none')
      await page.getByRole('button', { name: 'Keep', exact: true }).click()
      await page.locator('[data-take]').waitFor({ state: 'detached' })
      const kept = fresh(before, await editor.document())
      expect(kept).toHaveLength(6)
      // The middle hand of a busy machine; a single hit may be caught by whatever else it does.
      const away = awayFromSteps(kept).toSorted((a, b) => a - b)
      expect(away.slice(0, 5).every((frames) => frames <= 1)).toBe(true)
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await editor.press('Control+z')
      expect((await editor.document()).clip.size).toBe(before.clip.size)
      await page.close()
    },
    120_000,
  )

  it('by pads with a pointer; a tab that is closed loses no take, which is moved and kept afterwards', async () => {
    const first = await Editor.open(stage.browser, stage.server.url, REEL)
    await openRow(first)
    await first.page.locator('[data-pad="3"]').waitFor()
    await first.page.waitForLoadState('networkidle')
    await first.goTo('1:00:40:0')
    const pad = (await first.page.getByRole('button', { name: /^boot gravel one step/ }).boundingBox())!
    await first.press('Space')
    for (const [index, depth] of [0.95, 0.3, 0.6].entries()) {
      await first.rollsTo(LEADER + 40 * 24 + 12 * (index + 1))
      await first.page.mouse.click(pad.x + 20, pad.y + depth * pad.height)
    }
    await first.page.getByText('3 hits so far').waitFor()
    await first.page.close({ runBeforeUnload: false })

    const page = await first.page.context().newPage()
    await page.goto(`${stage.server.url}/reels/${REEL}`)
    await page.locator('[data-take]').getByText('Take 1, 3').waitFor()
    const before = documentOf(
      ((await (await fetch(`${stage.server.url}/api/reels/${REEL}`)).json()) as { records: never }).records,
    )
    await page.getByTitle('A frame later', { exact: true }).click()
    await page.getByRole('combobox', { name: 'Cues' }).selectOption('none')
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await page.locator('[data-take]').waitFor({ state: 'detached' })
    await page.waitForSelector('[data-save="saved"]')
    const after = documentOf(
      ((await (await fetch(`${stage.server.url}/api/reels/${REEL}`)).json()) as { records: never }).records,
    )
    const laid = fresh(before, after).toSorted((a, b) => attack(a) - attack(b))
    expect(laid).toHaveLength(3)
    // The lower on the pad, the harder.
    const [hard = 0, soft = 0, middle = 0] = laid.map(({ gain }) => gain)
    expect([hard > middle, middle > soft]).toEqual([true, true])
    for (const clip of laid) expect(attack(clip) % FRAME).toBe(0)
    await page.close()
  }, 120_000)

  it('with a pool filled by marked results on the page of sounds; ten seconds tell how late the hand is', async () => {
    const page = await (await stage.browser.newContext()).newPage()
    await page.goto(`${stage.server.url}/sounds`)
    await page.fill('[data-search]', 'boot on boards')
    await page.locator('[data-shown="boot on boards"] [data-sound]').nth(3).waitFor()
    await page.press('[data-search]', 'ArrowDown')
    await page.focus('[role="listbox"]')
    for (let more = 0; more < 2; more++) await page.keyboard.press('Shift+ArrowDown')
    await page.locator('[data-bulk]').getByText('3 sounds').waitFor()
    await page.getByRole('button', { name: 'Fill N' }).click()
    await page.getByRole('button', { name: 'the 3 marked results' }).click()
    await expect.poll(() => page.getByRole('list', { name: 'In the pool' }).locator('li').count()).toBe(3)
    await page.getByRole('button', { name: 'Done' }).click()
    await page.getByRole('button', { name: /^N Boot on boards/ }).waitFor()
    await page.close()

    const editor = await Editor.open(stage.browser, stage.server.url, REEL)
    await openRow(editor)
    await editor.page.locator('[data-pad="5"]').getByText('Boot on boards').waitFor()
    await editor.page.waitForLoadState('networkidle')
    const steps = EVENTS.filter(({ what }) => what === 'step gravel').map(({ frame }) => frame)
    await editor.goTo(timecode((steps[0] ?? 0) - 12))
    await editor.page.getByLabel('How late your hand is').selectOption('exercise')
    await editor.page.getByText('Hit any key of the row').waitFor()
    for (const step of steps.slice(0, 8)) {
      await editor.rollsTo(step)
      await editor.press('n')
    }
    const outcome = editor.page.locator('[data-lag]')
    await outcome.waitFor({ timeout: 20_000 })
    const ms = Number(await outcome.getAttribute('data-lag'))
    expect(Math.abs(ms)).toBeLessThan(150)
    expect(await editor.page.locator('[data-take]').count()).toBe(0)
    await editor.page.getByRole('button', { name: 'Take it off' }).click()
    await editor.page.getByText(`Lag ${Math.round(ms)} ms`).waitFor({ state: 'attached' })
    await editor.page.close()
  }, 120_000)
})

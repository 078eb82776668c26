import { rideOf, rideValue, ridesOf, syncPlace, tracksAsPrinted, tracksInOrder } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const DEMO = 'demo-reel-1'
const stage = onDemo()

describe('layers', () => {
  it('are heard together, each on a track of its own, and kept as one step; nothing is saved before', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = await editor.document()
    const cue = [...before.cue.values()].find(({ words }) => words.startsWith('Lever nine thrown'))!
    await editor.goTo('1:00:25:10')
    await page.click(`[data-cue="${cue.id}"]`)
    await editor.choosesFirst('ground frame lever')
    const tried = page.locator('[data-try="true"]')
    await editor.press('t')
    await expect.poll(() => tried.count()).toBe(1)
    await editor.press('Shift+Enter')
    await page.focus('[role="listbox"]')
    await editor.press('ArrowDown')
    await expect.poll(() => tried.count()).toBe(2)
    await editor.press('Shift+Enter', 'ArrowDown')
    await expect.poll(() => tried.count()).toBe(3)
    // The second one is left out again.
    await page.locator('[data-held] button').nth(1).click()
    await expect.poll(() => tried.count()).toBe(2)
    const tracks = await tried.evaluateAll((boxes) =>
      boxes.map((box) => box.closest('[data-track]')?.getAttribute('data-track')),
    )
    expect(new Set(tracks).size).toBe(2)
    expect((await editor.document()).clip.size).toBe(before.clip.size)

    await page.focus('[role="listbox"]')
    await editor.press('Enter')
    await expect.poll(() => tried.count()).toBe(0)
    const after = await editor.document()
    const kept = [...after.clip.values()].filter((clip) => !before.clip.has(clip.id))
    expect(kept.map((clip) => [clip.cueId, syncPlace(clip)])).toEqual(
      [cue.id, cue.id].map((id) => [id, cue.sync * 2000]),
    )
    expect(kept[0]!.group).not.toBe('')
    expect(kept[1]!.group).toBe(kept[0]!.group)
    const card = page.locator('[data-card]')
    await card.getByRole('heading', { name: '2 sounds' }).waitFor()
    // What is taken back has no card; when it comes again, it is still selected.
    await editor.press('Control+z')
    expect((await editor.document()).clip).toEqual(before.clip)
    await card.getByRole('heading', { name: 'Reel 1' }).waitFor()
    await editor.press('Control+Shift+z')
    await card.getByRole('heading', { name: '2 sounds' }).waitFor()
    await editor.press('Escape', 'Control+z')
    expect((await editor.document()).clip).toEqual(before.clip)
    await page.close()
  }, 120_000)
})

describe('a try on the next cue', () => {
  it('begins with the best of what its own words find, even where these are looked for still', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = await editor.document()
    const cueOf = (start: string) => [...before.cue.values()].find(({ words }) => words.startsWith(start))!
    await editor.goTo('1:00:25:10')
    await page.click(`[data-cue="${cueOf('Lever nine thrown').id}"]`)
    await page.keyboard.press('t')
    const tried = page.locator('[data-try="true"]')
    await expect.poll(() => tried.first().getAttribute('aria-label')).toMatch(/lever/i)
    await editor.press('Enter')
    const kept = Editor.newClip(before, await editor.document())
    await editor.goTo('1:00:54:16')
    await page.click(`[data-cue="${cueOf('Register shut').id}"]`)
    await page.keyboard.press('t')
    await expect.poll(() => tried.first().getAttribute('aria-label')).toMatch(/register/i)
    const best = page.locator('[role=listbox] [role=option]').first()
    expect(await best.getAttribute('aria-selected')).toBe('true')
    expect(await best.getAttribute('data-sound')).not.toBe(kept.soundId)
    await editor.press('Escape', 'Control+z')
    expect((await editor.document()).clip).toEqual(before.clip)
    await page.close()
  }, 120_000)

  it('is not begun any more when another is selected before anything was found', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    let answer = (): void => undefined
    const asked = new Promise<void>((resolve) => (answer = resolve))
    await page.route('**/api/sounds?*', async (route) => {
      await asked
      await route.continue()
    })
    await editor.goTo('1:00:25:10')
    await page.locator('[data-cue]', { hasText: 'Lever nine thrown' }).click()
    await editor.press('t', 'Escape')
    answer()
    await page.locator('[role=listbox][data-shown*="Lever nine"]').waitFor()
    await page.waitForTimeout(500)
    expect(await page.locator('[data-try="true"]').count()).toBe(0)
    expect(await page.locator('[role=option][aria-selected="true"]').count()).toBe(0)
    await page.close()
  }, 60_000)
})

describe('a try at the gate', () => {
  it('stays where it was begun, whatever comes in its place while the moment goes round', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const before = await editor.document()
    await editor.goTo('1:00:40:0')
    await editor.choosesFirst('ground frame lever')
    await editor.press('t')
    const frame = (40 + 8) * 24
    await editor.rollsTo(frame + 6)
    await editor.page.focus('[role="listbox"]')
    await editor.press('ArrowDown')
    await editor.rollsTo(frame + 12)
    await editor.press('Enter')
    const kept = Editor.newClip(before, await editor.document())
    expect([kept.cueId, syncPlace(kept) / 2000]).toEqual([null, frame])
    await editor.press('Control+z')
    expect((await editor.document()).clip).toEqual(before.clip)
    await editor.page.close()
  }, 120_000)
})

describe('riding by hand', () => {
  it('writes what the keys say from the first touch until the stop, as one step', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = await editor.document()
    const rain = [...before.clip.values()].find((clip) => clip.name === 'Rain on slate, wide')!
    await editor.goTo('1:00:03:0')
    await page.click(`[data-clip="${rain.id}"]`, { position: { x: 20, y: 160 } })
    await editor.press('Shift+R', 'Space')
    const start = await editor.pictureFrame()
    await editor.rollsTo(start + 12)
    for (let press = 0; press < 6; press++) await editor.press('ArrowLeft')
    await page.waitForSelector('text=writing')
    const turned = await editor.pictureFrame()
    await editor.rollsTo(turned + 24)
    await editor.press('Space', 'Escape')
    const doc = await editor.document()
    const points = rideOf(doc, rain.trackId, 'level')
    expect(points.length).toBeGreaterThan(1)
    // It begins where the hand did, not where playing did, comes down by six decibels, and stays there until the stop.
    expect(points[0]!.at / 2000).toBeGreaterThanOrEqual(start + 11)
    const { levelRide } = ridesOf(doc, rain.trackId)
    expect(rideValue(levelRide!, (turned + 20) * 2000)).toBeCloseTo(-6, 0)
    expect(points.at(-1)!.at / 2000).toBeGreaterThan(turned + 20)
    await editor.press('Control+z')
    expect((await editor.document()).ride).toEqual(before.ride)
    await page.close()
  }, 120_000)

  it('follows the slider while it is pulled, and is one step when the reel is stopped by key with the hand still on it', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const rain = [...(await editor.document()).clip.values()].find(
      (clip) => clip.name === 'Rain on slate, wide',
    )!
    await editor.goTo('1:00:03:0')
    await page.click(`[data-clip="${rain.id}"]`, { position: { x: 20, y: 160 } })
    await editor.press('Shift+R', 'Space')
    const start = await editor.pictureFrame()
    await editor.rollsTo(start + 6)
    const slider = (await page.locator('[aria-label="Ride the level"]').boundingBox())!
    await page.mouse.move(slider.x + slider.width * 0.8, slider.y + slider.height / 2)
    await page.mouse.down()
    for (const part of [0.7, 0.6, 0.5, 0.4])
      await page.mouse.move(slider.x + slider.width * part, slider.y + slider.height / 2, { steps: 3 })
    await editor.rollsTo((await editor.pictureFrame()) + 12)
    await editor.press('Space')
    await page.mouse.up()
    await editor.press('Escape')
    const values = rideOf(await editor.document(), rain.trackId, 'level').map((point) => point.value)
    // From 0 dB at four fifths of the way down to where the hand came to rest, two fifths of it.
    expect(values.at(-1)).toBeGreaterThan(-28)
    expect(values.at(-1)).toBeLessThan(-20)
    expect(Math.max(...values)).toBeGreaterThan(-8)
    await editor.press('Control+z')
    expect((await editor.document()).ride.size).toBe(0)
    await page.close()
  }, 120_000)

  it('is copied to another track, bent and raised on its card', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const [first, second] = tracksInOrder(await editor.document())
    await editor.press('i')
    await page.click(`[aria-label$="level, pan and treatment of ${first!.name}"]`)
    const lane = (await page.locator(`[data-ride="${first!.id}"]`).boundingBox())!
    await page.mouse.click(lane.x + lane.width * 0.8, 300)
    await page.mouse.click(lane.x + lane.width * 0.4, 500)
    await expect.poll(() => page.locator('[data-ride-part] li select').count()).toBe(2)
    await page.locator('[data-ride-part] li select').first().selectOption('s')
    await page.click('[data-ride-part] >> text=Copy')
    await page.click(`[aria-label$="level, pan and treatment of ${second!.name}"]`)
    await page.click('[data-ride-part] >> text=Lay at the gate')
    await expect.poll(() => page.locator('[data-ride-part] li select').count()).toBe(2)
    await page.click('[aria-label="Lower the whole ride by 1"]')
    const doc = await editor.document()
    const [own, laid] = [first!, second!].map((track) => rideOf(doc, track.id, 'level')) as [
      ReturnType<typeof rideOf>,
      ReturnType<typeof rideOf>,
    ]
    expect(laid.map(({ bend }) => bend)).toEqual(['s', 'straight'])
    expect(laid.map(({ value }) => value)).toEqual(
      own.map(({ value }) => expect.closeTo(value - 1, 5) as number),
    )
    expect(laid[1]!.at - laid[0]!.at).toBe(own[1]!.at - own[0]!.at)
    for (let undo = 0; undo < 5; undo++) await editor.press('Control+z')
    expect((await editor.document()).ride.size).toBe(0)
    await page.close()
  }, 120_000)
})

describe('tracks', () => {
  it('are moved by their heads, folded into folders, and keep their columns on paper', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = tracksInOrder(await editor.document())
    const order = async (): Promise<string[]> =>
      tracksInOrder(await editor.document()).map((track) => track.id)
    await page.click('nav >> text=Reel')
    await page.click('text=Freeze the columns')
    await page.click('nav >> text=Sheet')
    await editor.seesPicture()
    // The first track is dragged behind the second one.
    const head = (await page.locator(`[data-head="${before[0]!.id}"] button`).first().boundingBox())!
    const width = (await page.locator(`[data-head="${before[0]!.id}"]`).boundingBox())!.width
    await page.mouse.move(head.x + 20, head.y + 5)
    await page.mouse.down()
    await page.mouse.move(head.x + width * 1.2, head.y + 5, { steps: 4 })
    await page.mouse.move(head.x + width * 1.7, head.y + 5, { steps: 4 })
    await page.waitForSelector('[data-gap]')
    await page.mouse.up()
    await expect.poll(order).toEqual([before[1]!, before[0]!, ...before.slice(2)].map((track) => track.id))
    expect(tracksAsPrinted(await editor.document()).map((track) => track.id)).toEqual(
      before.map((track) => track.id),
    )

    for (const track of [before[1]!, before[0]!]) {
      await page.click(`[aria-label$="level, pan and treatment of ${track.name}"]`)
      await page.fill('[aria-label="Folder of the track"]', 'Signal box')
      await editor.press('Enter')
    }
    const wide = await page.locator('[data-head]').count()
    await page.click('[aria-label="Fold Signal box together"]')
    await page.waitForSelector('[data-folder="Signal box"]')
    expect(await page.locator(`[data-head="${before[0]!.id}"]`).count()).toBe(0)
    await page.click('[data-folder="Signal box"] button')
    await expect.poll(() => page.locator('[data-head]').count()).toBe(wide)
    await page.click(`[aria-label$="level, pan and treatment of ${before[0]!.name}"]`)
    await page.selectOption('[aria-label="Width of the track"]', 'mono')
    await page.selectOption('[aria-label="Ink of the track"]', 'wine')
    expect((await editor.document()).track.get(before[0]!.id)).toMatchObject({
      width: 'mono',
      ink: 'wine',
      folder: 'Signal box',
      column: 1,
    })
    for (let undo = 0; undo < 6; undo++) await editor.press('Control+z')
    expect(tracksInOrder(await editor.document())).toEqual(before)
    await page.close()
  }, 120_000)
})

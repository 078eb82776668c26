import { writeFileSync } from 'node:fs'
import path from 'node:path'
import { documentOf, type ReelState } from '@yodel/core'
import type { Page } from 'playwright-core'
import { beforeAll, describe, expect, it } from 'vitest'
import { onEmpty } from './support/empty.js'

const stage = onEmpty()
let page: Page
beforeAll(() => {
  page = stage.page
})

const movie = (name: string, rate: number): string =>
  stage.make(
    name,
    ...['-f', 'lavfi', '-i', `testsrc=size=320x180:rate=${rate}:duration=2`],
    ...['-c:v', 'libx264', '-preset', 'ultrafast'],
  )

describe('bringing in a picture', () => {
  it('makes a reel on an empty start, refuses a broken movie in words, and takes a whole one from this computer', async () => {
    await page.goto(stage.server.url)
    await page.getByRole('button', { name: 'Make the first reel' }).click()
    await page.getByLabel('Show', { exact: true }).fill('Harbour')
    await page.getByRole('button', { name: 'Make the reel' }).click()
    await page.getByText('No picture yet').waitFor()

    const broken = path.join(stage.folder, 'broken.mov')
    writeFileSync(broken, 'this is no movie')
    await page.setInputFiles('input[type=file]', broken)
    await page.getByText('That movie can’t be used').waitFor()
    expect(await page.getByRole('alert').textContent()).toContain('broken.mov')

    await page.setInputFiles('input[type=file]', movie('harbour.mp4', 24))
    await page.waitForFunction(
      () => (document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] === '0',
      null,
      { timeout: 60_000 },
    )
    await page.keyboard.press('End')
    await page.waitForFunction(
      () => (document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] === '47',
    )
    expect(await page.locator('[data-timecode]').textContent()).toBe('01:00:01:23')
    expect(await page.getByRole('alert').count()).toBe(0)
  })

  it('has the frame that a typed time leads to ready before Enter, and decodes each once', async () => {
    await page.evaluate(() => {
      const decoded: number[] = []
      const { postMessage } = Worker.prototype
      Worker.prototype.postMessage = function (order: { frame?: number; place?: number }, transfer?: object) {
        if (order.place !== undefined && order.frame !== undefined) decoded.push(order.frame)
        postMessage.call(this, order, transfer)
      }
      Object.assign(window, { decoded })
    })
    // More jumps than frames are held; none of them to where it stands already.
    for (let jump = 0; jump < 30; jump++) {
      const frame = 1 + ((jump * 17) % 46)
      await page.keyboard.press('.')
      await page.keyboard.insertText(`1:00:${String(Math.floor(frame / 24)).padStart(2, '0')}:${frame % 24}`)
      await page.waitForFunction(
        (wanted) => (window as unknown as { decoded: number[] }).decoded.includes(wanted),
        frame,
      )
      await page.keyboard.press('Enter')
      await page.waitForFunction(
        (wanted) => (document.querySelector('[data-picture]') as HTMLElement).dataset['frame'] === wanted,
        String(frame),
      )
    }
    const decoded = await page.evaluate(() => (window as unknown as { decoded: number[] }).decoded)
    expect(decoded).toHaveLength(30)
    expect(new Set(decoded).size).toBe(30)
    await page.keyboard.press('End')
  })

  it('shows frames where no memory is shared, and goes on after one that came damaged', async () => {
    const other = await page.context().newPage()
    await other.route(page.url(), async (route) => {
      const response = await route.fetch()
      const headers = { ...response.headers() }
      delete headers['cross-origin-embedder-policy']
      await route.fulfill({ response, headers })
    })
    let damaged = 0
    await other.route('**/frames', (route) =>
      damaged++ > 0
        ? route.continue()
        : route.fulfill({ status: 206, body: Buffer.from([0, 0, 1, 0x65, 0xff, 0xff, 0, 0, 1]) }),
    )
    await other.goto(page.url())
    await other.getByText(/^The picture can’t be decoded/).waitFor()
    await other.locator('[data-picture][data-frame="0"]').waitFor()
    expect(damaged).toBeGreaterThan(1)
    expect(await other.getByText(/^The picture can’t be decoded/).count()).toBe(0)
    expect(await other.evaluate(() => crossOriginIsolated)).toBe(false)
    expect(await page.evaluate(() => crossOriginIsolated)).toBe(true)
    await other.close()
  })

  it('shows the same frame in a window of its own', async () => {
    const window = await page.context().newPage()
    await window.goto(`${stage.server.url}/picture`)
    const sees = (frame: string) =>
      window.waitForFunction(
        (wanted) =>
          (document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] === wanted,
        frame,
      )
    await sees('47')
    await page.bringToFront()
    await page.keyboard.press('Home')
    await sees('0')
    await window.close()
  })

  it('keeps an earlier version when another one comes, and moves the picture by its offset', async () => {
    await page.click('nav >> text=Reel')
    await page.click('text=New version')
    await page.getByLabel('Path of a movie on the server').fill(movie('harbour 2.mp4', 24))
    await page.keyboard.press('Enter')
    await page
      .locator('li', { hasText: 'harbour 2.mp4' })
      .locator('text=current')
      .waitFor({ timeout: 20_000 })
    await page.locator('li', { hasText: 'harbour 2.mp4' }).getByLabel('Offset in frames').fill('12')
    await page.keyboard.press('Enter')
    await page.click('nav >> text=Sheet')
    await page.locator('[data-picture][data-frame]').waitFor({ timeout: 60_000 })
    const sees = (frame: string) =>
      page.waitForFunction(
        (wanted) =>
          (document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] === wanted,
        frame,
        { timeout: 60_000 },
      )
    await page.keyboard.press('.')
    await page.keyboard.type('1:00:01:00')
    await page.keyboard.press('Enter')
    await sees('12')
    await page.keyboard.press('Control+z')
    await sees('24')
  })

  it('says loudly that a movie runs at another rate than the reel', async () => {
    await page.goto(stage.server.url)
    await page.getByRole('button', { name: 'New reel' }).click()
    await page.getByLabel('Show', { exact: true }).fill('Harbour')
    await page.getByRole('button', { name: 'Make the reel' }).click()
    await page.getByLabel('Path of a movie on the server').fill(movie('other.mp4', 25))
    await page.keyboard.press('Enter')
    const banner = page.getByRole('alert')
    await banner.waitFor({ timeout: 60_000 })
    expect(await banner.textContent()).toContain('other.mp4 runs at 25 fps, the reel at 24 fps')
    // Nothing lies on the reel yet, so the reel can become what the movie is.
    await page.click('text=Make the reel 25 fps')
    await banner.waitFor({ state: 'detached' })
    await page.keyboard.press('End')
    await page.waitForFunction(
      () => (document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] === '49',
    )
  })

  it('puts it into the reel it was brought in for, although one is in another by then', async () => {
    const here = (): string => page.url().split('/').at(-1) ?? ''
    const cutsOf = async (reel: string): Promise<string[]> => {
      const { records } = (await (
        await page.request.get(`${stage.server.url}/api/reels/${reel}`)
      ).json()) as ReelState
      return [...documentOf(records).cut.values()].map(({ name }) => name)
    }
    const other = here()
    const before = await cutsOf(other)
    await page.goto(stage.server.url)
    await page.getByRole('button', { name: 'New reel' }).click()
    await page.getByLabel('Show', { exact: true }).fill('Quay')
    await page.getByRole('button', { name: 'Make the reel' }).click()
    const path = page.getByLabel('Path of a movie on the server')
    await path.fill(movie('quay.mp4', 24))
    const reel = here()
    await page.keyboard.press('Enter')
    await page.getByRole('link', { name: 'Yodel, all shows' }).click()
    await page.locator(`[data-reel="${other}"]`).click()
    await page.locator('[data-timecode]').waitFor()
    await expect.poll(() => cutsOf(reel)).toEqual(['quay.mp4'])
    expect([here(), await cutsOf(other)]).toEqual([other, before])
  })
})
